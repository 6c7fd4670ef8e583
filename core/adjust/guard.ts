import { type Tolerance, aim } from "../metrology";
import type { Belief, Expected, Knob } from "./types";

/**
 * What holds of every move that is told to a person, whatever engine proposes it: a hand behind a cover turns what the screen says.
 */

/** Under this chance nothing is turned: there is something to look at first. */
export const LEAST_CHANCE = 0.2;
/** Share of all responses that must stay under a knob’s safe limit. */
export const SAFE_SHARE = 0.99;

/** How the knob and what it moves stand now. */
export interface Guarded {
  readonly knob: Pick<Knob, "direction" | "safe">;
  readonly tolerance: Tolerance;
  readonly belief: Pick<Belief, "value" | "pInside">;
  /** Size of a response that is passed by one knob in a hundred only, reading units per knob unit, ≥ 0. */
  readonly strongest: number;
}

/**
 * Which way lies the middle of the tolerance: 1 up, −1 down. Of one limit alone, away from that limit.
 *
 * @param value unit of the tolerance
 */
export function towards(tolerance: Tolerance, value: number): number {
  const { lower, target, upper } = tolerance;
  if (target === undefined && lower === undefined) return -1;
  if (target === undefined && upper === undefined) return 1;
  return Math.sign(aim(tolerance) - value);
}

/**
 * Whether a move heads for the middle of the tolerance and cannot pass the safe limit: asked of every amount before any is weighed.
 *
 * @param amount in the knob’s unit, signed
 */
export function heads({ knob, tolerance, belief, strongest }: Guarded, amount: number): boolean {
  if (Math.sign(amount) !== towards(tolerance, belief.value) * knob.direction) return false;
  const raises = amount * knob.direction > 0;
  return !raises || knob.safe === undefined || belief.value + strongest * Math.abs(amount) <= knob.safe;
}

/**
 * Whether a move may be told: it heads the right way, stays safe, brings it in spec more likely than standing still does, and not merely
 * by luck.
 *
 * @param amount in the knob’s unit, signed
 * @param expected what it is said to give
 */
export function mayBeTold(now: Guarded, amount: number, { pInside }: Pick<Expected, "pInside">): boolean {
  return heads(now, amount) && pInside >= LEAST_CHANCE && pInside >= now.belief.pInside;
}
