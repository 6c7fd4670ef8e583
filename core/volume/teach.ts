import { type Tolerance, aim } from "../metrology";
import type { Drip } from "./programme";

/** Teaching a button that only stores what a shot of it did: the direct way, by the scale, whatever it gave before. */

export interface Teaching {
  readonly headline: string;
  readonly expect: string;
}

/**
 * Where to stop on the scale, near which second, and what the cup should come to.
 *
 * @param button as the sheet calls it, "Double button"
 * @param tolerance g in the cup
 * @param seconds the shot is expected to take to the target; null while no run of it was timed
 * @example teachWords("Double button", { lower: 34, target: 36, upper: 38 }, { mean: 2, u: 1 }, 25).headline
 * // "Teach the double button again with coffee: stop at 34 g on the scale, near 25 s."
 */
export function teachWords(button: string, tolerance: Tolerance, drip: Drip, seconds: number | null): Teaching {
  const target = aim(tolerance);
  const stop = Math.max(1, Math.round(target - drip.mean));
  const near = seconds === null ? "" : `, near ${Math.round(seconds)} s`;
  const { lower = target - 2, upper = target + 2 } = tolerance;
  return {
    headline: `Teach the ${button.toLowerCase()} again with coffee: stop at ${stop} g on the scale${near}.`,
    expect: `About ${Math.round(drip.mean)} g drips after the stop. Then run it with coffee and weigh: target ${lower.toFixed(0)} to ${upper.toFixed(0)} g.`,
  };
}
