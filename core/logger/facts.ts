import { max, median } from "d3-array";
import type { Trace } from "../shot";

/** What a trace says of its shot. */

export interface TraceFacts {
  /** s from its first line to its last */
  readonly seconds: number;
  /** bar */
  readonly peak: number | null;
  /** bar; the median while it stood above half of its peak: what a plateau is, whatever the ramps before and after it are like */
  readonly plateau: number | null;
  /** s at which the cup held {@link FIRST_DROP} more than at the start */
  readonly firstDrop: number | null;
  /** g in the cup at the end more than at the start */
  readonly cup: number | null;
  /** °C; the median while pressure stood, or over all of it */
  readonly temperature: number | null;
}

/** g that are a first drop, not the scale’s last digit moving. Our choice. */
export const FIRST_DROP = 0.5;

/** Of its peak: under it pressure is building up or running down. */
const STANDS = 0.5;

const present = (values: readonly (number | null)[] = []) => values.filter((v) => v !== null);

/**
 * What its columns say: `null` for what was not logged.
 *
 * @param trace as {@link Trace}: columns of one length, stored units
 */
export function traceFacts({ time, pressure, weight, temperature }: Trace): TraceFacts {
  const peak = max(present(pressure)) ?? null;
  const stands = (i: number) => peak === null || (pressure?.[i] ?? -1) >= STANDS * peak;
  const over = (values: readonly (number | null)[] | undefined) =>
    median(present((values ?? []).filter((_, i) => stands(i)))) ?? null;
  const weights = present(weight);
  const start = weights[0];
  const drop = start === undefined ? -1 : weight!.findIndex((w) => w !== null && w >= start + FIRST_DROP);
  return {
    seconds: time.at(-1)! - time[0]!,
    peak,
    plateau: peak !== null && peak > 0 ? over(pressure) : null,
    firstDrop: drop < 0 ? null : time[drop]!,
    cup: start === undefined ? null : weights.at(-1)! - start,
    temperature: over(temperature),
  };
}

/**
 * A trace with fewer points, for drawing: of each stretch the first line, and the last of all.
 *
 * @param most lines it may have, at least 2
 */
export function thinned(trace: Trace, most: number): Trace {
  const count = trace.time.length;
  if (count <= most) return trace;
  const kept = Array.from({ length: most }, (_, i) => Math.round((i * (count - 1)) / (most - 1)));
  return Object.fromEntries(
    Object.entries(trace).map(([field, values]: [string, readonly (number | null)[]]) => [
      field,
      kept.map((i) => values[i]),
    ]),
  ) as unknown as Trace;
}
