import { createHash } from "node:crypto";
import { eq } from "drizzle-orm";
import type { FaultKind } from "../../core/adjust";
import { type LoopId, faultWords, moveWords } from "../../core/loop";
import type { Transaction } from "../../db/client";
import type { SheetRow } from "../../db/queries/jobs";
import { job, ownerLink, signature, type SignedDocument, type SignedLoop, type SignedValue } from "../../db/schema";
import { runOf, standing, summarise } from "./events";
import { keepResponses } from "./learning";
import { judged } from "./judged";
import { type Target, inJob, keys, newToken } from "./record";
import { Refused } from "../refused";
import { keepProgrammes } from "./programmes";
import { reportOf } from "./report";
import { type LoopStand, type Stand, standOf } from "./stand";
import { amountFigure } from "./wording";

/** A signature freezes the job: all that was read and done, as one document. */

export function sign(target: Target, input: { name: string; remark: string }) {
  return inJob(target, "sign", input, async (tx, row) => {
    const sign = standOf(row)
      .at(Date.now())
      .find((p) => p.station.id === "sign");
    if (sign?.state !== "ready") throw new Refused(sign?.why ?? "This job takes no more signatures.");
    await writeSignature(tx, row, target, input, new Date());
  });
}

/** Freezes the job: the document, its hash, the state, and the owner's link, in the transaction given. */
export async function writeSignature(
  tx: Transaction,
  row: SheetRow,
  target: Target,
  input: { name: string; remark: string },
  at: Date,
) {
  const stand = standOf(row);
  const document = documentOf(row, stand, target.by, input, at);
  const left = [document.asLeft, ...(document.loops ?? []).map((l) => l.asLeft)].filter((point) => point !== null);
  if (left.some((point) => point.verdict !== "holds" && point.verdict !== "just holds") && !input.remark)
    throw new Refused("A reading left is not inside its tolerance. Say what the owner should know about it.", "remark");
  // What is hashed is what is stored, key for key: anyone can take the document and check it.
  const hash = createHash("sha256").update(JSON.stringify(document)).digest("hex");
  await tx.insert(signature).values({ ...keys(target), at, name: input.name, remark: input.remark, document, hash });
  await keepResponses(tx, row, stand, at);
  await keepProgrammes(tx, row, stand, at);
  // Last: a signed job takes nothing more, this transaction included.
  await tx.update(job).set({ state: "signed", signedAt: at }).where(eq(job.id, row.id));
  await tx.insert(ownerLink).values({ ...keys(target), at, token: newToken() });
}

function documentOf(
  row: SheetRow,
  stand: Stand,
  by: Target["by"],
  input: { name: string; remark: string },
  at: Date,
): SignedDocument {
  const brew = stand.loops.find((l) => l.loop.id === "opv");
  const used = new Map(row.readings.map((r) => [r.instrumentId, r]));
  return {
    version: 3,
    job: row.id,
    type: row.type,
    workshop: by.workshop.name,
    machine: {
      maker: row.machine.model.maker,
      model: row.machine.model.name,
      serial: row.machine.serial,
      site: row.machine.site.name,
      town: row.machine.site.town,
    },
    complaint: row.complaint,
    condition: row.notes.map((n) => (n.area ? `${n.area}: ${n.text}` : n.text)),
    tolerance: row.tolerance,
    school: row.schools.opv,
    rule: row.decisionRule,
    asFound: brew ? pointOf(brew, "as-found", row, stand) : null,
    asLeft: brew ? pointOf(brew, "as-left", row, stand) : null,
    instruments: [...used.values()].map((r) => ({
      name: r.instrument.name,
      calibratedOn: r.instrument.calibratedOn,
      outOfDate: r.instrumentOutOfDate,
    })),
    turns: brew ? standing(brew.entries).flatMap((e) => (e.kind === "move" ? [e.row.amount] : [])) : [],
    finding: findingOf(row, "opv"),
    remark: input.remark,
    technician: input.name,
    startedAt: row.startedAt.toISOString(),
    signedAt: at.toISOString(),
    ...reportOf(row, stand, at),
    loops: stand.loops.filter((l) => l.loop.id !== "opv" && l.entries.length > 0).map((l) => signedLoop(l, row, stand)),
  };
}

function signedLoop(at: LoopStand, row: SheetRow, stand: Stand): SignedLoop {
  const { loop, entries } = at;
  return {
    loop: loop.id,
    title: loop.title,
    judged: loop.judged,
    tolerance: loop.tolerance,
    asFound: pointOf(at, "as-found", row, stand),
    asLeft: pointOf(at, "as-left", row, stand),
    moves: standing(entries).flatMap((e) =>
      e.kind === "move" && loop.hand ? [moveWords(loop.hand, e.row.amount, amountFigure(loop.hand))] : [],
    ),
    finding: findingOf(row, loop.id),
  };
}

function findingOf(row: SheetRow, loop: LoopId): string | null {
  const found = row.findings.find((f) => f.loop === loop);
  if (!found) return null;
  return [faultWords(loop, found.fault as FaultKind).says, found.text].filter(Boolean).join(" ");
}

function pointOf(
  { loop, entries }: LoopStand,
  which: "as-found" | "as-left",
  row: SheetRow,
  stand: Stand,
): SignedValue | null {
  const j = judged(summarise(runOf(entries, which), loop, stand.kind.pump), loop.tolerance, row.decisionRule);
  if (!j) return null;
  const { value, U, k, resolution, pInside, verdict, readings } = j;
  return { value, U, k, resolution, pInside, verdict, readings };
}
