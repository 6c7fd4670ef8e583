import { and, eq, isNull } from "drizzle-orm";
import { type Standing, analysisOf } from "../../../core/job";
import { type Task, planOf, warmTask } from "../../../core/sheet";
import { burstState } from "../../../core/startup";
import { planSeconds } from "../../../core/temperature";
import { WARM_WORDS, predictWarmUp, shortestHeatUp, tooFast } from "../../../core/warmup";
import type { Transaction } from "../../../db/client";
import { warmUpTimes } from "../../../db/queries/warm-up";
import { timer } from "../../../db/schema";
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
    if (task.kind !== "bursts") throw new Refused("That has no clock to start.");
    const state = burstState(earlier, now, task.rule);
    if (state.phase === "pause")
      throw new Refused(`Off for ${Math.ceil((state.until - now) / 1000)} s more, then on again.`);
    if (state.phase === "fault")
      throw new Refused("Two alarms: no water is arriving. Find out why before another try.");
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
  levels: readonly (keyof typeof WARM_WORDS)[],
) {
  const earlier = await warmUpTimes(tx, target.by.workshop.id, job.machine.id);
  const at = moment();
  for (const level of levels) {
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
      id: level === levels[0] ? target.commandId : crypto.randomUUID(),
      at,
      task: warmTask(level),
      label: WARM_WORDS[level],
      dueAt: new Date(at.getTime() + 1000 * seconds),
    });
  }
}

/** Cold mains water to the switch-off point, with the model's own element and boiler. */
function shortestFor({ kind, card }: Pick<Standing, "kind" | "card">): number {
  if (!kind.heating || !(card.boilerLitres > 0) || !(card.elementWatts > 0)) return 0;
  return shortestHeatUp({ watts: card.elementWatts, litres: card.boilerLitres, to: kind.heating.to }, 15);
}

/** Ends a clock: done, or stopped by an alarm. Ended twice is ended once. */
export function endTimer(target: Target, input: { task: string; outcome: "done" | "alarm"; sure: boolean }) {
  return inJob(target, "timer-end", input, async (tx, job, standing) => {
    const { task } = taskOf(standing(), input.task);
    const open = job.timers.findLast((t) => t.task === input.task && t.endedAt === null);
    if (!open) {
      const last = job.timers.findLast((t) => t.task === input.task);
      if (last?.outcome === input.outcome) return;
      throw new Refused(last ? "That clock was ended already, the other way." : "No clock runs for that.");
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
