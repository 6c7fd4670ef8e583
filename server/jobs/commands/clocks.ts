import { and, eq, inArray, isNull } from "drizzle-orm";
import { type Standing, type Timer, analysisOf, standingTimers } from "../../../core/job";
import { type Task, planOf, warmTask } from "../../../core/sheet";
import { burstState } from "../../../core/startup";
import { planSeconds } from "../../../core/temperature";
import { WARM_LEVELS, WARM_WORDS, type WarmLevel, heatUpBound, predictWarmUp, tooFast } from "../../../core/warmup";
import type { Transaction } from "../../../db/client";
import { warmUpTimes } from "../../../db/queries/warm-up";
import { entry, timer } from "../../../db/schema";
import { moment } from "../../moment";
import { Refused } from "../../refused";
import { type Target, inJob, keys } from "./in-job";
import { taskOf } from "./task-of";

/** Clocks on the server: they outlive reloads, sign-outs and restarts. */

/** Starts a timed task: a burst, a purge. The heat starts its own. */
export function startTimer(target: Target, input: { task: string }) {
  return inJob(target, "timer-start", input, async (tx, job, standing) => {
    const { task, done } = taskOf(standing(), input.task);
    const now = moment().getTime();
    const earlier = standing().records.timers.get(task.id) ?? [];
    // Two taps, or two people, at the same moment: one clock.
    if (earlier.some((t) => t.endedAt === null && (t.dueAt > now || task.kind !== "bursts"))) return;
    if (done && task.kind !== "plan") throw new Refused("That is done already.");
    if (task.kind === "plan") {
      const made = planOf(task.plan, analysisOf(standing()));
      if ("missing" in made) throw new Refused(made.missing);
      return insertTimer(tx, target, task, planSeconds(made.steps), target.commandId);
    }
    if (task.kind === "timer") return insertTimer(tx, target, task, task.seconds, target.commandId);
    if (task.kind !== "bursts") throw new Refused("This task has no timer. Load the page again.");
    const state = burstState(earlier, now, task.rule);
    if (state.phase === "pause")
      throw new Refused(`Off for ${Math.ceil((state.until - now) / 1000)} s more, then on again.`);
    if (state.phase === "fault") throw new Refused("Not full after two tries. Find out why before another try.");
    if (state.phase === "resting" || state.phase === "done") throw new Refused("That is done already.");
    // A burst that ran over its limit unattended is closed as what it was.
    await tx
      .update(timer)
      .set({ endedAt: new Date(earlier.at(-1)?.dueAt ?? now), endedBy: target.by.id, outcome: "alarm" })
      .where(and(running(target), eq(timer.task, task.id)));
    await insertTimer(tx, target, task, task.rule.limit, target.commandId);
  });
}

/** Clocks of this job that were not ended. */
const running = ({ by, jobId }: Target) =>
  and(eq(timer.workshopId, by.workshop.id), eq(timer.jobId, jobId), isNull(timer.endedAt));

function insertTimer(tx: Transaction, target: Target, task: Task, seconds: number, id: string) {
  const at = moment();
  return tx
    .insert(timer)
    .values({
      ...keys(target),
      id,
      at,
      task: task.id,
      label: task.label,
      dueAt: new Date(at.getTime() + 1000 * seconds),
    })
    .then(() => undefined);
}

/** Heat is on: the clocks of the warm-up run, each as long as this machine is expected to take. */
export async function startWarmUp(
  tx: Transaction,
  { job, kind, card }: Standing,
  target: Target,
  levels: readonly WarmLevel[],
  at: Date = moment(),
) {
  const earlier = await warmUpTimes(tx, target.by.workshop.id, job.machine.id);
  const runs = new Set(job.timers.filter((t) => t.endedAt === null).map((t) => t.task));
  for (const level of levels.filter((l) => !runs.has(warmTask(l)))) {
    const usual = {
      "boiler-ready": kind.warmUp.boilerReady,
      "machine-warm": kind.warmUp.machineWarm,
      "heat-soaked": kind.warmUp.heatSoaked ?? 120,
    };
    const { seconds } = predictWarmUp(
      60 * usual[level],
      earlier.get(level) ?? [],
      level === "boiler-ready" ? shortestFor({ kind, card }) : 0,
    );
    await tx.insert(timer).values({
      ...keys(target),
      id: crypto.randomUUID(),
      at,
      task: warmTask(level),
      label: WARM_WORDS[level],
      dueAt: new Date(at.getTime() + 1000 * seconds),
    });
  }
}

/** A level chosen after the heat went on is timed from then. */
export async function heatLevel(tx: Transaction, standing: Standing, target: Target, level: WarmLevel): Promise<void> {
  const known = standing.records.timers;
  const heat = known.get(warmTask("boiler-ready"))?.at(-1);
  if (heat && !known.has(warmTask(level))) await startWarmUp(tx, standing, target, [level], new Date(heat.startedAt));
}

/** The heat was not on after all: its clocks end as what they were. */
export async function stopWarmUp(tx: Transaction, { plan }: Standing, target: Target, task: string): Promise<void> {
  const heat = plan.flatMap((s) => s.tasks).find((t) => t.id === task);
  if (heat?.kind !== "heat") return;
  await tx
    .update(timer)
    .set({ endedAt: moment(), endedBy: target.by.id, outcome: "alarm" })
    .where(and(running(target), inArray(timer.task, WARM_LEVELS.map(warmTask))));
}

/** An end taken back: a level of warm-up goes on from when the heat was switched on; anything else is started anew. */
export async function runOn(tx: Transaction, { plan }: Standing, target: Target, ended: Timer): Promise<void> {
  const task = plan.flatMap((s) => s.tasks).find((t) => t.id === ended.task);
  if (task?.kind !== "warm") return;
  const { label, dueAt, at } = ended;
  await tx.insert(timer).values({ ...keys(target), id: crypto.randomUUID(), task: ended.task, label, dueAt, at });
}

/** No machine of this model is hot sooner, whatever its water and mains. */
function shortestFor({ kind, card }: Pick<Standing, "kind" | "card">): number {
  if (!kind.heating || !(card.boilerLitres > 0) || !(card.elementWatts > 0)) return 0;
  return heatUpBound(
    { watts: card.elementWatts, litres: card.boilerLitres, to: kind.heating.to },
    kind.boiler !== "single",
  );
}

/** After a fault: the cause was found and cleared, and the tries begin anew. Those before stay on record with their times. */
export function tryAnew(target: Target, input: { task: string; found: string }) {
  return inJob(target, "try-anew", input, async (tx, job, standing) => {
    const { task } = taskOf(standing(), input.task);
    if (task.kind !== "bursts") throw new Refused("This task is not run in tries. Load the page again.");
    const tries = standingTimers(job).filter((t) => t.task === task.id);
    if (burstState(standing().records.timers.get(task.id) ?? [], moment().getTime(), task.rule).phase !== "fault")
      throw new Refused("There are tries left. Nothing changed.");
    const value = { form: "struck" as const, reason: input.found };
    await tx
      .update(timer)
      .set({ endedAt: moment(), endedBy: target.by.id, outcome: "alarm" })
      .where(and(running(target), eq(timer.task, task.id)));
    await tx
      .insert(entry)
      .values(
        tries.map((t) => ({ ...keys(target), id: crypto.randomUUID(), task: task.id, value: { ...value, of: t.id } })),
      );
  });
}

/** Ends a clock: done, or stopped by an alarm. Ended twice is ended once. */
export function endTimer(target: Target, input: { task: string; outcome: "done" | "alarm"; sure: boolean }) {
  return inJob(target, "timer-end", input, async (tx, job, standing) => {
    const { task } = taskOf(standing(), input.task);
    const open = job.timers.findLast((t) => t.task === input.task && t.endedAt === null);
    if (!open) {
      const last = job.timers.findLast((t) => t.task === input.task);
      if (last?.outcome === input.outcome) return;
      throw new Refused(
        last
          ? `Already ended by ${last.endedBy}. Nothing changed: take it back to run it again.`
          : "No timer is running for this task. Start it first.",
      );
    }
    const now = moment();
    if (task.kind === "bursts" && now > open.dueAt && input.outcome === "done")
      throw new Refused(`Over ${task.rule.limit} s: the control has stopped it. It counts as an alarm.`);
    if (task.kind === "timer" && input.outcome === "done" && now < open.dueAt && !input.sure)
      throw new Refused(`It runs ${Math.ceil((open.dueAt.getTime() - now.getTime()) / 1000)} s more.`);
    if (task.kind === "warm" && task.level === "boiler-ready" && !input.sure) {
      const { card } = standing();
      const shortest = shortestFor(standing());
      const seconds = (now.getTime() - open.at.getTime()) / 1000;
      if (tooFast(seconds, shortest))
        throw new Refused(
          `Cold water can’t be hot in ${Math.round(seconds)} s: ${card.elementWatts} W need ${Math.round(shortest)} s at least. If the machine was warm when it was switched on, tick the box.`,
          "sure",
        );
    }
    await tx
      .update(timer)
      .set({ endedAt: now, endedBy: target.by.id, outcome: input.outcome })
      .where(and(running(target), eq(timer.id, open.id)));
  });
}
