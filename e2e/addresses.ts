import { randomUUID } from "node:crypto";
import { and, eq, isNull, notInArray } from "drizzle-orm";
import appRoutes from "../app/routes";
import { KINDS } from "../core/kind";
import { type account, instrument, job, machine, model, owner, ownerLink, specCard, transfer } from "../db/schema";
import { linkTokenOf } from "../server/open-links";
import { database } from "../server/database";

/** Every address the application has, and something of the demo to put where an address names a thing. */

interface Node {
  path?: string;
  index?: boolean;
  file: string;
  children?: Node[];
}

/** One that answers as the router has it: by its pattern, with the file behind it. */
export interface Address {
  readonly pattern: string;
  readonly file: string;
}

const under = (nodes: Node[], above = ""): Address[] =>
  nodes.flatMap((n) =>
    n.children
      ? under(n.children, above)
      : [{ pattern: n.index ? "/" : `${above}/${n.path === "*" ? "*" : n.path}`, file: n.file }],
  );

export const ADDRESSES: readonly Address[] = under(appRoutes as Node[]);

export type Params = Readonly<Record<string, string>>;

/** Kinds without a group have no room for shots. */
const GROUPLESS = Object.values(KINDS)
  .filter((k) => k.groups === 0)
  .map((k) => k.id);

/** What of a workshop stands in an address. A file that has come in is made for it: the demo has none. */
export async function paramsOf({ id: by, workshopId }: typeof account.$inferSelect): Promise<Params> {
  const db = database();
  const first = (t: typeof model | typeof specCard | typeof owner | typeof machine) =>
    db
      .select({ id: t.id })
      .from(t as typeof model)
      .where(eq(t.workshopId, workshopId))
      .orderBy(t.id)
      .limit(1);
  const visit = (state: "open" | "signed") =>
    db
      .select({ id: job.id })
      .from(job)
      .innerJoin(machine, and(eq(machine.workshopId, job.workshopId), eq(machine.id, job.machineId)))
      .innerJoin(model, and(eq(model.workshopId, machine.workshopId), eq(model.id, machine.modelId)))
      .where(and(eq(job.workshopId, workshopId), eq(job.state, state), notInArray(model.kind, GROUPLESS)))
      .orderBy(job.id)
      .limit(1);
  const [[kept], [mo], [card], [owned], [open], [signed], [link], [gauge]] = await Promise.all([
    db.select().from(machine).where(eq(machine.workshopId, workshopId)).orderBy(machine.id).limit(1),
    first(model),
    first(specCard),
    first(owner),
    visit("open"),
    visit("signed"),
    db
      .select()
      .from(ownerLink)
      .where(and(eq(ownerLink.workshopId, workshopId), isNull(ownerLink.revokedAt)))
      .limit(1),
    db
      .select()
      .from(instrument)
      .where(and(eq(instrument.workshopId, workshopId), eq(instrument.inKit, true)))
      .limit(1),
  ]);
  const transferId = randomUUID();
  await db
    .insert(transfer)
    .values({ id: transferId, workshopId, way: "table-in", about: "sweep.csv", state: "done", by });
  return {
    machineId: kept!.id,
    serial: kept!.serial,
    modelId: mo!.id,
    cardId: card!.id,
    instrumentId: gauge!.id,
    jobId: open!.id,
    ownerId: owned!.id,
    signedId: signed!.id,
    photoId: randomUUID(),
    transferId,
    kind: "K7",
    table: "visits",
    rowId: open!.id,
    visitId: open!.id,
    lines: "readings",
    token: linkTokenOf("owner", link!)!,
    "*": "nowhere",
  };
}

/** Of a signed job there is a report, of an open one a sheet. */
export const addressOf = (pattern: string, params: Params) =>
  pattern
    .replace("/:jobId/report", "/:signedId/report")
    .replace(/:(\w+)|\*/g, (all, name: string | undefined) => params[name ?? all] ?? all);
