import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { dayIn } from "../../../core/day";
import { type Job, SHOTS_TASK, reasonNeeded, standingShots } from "../../../core/job";
import { type KitInstrument, measure, outOfDate } from "../../../core/metrology";
import { type Pull, type ShotClock, type Tap, LONGEST, problemsOf, tapped } from "../../../core/shot";
import { isEarly } from "../../../core/sheet";
import type { Transaction } from "../../../db/client";
import { tapsOf } from "../../../db/queries/shots";
import { entry, job, machine, shot, shotTap } from "../../../db/schema";
import { type Outcome, once } from "../../command";
import { tell } from "../../events";
import { moment } from "../../moment";
import { sealJob } from "../../proof/seal";
import { Refused } from "../../refused";
import { type Target, inJob, keys, lockJob } from "./in-job";
import { instrumentFor } from "./instruments";

/** Writes of the shots: taps of the running clock, a shot as pulled, and the one used as the recipe. */

export interface ShotInput {
  pull: Pull;
  typed: Record<string, string>;
  scaleId: string | null;
  clockId: string | null;
  supersedes: string | null;
  reason: string;
  /** What is unusual was meant so. */
  sure: boolean;
}

/** Half a tenth and a little: what is claimed of a scale that is not in the kit, g. */
const PLAIN_SCALE = 0.06;

/** Grams carried over from ml, crema or not: crema alone differs by this much from shot to shot, g. From memory. */
const U_BY_VOLUME = 3;

/** Records one shot. On a signed job it is an amendment: beside what was signed, with the reason. */
export function recordShot(target: Target, input: ShotInput) {
  return inJob(
    target,
    "shot",
    input,
    async (tx, found, standing) => {
      const amends = found.state === "signed";
      if (amends && input.reason.length < 3)
        throw new Refused(
          "The job is signed: say why this shot is added now. It will stand as an amendment.",
          "reason",
        );
      if (input.supersedes && input.reason.length < 3)
        throw new Refused("Give the reason for the correction.", "reason");
      const { kind, records } = standing();
      const before = standingShots(found).findLast((s) => !s.amends)?.pull;
      if (kind.groups === 0) throw new Refused("No shots are pulled on this kind of machine.");
      if (input.pull.group > kind.groups)
        throw new Refused(`It has ${kind.groups === 1 ? "one group" : `${kind.groups} groups`}.`, "group");
      const today = dayIn(found.zone, moment().getTime());
      refuseProblems(input, today);
      const scale = input.scaleId
        ? await instrumentFor(
            tx,
            { workshopId: target.by.workshop.id, machineId: found.machine.id },
            input.scaleId,
            "scaleId",
          )
        : null;
      if (scale && scale.quantity !== "mass") throw new Refused("That instrument does not weigh.", "scaleId");
      const u = (grams: number | null, field: string) => uncertaintyOf(scale, new Date(), grams, field);
      await tx.insert(shot).values({
        ...keys(target),
        sequence: sequenceFor(found, input.supersedes),
        pull: input.pull,
        typed: input.typed,
        scale: scale?.name ?? "",
        scaleId: scale?.id ?? null,
        scaleOutOfDate: scale !== null && outOfDate(scale, today),
        uDose: u(input.pull.dose, "dose"),
        uYield: input.pull.byVolume ? U_BY_VOLUME : u(input.pull.yield, "yield"),
        early: isEarly(records, found.level, moment().getTime()),
        clockId: input.clockId,
        amends,
        supersedes: input.supersedes,
        reason: input.reason,
      });
      if (before && !amends && !input.pull.preGround && before.setting !== input.pull.setting)
        await tellGrinders(tx, target, found, input.pull.setting);
      if (amends)
        await sealJob(tx, {
          workshopId: target.by.workshop.id,
          jobId: target.jobId,
          machineId: found.machine.id,
          at: moment(),
          amends: { table: "shot", id: target.commandId },
        });
    },
    "amend",
  );
}

/** A grinder that serves this machine is timed again once its grind was moved here. */
async function tellGrinders(tx: Transaction, target: Target, { machine: served }: Job, setting: number): Promise<void> {
  const workshopId = target.by.workshop.id;
  const grinders = await tx
    .select({ jobId: job.id, revision: job.revision })
    .from(machine)
    .innerJoin(job, and(eq(job.workshopId, machine.workshopId), eq(job.machineId, machine.id), eq(job.state, "open")))
    .where(and(eq(machine.workshopId, workshopId), eq(machine.serves, served.id)));
  for (const { jobId, revision } of grinders) {
    await tx.insert(entry).values({
      ...keys({ ...target, jobId }),
      id: randomUUID(),
      task: "grinder.setting",
      typed: `${setting}, from the shots of ${served.maker} ${served.model} ${served.serial}`,
      value: { form: "figure", value: setting },
    });
    await tx
      .update(job)
      .set({ revision: revision + 1 })
      .where(eq(job.id, jobId));
    await tell(tx, workshopId, jobId, revision + 1);
  }
}

function refuseProblems({ pull, sure }: ShotInput, today: string) {
  const problems = problemsOf(pull, today);
  const never = problems.find((p) => !p.unusual);
  if (never) throw new Refused(never.message, never.field);
  const odd = problems[0];
  if (odd && !sure)
    throw new Refused(`${odd.message} If it was so, tick the box and save again.`, "sure", 422, odd.field);
}

function uncertaintyOf(scale: KitInstrument | null, at: Date, grams: number | null, field: string) {
  if (!scale || grams === null) return PLAIN_SCALE;
  if (grams > scale.highest)
    throw new Refused(`This scale goes to ${scale.highest} g. It can’t have shown that.`, field);
  try {
    return measure([grams], scale, at).u;
  } catch (error) {
    if (error instanceof RangeError) throw new Refused(error.message, field);
    throw error;
  }
}

function sequenceFor({ shots }: Job, supersedes: string | null): number {
  if (!supersedes) return Math.max(0, ...shots.map((s) => s.sequence)) + 1;
  const old = shots.find((s) => s.id === supersedes);
  if (!old) throw new Refused("What should be corrected is not on this sheet.");
  if (shots.some((s) => s.supersedes === supersedes))
    throw new Refused("This shot has been corrected already. Correct the newer one.");
  return old.sequence;
}

/** Takes a shot as the recipe of this machine, grinder and coffee; with a reason where it does not make it by itself. */
export function takeShot(target: Target, input: { shotId: string; reason: string }) {
  return inJob(target, "take-shot", input, async (tx, job, standing) => {
    const found = standingShots(job).find((s) => s.id === input.shotId);
    if (!found) throw new Refused("That shot is not on this sheet, or was corrected since.");
    const wanted = reasonNeeded(standing(), found);
    if (wanted && input.reason.length < 3) throw new Refused(wanted, "reason");
    await tx.insert(entry).values({
      ...keys(target),
      task: SHOTS_TASK,
      value: { form: "accepted", shot: found.id, reason: input.reason },
    });
  });
}

export interface TapInput {
  clockId: string;
  what: Tap | "cleared";
  /** By the phone’s clock, carried over to the server’s. */
  moment: number;
}

/** A moment may lie this far ahead of the server’s clock, and this far back where the line was gone, ms. */
const AHEAD = 3000;
const BACK = 3_600_000;

/**
 * One tap of the shot clock. It is the job’s, not a phone’s: everybody who has the job open sees the same one.
 * @returns what came of it, and the job’s revision with it; 0 where this very tap was there already
 */
export async function tapClock(target: Target, input: TapInput): Promise<{ outcome: Outcome; revision: number }> {
  const { by, jobId, commandId } = target;
  let revision = 0;
  const outcome = await once(by, commandId, "tap", { jobId, ...input }, async (tx) => {
    const mine = await lockJob(tx, target);
    if (mine.state === "signed")
      throw new Refused("This job is signed. A shot added now is typed in, with its reason.");
    const now = moment().getTime();
    if (input.moment > now + AHEAD || input.moment < now - BACK)
      throw new Refused("This phone’s clock is wrong. Load the page again, then start the timer again.");
    await addTap(tx, target, input);
    revision = mine.revision + 1;
    await tx.update(job).set({ revision }).where(eq(job.id, jobId));
    await tell(tx, by.workshop.id, jobId, revision);
  });
  return { outcome, revision };
}

async function addTap(tx: Transaction, target: Target, { clockId, what, moment }: TapInput) {
  const open = await tapsOf(tx, target.by.workshop.id, target.jobId);
  const at = new Date(moment);
  if (open?.clockId !== clockId) {
    if (what !== "pump") throw new Refused("That timer was cleared or its shot saved. Start a new one.");
    if (open && runs(open.clock, moment))
      throw new Refused(`A timer is running on this job already, started by ${open.by}. It is shown here now.`);
    await tx.insert(shotTap).values({ ...keys(target), clockId, what, moment: at });
    return;
  }
  if (what !== "cleared") {
    const next = tapped(open.clock, what, moment);
    if (typeof next === "string") throw new Refused(next);
  }
  await tx.insert(shotTap).values({ ...keys(target), clockId, what, moment: at });
}

const runs = (clock: ShotClock, now: number) =>
  clock.pump !== undefined && clock.stop === undefined && now - clock.pump < 1000 * LONGEST;
