import { type Shot, secondsAt } from "./log";
import type { Recipe } from "./recipe";

/**
 * The rule by which a shot is kept, in one place for advice and verdict: the cup inside its limits or the method’s band, its seconds in the
 * window as pulled or drawn to the full cup, its taste before both. A shot is one event, held as it was read: shots of one setting differ
 * by far more than scale and clock do.
 */

type Pulled = Pick<Shot, "seconds" | "yield" | "firstDrop" | "choked" | "taste">;

/** Typed to a decimal: floating point must not decide on a limit. */
const EVEN = 1e-9;

/**
 * Whether a figure lies between limits, both included.
 *
 * @param value in the unit of the limits
 */
export function within(
  value: number,
  { lower = -Infinity, upper = Infinity }: { lower?: number | undefined; upper?: number | undefined },
) {
  return value >= lower - EVEN && value <= upper + EVEN;
}

/** How the cup stands: inside its limits, inside the band that the method keeps all the same, or outside of both. */
export function cupHeld({ yield: cup }: Pick<Pulled, "yield">, recipe: Recipe): "inside" | "band" | "outside" {
  if (cup === null) return "outside";
  if (within(cup, recipe.yield)) return "inside";
  return recipe.band && within(cup, recipe.band) ? "band" : "outside";
}

/** In the window drawn along its flow to the full cup; or as it was pulled, where that cup is kept. */
export function inTime(shot: Pulled, recipe: Recipe): boolean {
  const drawn = secondsAt(shot, recipe.yield.target);
  if (drawn !== null && within(drawn, recipe.seconds)) return true;
  return !shot.choked && cupHeld(shot, recipe) !== "outside" && within(shot.seconds, recipe.seconds);
}

/** It tastes as it should, and the recipe goes by taste: the clock says nothing against it then. */
export function tastesRight({ taste }: Pick<Pulled, "taste">, recipe: Recipe): boolean {
  return recipe.byTaste && taste === "balanced";
}

/** It tastes of a fault, and the recipe goes by taste: no clock makes up for it. */
export function tastesOff({ taste }: Pick<Pulled, "taste">, recipe: Recipe): boolean {
  return recipe.byTaste && (taste === "sour" || taste === "bitter");
}
