import { addDays, addMonths } from "date-fns";

/** Litres run to waste through a new cartridge, so that carbon fines stay out of valves and pump. Common practice. */
export const PURGE_LITRES = { least: 15, most: 20 } as const;

export type PurgeStep = { ok: true; left: number; done: boolean } | { ok: false; message: string };

/**
 * One look at the counter of a purge.
 *
 * @param before litres noted last, 0 at first
 * @param total litres run since the change, as read now
 */
export function purgeStep(before: number, total: number): PurgeStep {
  if (!(total >= 0)) return { ok: false, message: "Litres purged are a figure of 0 or more." };
  if (total < before)
    return {
      ok: false,
      message: `${before} L were noted already: the counter can’t go back to ${total} L. Type the total since the change.`,
    };
  if (total > 200)
    return { ok: false, message: `${total} L is more than any cartridge is purged with. Check the number.` };
  return { ok: true, left: Math.max(0, PURGE_LITRES.least - total), done: total >= PURGE_LITRES.least };
}

/**
 * When the cartridge is due: the sooner of its date and its litres.
 *
 * @param capacity litres it treats before a change
 * @param perDay litres used a day; undefined when not known
 * @param months longest time in use
 */
export function cartridgeDue(
  fittedOn: Date,
  { capacity, perDay, months }: { capacity: number; perDay: number | undefined; months: number },
): { on: Date; by: "litres" | "date" } {
  const byDate = addMonths(fittedOn, months);
  if (!perDay || !(perDay > 0)) return { on: byDate, by: "date" };
  const byLitres = addDays(fittedOn, Math.floor(capacity / perDay));
  return byLitres < byDate ? { on: byLitres, by: "litres" } : { on: byDate, by: "date" };
}
