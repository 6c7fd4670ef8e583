import { mean as meanOf, sum } from "d3-array";
import { coverageFactor } from "../metrology";
import { SHOT_SD } from "./programme";

/** A button against its own shots since it was taught. */

export interface Drifted {
  /** g: mean of the last shots, less what the button was left giving. */
  readonly difference: number;
  /** Expanded uncertainty of the difference (95 %). */
  readonly U: number;
  readonly shots: number;
  /** They can’t both be true: coffee, grind, dose or meter have changed. */
  readonly contradicts: boolean;
}

/** Shots looked at, newest first. */
const LAST = 3;

/**
 * Whether the last shots of a button still agree with what it was left giving. Spreads are pooled with what buttons usually do
 * (GUM 4.2.4); a gram and less is no matter to anybody.
 *
 * @param left mean in g and how many shots made it
 * @param grams shots of that button since, newest first
 * @returns null with fewer than two shots
 */
export function driftOf(left: { mean: number; shots: number }, grams: readonly number[]): Drifted | null {
  const last = grams.slice(0, LAST);
  if (last.length < 2) return null;
  const mean = meanOf(last)!;
  const spread = sum(last, (g) => (g - mean) ** 2);
  const dof = 4 + last.length - 1;
  const pooled = Math.sqrt((4 * SHOT_SD ** 2 + spread) / dof);
  const u = pooled * Math.sqrt(1 / last.length + 1 / Math.max(1, left.shots));
  const U = coverageFactor(0.95, dof) * u;
  const difference = mean - left.mean;
  return { difference, U, shots: last.length, contradicts: Math.abs(difference) > Math.max(1, U) };
}
