import { type Tolerance } from "../metrology";
import { type Belief, DOSE_EFFECT, at, isOnScale, nextInWindow, settingAt } from "./belief";
import { type DialIn, type DialInQuestion, expectedAt } from "./change";
import type { Shot } from "./log";

/** Where no setting makes the window: the dose does the rest, or the coffee. */

/** Most the dose is moved to land between two steps of the grinder, g. From memory. */
const FINE_DOSE = 0.5;
/** Most it is moved where the grinder stops short of the window, g; in halves. Common practice: a basket is made for its dose, give or take one. */
const MOST_DOSE = 2;

/** Grams that bring a time to another at the same grind. */
const gramsTo = (dose: number, logTime: number, logWanted: number) =>
  dose * Math.expm1((logWanted - logTime) / DOSE_EFFECT.mean);

/**
 * One step jumps over the whole window: the nearer of the two is kept and the dose does the rest, inside its own tolerance.
 */
export function betweenSteps(
  belief: Belief,
  last: Shot,
  window: Required<Tolerance>,
  { recipe, grinder, ends }: DialInQuestion,
): DialIn | null {
  const there = (finer: number) => settingAt(last.setting, finer, grinder);
  const middle = Math.log(window.target);
  const off = (finer: number) => middle - at(belief, there(finer)).mean;
  const nearer = [-2, -1, 0, 1, 2]
    .filter((finer) => isOnScale(there(finer), ends))
    .reduce((a, b) => (Math.abs(off(b)) < Math.abs(off(a)) ? b : a), 0);
  const setting = there(nearer);
  const why = `A step of this grinder is wider than the window: no setting makes it.`;
  if (nearer !== 0)
    return {
      change: { kind: "grind", finer: nearer, setting },
      expected: expectedAt(belief, setting),
      pInside: nextInWindow(belief, setting, window),
      why: `${why} Take the nearer one; the dose does the rest.`,
    };
  return byDose(belief, last, window, { recipe }, why);
}

/** A little more or less coffee brings a setting to the middle of the window, inside the tolerance of the dose; null where there is no room. */
export function byDose(
  belief: Belief,
  last: Shot,
  window: Required<Tolerance>,
  { recipe }: Pick<DialInQuestion, "recipe">,
  why: string,
): DialIn | null {
  const wanted = gramsTo(last.dose, at(belief, last.setting).mean, Math.log(window.target));
  const room = wanted > 0 ? recipe.dose.target + FINE_DOSE - last.dose : last.dose - recipe.dose.target + FINE_DOSE;
  const by = (Math.sign(wanted) * Math.round(10 * Math.min(Math.abs(wanted), Math.max(0, room)))) / 10;
  if (Math.abs(by) < 0.1) return null;
  return {
    change: { kind: "dose", by },
    expected: null,
    pInside: nextInWindow(belief, last.setting, window),
    why: `${why} Hold the grind; ${by > 0 ? "a little more coffee slows" : "a little less coffee speeds"} it between the steps.`,
  };
}

/** The scale ends before the window begins: which end, what it gives there, and what would bring it in. */
export function atTheEnd(
  belief: Belief,
  last: Shot,
  window: Required<Tolerance>,
  { ends, recipe }: DialInQuestion & { ends: readonly [number, number] },
): DialIn {
  const middle = Math.log(window.target);
  const [first, second] = ends.map((end) => ({ end, mean: at(belief, end).mean }));
  const { end, mean } = Math.abs(first!.mean - middle) < Math.abs(second!.mean - middle) ? first! : second!;
  const grams = Math.round(2 * gramsTo(recipe.dose.target, mean, middle)) / 2;
  const fast = mean < middle;
  const seconds = Math.exp(mean);
  const by = Math.abs(grams) > MOST_DOSE ? 0 : grams;
  return {
    change: { kind: "reach", end, seconds, by },
    expected: null,
    pInside: nextInWindow(belief, last.setting, window),
    why: `At ${end}, where its scale ends, a shot takes about ${seconds.toFixed(0)} s: too ${fast ? "fast" : "slow"} still.`,
  };
}
