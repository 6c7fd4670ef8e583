import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { dayIn } from "../../../core/day";
import { type Job, LEFT_TASK, WORK_TASK, standingEntries } from "../../../core/job";
import { LOOP_IDS, type LoopId, atOf } from "../../../core/knobs";
import { HOWS, type TypedFault, type TypedWork, type WorkLine, faultFrom, workFrom } from "../../../core/work";
import type { Transaction } from "../../../db/client";
import { partRow } from "../../../db/queries/parts";
import { entry, part, partMove, repair, workshop } from "../../../db/schema";
import { moment } from "../../moment";
import { may } from "../../permissions";
import { Refused } from "../../refused";
import { type Target, inJob, keys } from "./in-job";
import { taskOf } from "./task-of";

/** Writes of work and parts: a line with what it took from the shelf and what it makes anew of a knob, and faults left in. */

export interface WorkInput extends Omit<TypedWork, "part" | "loop"> {
  partId: string | null;
  /** How many of it. */
  count: string;
  /** What is not on the shelf was used all the same. */
  sure: boolean;
  loop: string | null;
  /** The line this one corrects. */
  supersedes: string | null;
}

export function addWork(target: Target, input: WorkInput) {
  return inJob(target, "work", input, async (tx, job, standing) => {
    taskOf(standing(), WORK_TASK);
    const { supersedes } = input;
    if (input.photos?.some((id) => !job.photos.some((p) => p.id === id)))
      throw new Refused("One of those photos is not of this job. Load the page again.", "photos");
    const old = supersedes ? lineOf(job, WORK_TASK, supersedes) : undefined;
    const loop = LOOP_IDS.find((id) => id === input.loop) ?? null;
    const line = workFrom(
      {
        ...input,
        loop: loop && standing().loops.some((l) => l.loop.id === loop) ? loop : null,
        part: await chosen(tx, target, input),
      },
      {
        kind: standing().kind,
        card: standing().card,
        lead: may(target.by, "exception"),
        today: dayIn(job.zone, moment().getTime()),
      },
    );
    const before = old?.form === "work" ? old : undefined;
    const taken = await takeParts(tx, target, { before, now: line, sure: input.sure });
    const value = { form: "work" as const, ...line, part: line.part && { ...line.part, taken } };
    await tx
      .insert(entry)
      .values({ ...keys(target), task: WORK_TASK, typed: line.what.slice(0, 200), value, supersedes });
    if (line.loop && before?.loop !== line.loop) await makeAnew(tx, target, job, { loop: line.loop, line });
  });
}

export interface FaultInput extends TypedFault {
  supersedes: string | null;
}

export function addFaultLeft(target: Target, input: FaultInput) {
  return inJob(target, "fault-left", input, async (tx, job, standing) => {
    taskOf(standing(), LEFT_TASK);
    const fault = faultFrom(input, await currencyOf(tx, target.by.workshop.id));
    const { supersedes } = input;
    if (supersedes) lineOf(job, LEFT_TASK, supersedes);
    const typed = fault.what.slice(0, 200);
    await tx
      .insert(entry)
      .values({ ...keys(target), task: LEFT_TASK, typed, value: { form: "left", ...fault }, supersedes });
  });
}

async function currencyOf(tx: Transaction, workshopId: string): Promise<string> {
  const [own] = await tx.select({ currency: workshop.currency }).from(workshop).where(eq(workshop.id, workshopId));
  return own?.currency ?? "";
}

/** The line that is corrected. @throws Refused when it does not stand any more */
function lineOf(job: Job, task: string, id: string) {
  const found = standingEntries(job).find((e) => e.id === id && e.task === task);
  if (!found) throw new Refused("That line was corrected or taken back already. Nothing changed: load the page again.");
  return found.value;
}

async function chosen(tx: Transaction, { by }: Target, { partId, count }: WorkInput): Promise<WorkLine["part"]> {
  if (!partId) return null;
  const found = await partRow(tx, by.workshop.id, partId);
  if (!found) throw new Refused("That part is not one of this workshop’s.", "partId");
  const pieces = Number(count.trim() || "1");
  if (!Number.isInteger(pieces) || pieces < 1 || pieces > 1000) throw new Refused("How many: from 1 to 1000.", "count");
  return { id: found.id, name: found.name, number: found.number, count: pieces, taken: 0 };
}

/**
 * What lies on the shelf after a line was written, corrected or taken back. Never below nothing without a word.
 *
 * @returns how many were taken from it
 */
export async function takeParts(
  tx: Transaction,
  target: Target,
  { before, now, sure }: { before?: WorkLine | undefined; now?: WorkLine | undefined; sure: boolean },
): Promise<number> {
  const done = (line: WorkLine | undefined) => (line?.outcome === "done" && line.part ? line.part : null);
  const [was, is] = [done(before), done(now)];
  if (was && is && was.id === is.id && was.count === is.count) return was.taken;
  if (was && was.taken > 0) await move(tx, target, was.id, was.taken, "Line corrected or taken back.");
  if (!is) return 0;
  const [shelf] = await tx
    .select({ stock: part.stock, name: part.name })
    .from(part)
    .where(and(eq(part.workshopId, target.by.workshop.id), eq(part.id, is.id)))
    .for("update");
  const there = shelf!.stock;
  if (there < is.count && !sure)
    throw new Refused(
      `${shelf!.name}: ${there === 0 ? "none is" : `${there} ${there === 1 ? "is" : "are"}`} on the shelf by the list. If it was used all the same, tick the box and save again: the list stays at what it is not below.`,
      "sure",
    );
  const from = Math.min(there, is.count);
  if (from > 0) await move(tx, target, is.id, -from, now!.what.slice(0, 400));
  return from;
}

async function move(tx: Transaction, { by, jobId }: Target, partId: string, count: number, reason: string) {
  const workshopId = by.workshop.id;
  await tx
    .update(part)
    .set({ stock: sql`${part.stock} + ${count}` })
    .where(and(eq(part.workshopId, workshopId), eq(part.id, partId)));
  await tx
    .insert(partMove)
    .values({ id: randomUUID(), workshopId, partId, count, reason, jobId, by: by.id, at: moment() });
}

/** A knob whose part was renewed is a new one to the engine. */
async function makeAnew(
  tx: Transaction,
  target: Target,
  { readings, moves, repairs }: Job,
  { loop, line }: { loop: LoopId; line: WorkLine },
): Promise<void> {
  const sequence = Math.max(0, ...[...readings, ...moves, ...repairs].map((e) => e.sequence)) + 1;
  const text = `${line.what}: ${HOWS[line.how]}, ${line.reason}`.slice(0, 500);
  await tx.insert(repair).values({ ...keys(target), ...atOf(loop)!, sequence, text });
}
