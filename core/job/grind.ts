import { type GrindRate, type TimedDose, fitRate, secondsFor } from "../grinder";
import type { Loop } from "../knobs";
import { formatUncertainty, unitById } from "../quantity";
import { type LogLine, type Logged, counted, logOf } from "./log";
import { kindOf } from "./particulars";

/** The grind of a timed grinder: the rate belongs to it, and the seconds are set anew whenever it moves. */

export interface Timed {
  rate: GrindRate;
  /** Where the grind stands now. */
  setting: number;
}

/** A timed grinder’s rate from its weighed doses, and where its grind stands: as last read, or as set since. */
export function timedOf(job: Logged): Timed | null {
  if (!kindOf(job.particulars).knobs.includes("timer")) return null;
  const read = counted(logOf(job, "basket")).flatMap((line) => (line.kind === "reading" ? [line.row] : []));
  const doses = read.flatMap(({ value, detail: { amount, setting } }): TimedDose[] =>
    amount === undefined || setting === undefined ? [] : [{ seconds: amount, grams: value, setting }],
  );
  const set = job.entries.findLast((e) => e.task === "grinder.setting" && e.value.form === "figure");
  const last = read.at(-1);
  const newer = set && (!last || set.at > last.at) && set.value.form === "figure" ? set.value.value : undefined;
  return { rate: fitRate(doses, job.particulars.card.grindScale), setting: newer ?? last?.detail.setting ?? 0 };
}

/**
 * What was read and moved since the grind stood where it stands now.
 *
 * @param setting where the grind stands now, as its scale shows it
 */
export function sinceGrind(log: readonly LogLine[], setting: number): LogLine[] {
  const other = log.findLastIndex(
    (e) => e.kind === "reading" && e.stands && e.row.detail.setting !== undefined && e.row.detail.setting !== setting,
  );
  const since = log.slice(other + 1);
  // A move before the first dose of this grind belongs to the re-timing: the engine begins where it was weighed.
  const first = since.findIndex((e) => e.kind === "reading");
  return first === -1 ? [] : since.slice(first);
}

/** The grind was moved since the dose was weighed: weighed again, in words; "" where it stands. */
export function doseAgain(log: readonly LogLine[]): string {
  const last = log.at(-1);
  return last?.kind === "grind"
    ? `The grind went from ${last.row.from} to ${last.row.to} since the dose was weighed: weigh it again, a coarser grind doses more.`
    : "";
}

const gram = (x: number) => formatUncertainty(x, 0.1, unitById("g"));

/** Where the amount stands now: as last read, with the moves made since. */
export function amountNow(log: readonly LogLine[], loop: Loop): number | null {
  let at: number | null = null;
  for (const e of counted(log)) {
    if (e.kind === "reading") at = e.row.detail.amount ?? at;
    else if (e.kind === "move" && at !== null) at += e.row.amount * (loop.hand?.sign ?? 1);
  }
  return at;
}

/** After a change of grind: the seconds to set, before anything is weighed; null while the grind stands where it was timed. */
export function retimed(log: readonly LogLine[], loop: Loop, timed: Timed): { seconds: string; words: string } | null {
  const last = counted(log).findLast((e) => e.kind === "reading");
  if (last?.kind !== "reading" || last.row.detail.setting === undefined || last.row.detail.setting === timed.setting)
    return null;
  const to = secondsFor(loop.tolerance, timed.rate, timed.setting);
  const now = amountNow(log, loop);
  const was = now === null ? "" : ` (it stands at ${now.toFixed(1)} s)`;
  const seconds = to.seconds.toFixed(1);
  return {
    seconds,
    words: `The grind went from ${last.row.detail.setting} to ${timed.setting} since it was timed. Set ${seconds} ± ${gram(2 * to.uSeconds)} s${was}: expect ${to.grams.toFixed(1)} ± ${gram(2 * to.u)} g. Then weigh one.`,
  };
}
