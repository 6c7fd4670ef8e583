import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import type { Transaction } from "../../db/client";
import { part, partMove } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { moment } from "../moment";
import { need } from "../permissions";
import { Refused } from "../refused";
import { type PartLine, partKey } from "./parts-table";

/** The workshop’s own list of parts: what it keeps, and what came onto the shelf or was counted there. */

export interface PartInput {
  name: string;
  number: string;
  /** Ids of models; none: any. */
  fits: string[];
  reorderAt: number | null;
  price: number | null;
}

export function addPart(by: SignedIn, commandId: string, { stock, ...input }: PartInput & { stock: number }) {
  need(by, "work");
  return once(by, commandId, "part", { ...input, stock }, async (tx) => {
    await refuseSecond(tx, by, input, commandId);
    await tx.insert(part).values({ id: commandId, workshopId: by.workshop.id, ...input, stock });
    if (stock > 0) await note(tx, by, { partId: commandId, count: stock, reason: "Put on the list." }, commandId);
  });
}

export function changePart(by: SignedIn, commandId: string, { id, ...input }: PartInput & { id: string }) {
  need(by, "work");
  return once(by, commandId, "part-change", { id, ...input }, async (tx) => {
    await lockPart(tx, by, id);
    await refuseSecond(tx, by, input, id);
    await tx.update(part).set(input).where(ofHere(by, id));
  });
}

/** What lies there by count: the difference is noted with its reason. */
export function countPart(by: SignedIn, commandId: string, input: { id: string; stock: number; reason: string }) {
  need(by, "work");
  return once(by, commandId, "part-count", input, async (tx) => {
    const { stock } = await lockPart(tx, by, input.id);
    const count = input.stock - stock;
    if (count === 0) return;
    await tx.update(part).set({ stock: input.stock }).where(ofHere(by, input.id));
    await note(
      tx,
      by,
      { partId: input.id, count, reason: input.reason || (count > 0 ? "Came in." : "Counted.") },
      commandId,
    );
  });
}

/** Put away, or taken up again: lines that name it keep it. */
export function keepPart(by: SignedIn, commandId: string, input: { id: string; active: boolean }) {
  need(by, "work");
  return once(by, commandId, "part-keep", input, async (tx) => {
    await lockPart(tx, by, input.id);
    await tx.update(part).set({ active: input.active }).where(ofHere(by, input.id));
  });
}

/** A table read in, whole or not at all: a part of the same name and number is that part, and its shelf is counted anew. */
export function importParts(by: SignedIn, commandId: string, lines: readonly PartLine[]) {
  need(by, "work");
  return once(by, commandId, "part-import", { lines }, async (tx) => {
    const workshopId = by.workshop.id;
    const all = await tx.select().from(part).where(eq(part.workshopId, workshopId)).orderBy(part.id).for("update");
    const known = new Map(all.map((p) => [partKey(p), p]));
    for (const { stock, ...line } of lines) {
      const same = known.get(partKey(line));
      const id = same?.id ?? randomUUID();
      if (same)
        await tx
          .update(part)
          .set({ ...line, stock, active: true })
          .where(ofHere(by, id));
      else await tx.insert(part).values({ id, workshopId, ...line, stock });
      const count = stock - (same?.stock ?? 0);
      if (count !== 0) await note(tx, by, { partId: id, count, reason: "Read in from a table." }, randomUUID());
    }
  });
}

const ofHere = (by: SignedIn, id: string) => and(eq(part.workshopId, by.workshop.id), eq(part.id, id));

async function lockPart(tx: Transaction, by: SignedIn, id: string) {
  const [found] = await tx.select().from(part).where(ofHere(by, id)).for("update");
  if (!found) throw new Refused("That part is not on this workshop’s list. Load the page again.");
  return found;
}

async function refuseSecond(tx: Transaction, by: SignedIn, { name, number }: PartInput, but: string) {
  const all = await tx
    .select({ id: part.id, name: part.name, number: part.number })
    .from(part)
    .where(eq(part.workshopId, by.workshop.id));
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  if (all.some((p) => p.id !== but && same(p.name, name) && same(p.number, number)))
    throw new Refused("A part of this name and number is on the list already.", "name");
}

function note(
  tx: Transaction,
  by: SignedIn,
  move: { partId: string; count: number; reason: string },
  id: string,
): Promise<unknown> {
  return tx.insert(partMove).values({ id, workshopId: by.workshop.id, by: by.id, at: moment(), ...move });
}
