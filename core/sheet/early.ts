import { WARM_WORDS, type WarmLevel } from "../warmup";
import type { SheetRecords } from "./records";
import type { Task } from "./tasks";

/** The task under which a level of warm-up is timed. */
export const warmTask = (level: WarmLevel) => `warm.${level}`;

/** When a level was reached, ms; undefined while it is not, or where this sheet does not time it. */
export function reachedAt(records: Pick<SheetRecords, "timers">, level: WarmLevel): number | undefined {
  const done = records.timers.get(warmTask(level))?.find((t) => t.outcome === "done");
  return done?.endedAt ?? undefined;
}

/**
 * Whether a reading was taken before the chosen level of warm-up: such readings run cool and pale. A sheet on which no heat was
 * switched on says nothing about it.
 *
 * @param at when it was read, ms
 */
export function isEarly(records: Pick<SheetRecords, "timers">, level: WarmLevel, at: number): boolean {
  const started = records.timers.get(warmTask("boiler-ready"))?.[0]?.startedAt;
  if (started === undefined || at < started) return started !== undefined;
  const reached = reachedAt(records, level);
  return reached === undefined || at < reached;
}

/**
 * How long before the chosen level of warm-up something was read, in words: "not warmed up, heat-soaked 35 min later"; said beside the
 * figure, so that it is known when to read again.
 *
 * @param at when it was read, ms
 */
export function notWarm(records: Pick<SheetRecords, "timers">, level: WarmLevel, at: number): string {
  const timers = records.timers.get(warmTask(level)) ?? [];
  const due = timers.at(-1);
  const word = WARM_WORDS[level].toLowerCase();
  if (!due || due.startedAt > at) return `not warmed up: the heat was not on`;
  const minutes = Math.max(1, Math.round(((due.endedAt ?? due.dueAt) - at) / 60_000));
  return `not warmed up: ${word} ${minutes} min later`;
}

/**
 * Whether what was recorded for a task at a moment came before the chosen level of warm-up.
 *
 * @param at when it was recorded, ms
 */
export function isEarlyEntry(records: Pick<SheetRecords, "timers">, level: WarmLevel, task: Task, at: number): boolean {
  return "countsWarm" in task && task.countsWarm === true && isEarly(records, level, at);
}
