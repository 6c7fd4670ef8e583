import { type DecisionRule, type Estimate, type Tolerance, type Verdict, judge } from "../metrology";
import { type Pull, secondsFrom } from "./pull";
import { type Recipe, YIELD_BAND } from "./recipe";

/** A shot against its recipe, figure by figure. */

export interface Judged {
  readonly what: "dose" | "yield" | "seconds" | "volume" | "pressure" | "temperature";
  readonly value: number;
  readonly tolerance: Tolerance;
  readonly verdict: Verdict;
}

export interface ShotVerdict {
  /** The worst of them all. */
  readonly verdict: Verdict;
  readonly judged: readonly Judged[];
  /** What could not be held against the recipe, and why. */
  readonly missing: readonly string[];
  /** Outside, but near enough to be taken with a reason: which way to go instead. */
  readonly near: string | null;
}

/** Standard uncertainties of what was read. */
export interface Read {
  readonly dose: number;
  readonly yield: number;
  readonly rule: DecisionRule;
}

const WORST: readonly Verdict[] = ["holds", "just holds", "can't tell", "off"];
/** A finger on a clock, and the choice of the moment, s. From memory. */
const U_SECONDS = 0.4;
/** A graduated shot glass through crema, ml; a manometer and a display at a glance. From memory. */
const U_VOLUME = 1;
const U_PRESSURE = 0.2;
const U_TEMPERATURE = 0.7;

const estimate = (value: number, u: number): Estimate => ({ value, u, U: 2 * u });

/** A shot held against a recipe; what can’t be judged is named in `missing`. */
export function verdictOf(pull: Pull, recipe: Recipe, { dose, yield: uYield, rule }: Read): ShotVerdict {
  const judged: Judged[] = [];
  const missing: string[] = [];
  const hold = (what: Judged["what"], e: Estimate, tolerance: Tolerance) =>
    judged.push({ what, value: e.value, tolerance, verdict: judge(e, tolerance, rule).verdict });

  hold("dose", estimate(pull.dose, dose), recipe.dose);
  const cup = pull.yield;
  if (cup !== null && !(recipe.volume && pull.volume !== undefined)) hold("yield", estimate(cup, uYield), recipe.yield);
  if (cup === null) missing.push("It choked: nothing in the cup to judge.");
  const seconds = secondsFrom(pull, recipe.from);
  if (seconds === null)
    missing.push(
      recipe.from === "first-drop"
        ? "The shot clock counts from the first drop, and it was not marked."
        : "It was counted from the first drop, and its time was not recorded.",
    );
  else hold("seconds", estimate(seconds, U_SECONDS), recipe.seconds);
  if (recipe.volume && pull.volume !== undefined) hold("volume", estimate(pull.volume, U_VOLUME), recipe.volume);
  if (recipe.volume && pull.volume === undefined && cup !== null)
    missing.push(
      "The definition speaks of millilitres, crema included: read them for a verdict; grams stand in at 36 g for 44 ml.",
    );
  const pressure = pull.plateau ?? pull.peak;
  if (recipe.pressure && pressure !== undefined) hold("pressure", estimate(pressure, U_PRESSURE), recipe.pressure);
  else if (recipe.pressure) missing.push("The definition sets a pressure: none was recorded.");
  if (recipe.temperature) {
    if (pull.setPoint === undefined) missing.push("The definition sets the water’s temperature: none was recorded.");
    else hold("temperature", estimate(pull.setPoint, U_TEMPERATURE), recipe.temperature);
  }

  const worst = judged.reduce((a, j) => Math.max(a, WORST.indexOf(j.verdict)), cup === null ? 3 : 0);
  const short = missing.length > 0 && seconds === null ? Math.max(worst, 2) : worst;
  return { verdict: WORST[short]!, judged, missing, near: nearYield(pull, recipe, judged) };
}

/** 32 g against 36 lies within the band of 4: taken with a reason, or taught again. 50 does not. Common practice. */
function nearYield(pull: Pull, { yield: { target } }: Recipe, judged: readonly Judged[]): string | null {
  const cup = judged.find((j) => j.what === "yield");
  if (!cup || cup.verdict === "holds" || cup.verdict === "just holds") return null;
  const off = cup.value - target;
  // Typed to a decimal: floating point must not decide on the limit.
  if (Math.abs(off) > YIELD_BAND + 1e-9) return null;
  const size = `${Math.abs(off).toFixed(1)} g ${off < 0 ? "short of" : "over"} ${target.toFixed(0)} g`;
  const teach = pull.by === "manual" ? "pull it to the target" : `teach the button to ${target.toFixed(0)} g again`;
  return `${size}: inside the band of ${YIELD_BAND} g. Use it with a reason, or ${teach}.`;
}
