import { SHOT_NOISE, type Belief, at, type Grinder } from "./belief";
import type { Shot } from "./log";
import type { Recipe } from "./recipe";
import type { SchoolsOf } from "../school";

/** What an advice is made of: the question, and the one thing to change. */

export type NotTheGrind =
  | "stale-coffee"
  | "cold"
  | "channel"
  | "low-pressure"
  | "dose-off"
  | "contradiction"
  | "died-off"
  | "too-hot"
  | "too-cool"
  | "sour-slow"
  | "bitter-fast"
  /** What a definition says of pressure or temperature is not so, and all the rest is. */
  | "beside-grind";

export type Change =
  /** Steps finer; negative is coarser. */
  | {
      readonly kind: "grind";
      readonly finer: number;
      readonly setting: number;
      /** Where one setting alone is a guess: the ones to try. */
      readonly range?: readonly [number, number];
    }
  | { readonly kind: "dose"; readonly by: number }
  /** The grind is right, the cup is not: where to stop, g. */
  | { readonly kind: "yield"; readonly to: number }
  /** No setting of this grinder makes the time with this dose: the end it stops at, the seconds there, and the grams that would bring it in; 0 where no basket takes that. */
  | { readonly kind: "reach"; readonly end: number; readonly seconds: number; readonly by: number }
  | { readonly kind: "same"; readonly because: "not-sure-yet" }
  | { readonly kind: "check"; readonly cause: NotTheGrind }
  | { readonly kind: "keep" };

export interface DialIn {
  change: Change;
  /** Seconds expected of the next shot, and twice its standard deviation; null where nothing is to be expected. */
  expected: { seconds: number; spread: number } | null;
  /** That the next shot lies in the window, after the change. */
  pInside: number;
  /** That window, s, where the taste has moved it away from the recipe’s. */
  window?: { lower: number; upper: number };
  /** The newest shot is in spec by the band of the cup: it may be used as it is. */
  near?: boolean;
  /** One sentence. */
  why: string;
}

export interface DialInQuestion {
  readonly recipe: Recipe;
  readonly shots: readonly Shot[];
  readonly grinder: Grinder;
  readonly school: SchoolsOf["grindOrDose"];
  /** What moves the water's temperature on this machine; left out where nothing does. */
  readonly water?: "display" | "wait" | "flush" | undefined;
  /** Lowest and highest setting of the grinder, where they are known. */
  readonly ends?: readonly [number, number];
  /** The setting that was taken as the recipe, and how many shots there were by then. */
  readonly taken?: { readonly setting: number; readonly shots: number } | null;
  /** Accept when the probability inside is at least this. */
  readonly accept?: number;
}

/** A dose this far from the target was meant so: what is learnt then belongs to it, g. */
const MEANT = 0.35;

/** The dose that what is learnt belongs to: the target, unless another one was meant. */
export function doseInUse(last: Shot, { dose }: Recipe): number {
  return Math.abs(last.dose - dose.target) > MEANT ? last.dose : dose.target;
}

/**
 * Seconds expected of a shot at a setting, and twice their standard deviation.
 *
 * @param setting as the grinder’s scale shows it
 */
export function expectedAt(belief: Belief, setting: number): DialIn["expected"] {
  const { mean, variance } = at(belief, setting);
  const sd = Math.hypot(Math.sqrt(variance), SHOT_NOISE);
  const seconds = Math.exp(mean);
  return { seconds, spread: 2 * seconds * sd };
}
