import type { Tolerance, Verdict } from "../metrology";
import type { SchoolsOf } from "../school";
import { cupHeld, inTime, tastesOff, tastesRight, within } from "./held";
import type { Shot } from "./log";
import { type Pull, secondsFrom, toldFrom } from "./pull";
import { type Recipe, YIELD_BAND, doseRoom } from "./recipe";

/** A shot against its recipe, by the one rule that dialling in goes by too. */

export type Judged = "dose" | "yield" | "seconds" | "taste" | "volume" | "pressure" | "temperature";

export interface ShotVerdict {
  /** In spec; just in by the band of the cup; can’t tell where its seconds are missing; out of spec. */
  readonly verdict: Verdict;
  /** What lies outside the recipe. */
  readonly outside: readonly Judged[];
  /** What could not be held against the recipe, and why. */
  readonly missing: readonly string[];
  /** Why it is kept though a figure lies beside its limits; empty where none does, or it is not kept. */
  readonly notes: readonly string[];
}

/**
 * A shot held against a recipe; what can’t be judged is named in `missing`.
 *
 * @param school whether a fast shot may have more coffee than the recipe says
 */
export function verdictOf(pull: Pull, recipe: Recipe, school: SchoolsOf["grindOrDose"]): ShotVerdict {
  const seconds = secondsFrom(pull, recipe.from);
  const shot: Omit<Shot, "setting"> = { ...toldFrom(pull, recipe), seconds: seconds ?? Number.NaN };
  const cup = cupHeld(shot, recipe);
  const outside: Judged[] = [];
  const hold = (what: Judged, value: number | undefined, tolerance: Tolerance | undefined) => {
    if (value !== undefined && tolerance && !within(value, tolerance)) outside.push(what);
  };
  hold("dose", pull.dose, doseRoom(recipe, school));
  if (shot.yield !== null && cup === "outside") outside.push(inVolume(pull, recipe) ? "volume" : "yield");
  if (!tastesRight(shot, recipe) && !inTime(shot, recipe)) hold("seconds", seconds ?? undefined, recipe.seconds);
  if (tastesOff(shot, recipe)) outside.push("taste");
  hold("pressure", pull.plateau ?? pull.peak, recipe.pressure);
  hold("temperature", pull.setPoint, recipe.temperature);

  const off = outside.length > 0 || shot.yield === null;
  const verdict = off ? "off" : seconds === null ? "can't tell" : cup === "band" ? "just holds" : "holds";
  return { verdict, outside, missing: missingOf(pull, recipe, seconds), notes: off ? [] : notesOf(pull, shot, recipe) };
}

const inVolume = (pull: Pull, recipe: Recipe) => recipe.volume !== undefined && pull.volume !== undefined;

function missingOf(pull: Pull, recipe: Recipe, seconds: number | null): string[] {
  const missing: string[] = [];
  if (pull.yield === null) missing.push("It choked: nothing in the cup to judge.");
  if (seconds === null)
    missing.push(
      recipe.from === "first-drop"
        ? "The shot clock counts from the first drop, and it was not marked."
        : "It was counted from the first drop, and its time was not recorded.",
    );
  if (recipe.volume && pull.volume === undefined && pull.yield !== null)
    missing.push(
      "The definition speaks of millilitres, crema included: read them for a verdict; grams stand in at 36 g for 44 ml.",
    );
  if (recipe.pressure && pull.plateau === undefined && pull.peak === undefined)
    missing.push("The definition sets a pressure: none was recorded.");
  if (recipe.temperature && pull.setPoint === undefined)
    missing.push("The definition sets the water’s temperature: none was recorded.");
  return missing;
}

/** 32 g against 36 lies within the band of 4, 29 s that taste right are kept: said once, at the shot. Common practice. */
function notesOf(pull: Pull, shot: Omit<Shot, "setting">, recipe: Recipe): string[] {
  const notes: string[] = [];
  const { target } = recipe.yield;
  if (cupHeld(shot, recipe) === "band" && pull.yield !== null) {
    const off = pull.yield - target;
    const size = `${Math.abs(off).toFixed(1)} g ${off < 0 ? "short of" : "over"} ${target.toFixed(0)} g`;
    notes.push(`${size}: inside the band of ${YIELD_BAND} g.`);
  }
  if (tastesRight(shot, recipe) && !Number.isNaN(shot.seconds) && !inTime(shot, recipe))
    notes.push("Beside the window, and it tastes balanced: taste outranks the clock.");
  return notes;
}
