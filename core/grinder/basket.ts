import { type Tolerance, aim } from "../metrology";

/** Baskets, and what coffee goes into them. */

export const BASKET_IDS = ["single", "double"] as const;
export type BasketId = (typeof BASKET_IDS)[number];

export interface Basket {
  readonly label: string;
  /** Coffee to begin with, and what the basket takes, g. */
  readonly usual: number;
  readonly least: number;
  readonly most: number;
}

/** 18 g double is the usual centre, 14 to 20. Common practice; the single from memory. */
export const BASKETS: Readonly<Record<BasketId, Basket>> = {
  single: { label: "single basket", usual: 9, least: 6, most: 11 },
  double: { label: "double basket", usual: 18, least: 14, most: 20 },
};

/** How far a weighed dose may lie from what is wanted, g. Common practice, from memory. */
export const DOSE_MARGIN = 0.5;

/**
 * The limits on a dose about its target.
 *
 * @param target g wanted in the basket
 */
export function doseTolerance(target: number): Required<Tolerance> {
  return { lower: target - DOSE_MARGIN, target, upper: target + DOSE_MARGIN };
}

/**
 * Too little or too much in the basket: what to do with this very dose, before any knob is turned. Common practice.
 *
 * @param dose weighed, g
 */
export function overUnder(dose: number, tolerance: Tolerance): string | null {
  const off = dose - aim(tolerance);
  const { lower = -Infinity, upper = Infinity } = tolerance;
  const size = `${Math.abs(off).toFixed(1)} g`;
  if (dose > upper)
    return `${size} over: spoon it out before tamping. Pulled as it is the pressure stands high and the shot slow.`;
  if (dose < lower)
    return `${size} under: grind it on top before tamping. Pulled as it is the pressure stands low and the shot fast.`;
  return null;
}

export const LEVELS = ["below", "level", "above"] as const;
export type TampedLevel = (typeof LEVELS)[number];

/** Without a scale: the tamped coffee stands level with the collar line of the tamper. Common practice. */
export function depthCheck(level: TampedLevel): string {
  return {
    below: "The coffee lies deeper than the collar line: too little. About half a gram more, tamp, look again.",
    level: "Level with the collar line: about the dose of this basket, within a gram. A scale tells more.",
    above: "The collar line stands proud of the rim: too much. About half a gram out, tamp, look again.",
  }[level];
}

/** Beans over the burrs, cm: with less, dose and time wander. Common practice. */
export const LEAST_HOPPER_CM = 2.5;

/** What the level in the hopper means for what is timed next. */
export const HOPPER = {
  enough: `over ${LEAST_HOPPER_CM} cm of beans`,
  low: `under ${LEAST_HOPPER_CM} cm, filled up first`,
} as const;

/**
 * Two half doses with a press between: less mess where the basket heaps.
 *
 * @param target g wanted in all
 * @param first g weighed of the first half; undefined before it is ground
 * @returns g of each half, the second made up to the target
 * @throws RangeError when the first half holds all of it already
 */
export function halfDoses(target: number, first?: number): { first: number; second: number } {
  if (first === undefined) return { first: target / 2, second: target / 2 };
  if (!(first > 0)) throw new RangeError("A half dose weighs something.");
  if (first >= target) throw new RangeError("The first half is the whole dose already: spoon some out.");
  return { first, second: target - first };
}
