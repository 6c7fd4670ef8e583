import { type Tolerance, phi } from "../metrology";
import { type Belief, SHOT_NOISE, at, believe, inWindow, slopeOf } from "./belief";
import { betweenSteps } from "./between-steps";
import { type DialIn, type DialInQuestion, MOST_OVER, doseInUse, expectedAt } from "./change";
import { type Shot, secondsAt } from "./log";
import { CAUSES, notTheGrind } from "./not-the-grind";
import { type Recipe, YIELD_BAND } from "./recipe";

/** The one thing to change next, by how much, what to expect of it, and why. */

/** Sure enough: with shots that scatter by 6 % this keeps wrong yeses under one in twenty. */
const ACCEPT = 0.915;
/** Steps looked at, either way. */
const REACH = 24;
/** Taste moves the aim by this share of the time. From memory. */
const TASTE = 0.1;
/** g the dose is moved by in the school that moves it. Common practice. */
const DOSE_STEP = 0.5;
/**
 * What to change after these shots.
 *
 * Exactly one thing moves. The grind moves while dose and yield hold; in the other school more coffee makes a fast shot slower and a
 * coarser grind a slow one faster. Taste outranks the clock. What is not the grind is named first, with the check that tells.
 *
 * @throws RangeError with no shot, or one without a dose and seconds above 0
 */
export function dialIn(question: DialInQuestion): DialIn {
  const { recipe, shots, grinder } = question;
  check(shots);
  const last = shots.at(-1)!;
  const aim = { dose: doseInUse(last, recipe), yield: recipe.yield.target };
  const belief = believe(shots, aim, grinder);
  const other = notTheGrind(question, belief);
  if (other)
    return {
      change: { kind: "check", cause: other },
      expected: null,
      pInside: here(belief, last, recipe),
      why: CAUSES[other],
    };
  if (last.taste === "balanced" && yieldHolds(last, recipe))
    return {
      change: { kind: "keep" },
      expected: null,
      pInside: here(belief, last, recipe),
      why: "It tastes balanced: taste outranks the clock.",
    };
  const window = windowBy(recipe, shots);
  const accept = question.accept ?? ACCEPT;
  const pNow = inWindow(belief, last.setting, window.lower, window.upper);
  const sour = last.taste === "sour" || last.taste === "bitter";
  const reached = pNow >= accept && !sour && secondsAt(last, aim.yield) !== null;
  if (reached && Math.abs(last.yield! - aim.yield) > YIELD_BAND + 1e-9 && !yieldHolds(last, recipe))
    return {
      change: { kind: "yield", to: aim.yield },
      expected: expectedAt(belief, last.setting),
      pInside: pNow,
      why: `The grind is right: drawn to ${aim.yield.toFixed(0)} g it takes its time. Only the cup is off.`,
    };
  if (buttonIsOff(last, recipe))
    return {
      change: { kind: "yield", to: aim.yield },
      expected: expectedAt(belief, last.setting),
      pInside: pNow,
      why: `It flowed as it should; the button stopped it at ${last.yield!.toFixed(0)} g. Teach the button, not the grind.`,
    };
  if (reached)
    return {
      change: { kind: "keep" },
      expected: expectedAt(belief, last.setting),
      pInside: pNow,
      why: "The last shots are in the window, surely enough.",
    };
  const coarse = betweenSteps(belief, last, window, question);
  if (coarse) return coarse;
  const best = bestSetting(belief, last, window, accept, question.ends);
  if (best.finer === 0)
    return {
      change: { kind: "same", because: "not-sure-yet" },
      expected: expectedAt(belief, last.setting),
      pInside: pNow,
      why: "It may be in the window already. Repeat to confirm.",
    };
  const seconds = secondsAt(last, aim.yield);
  if (
    question.school === "coarser-more" &&
    best.finer > 0 &&
    last.dose + DOSE_STEP <= recipe.dose.target + MOST_OVER + 1e-9
  )
    return {
      change: { kind: "dose", by: DOSE_STEP },
      expected: null,
      pInside: pNow,
      why: "Too fast: more coffee slows it, same grind (workshop method).",
    };
  return {
    change: { kind: "grind", finer: best.finer, setting: best.setting },
    expected: expectedAt(belief, best.setting),
    pInside: inWindow(belief, best.setting, window.lower, window.upper),
    why: whyGrind(last, seconds, best.finer, window, belief),
  };
}

function check(shots: readonly Shot[]): void {
  if (shots.length === 0) throw new RangeError("Pull a first shot.");
  for (const shot of shots)
    if (!(shot.dose > 0) || !(shot.seconds > 0)) throw new RangeError("A shot has a dose and seconds above 0.");
}

function here(belief: Belief, shot: Shot, { seconds }: Recipe): number {
  return inWindow(belief, shot.setting, seconds.lower, seconds.upper);
}

function yieldHolds(shot: Shot, { yield: { lower, upper } }: Recipe): boolean {
  return shot.yield !== null && shot.yield >= lower && shot.yield <= upper;
}

/** A button that stopped a good flow beside the yield wanted, in the time that yield should take. */
function buttonIsOff(last: Shot, recipe: Recipe): boolean {
  const seconds = secondsAt(last, recipe.yield.target);
  const asked = last.byButton === true && last.flow === "even" && last.taste !== "sour" && last.taste !== "bitter";
  return (
    asked &&
    !yieldHolds(last, recipe) &&
    seconds !== null &&
    seconds >= recipe.seconds.lower &&
    seconds <= recipe.seconds.upper
  );
}

/** Sour asks for longer, bitter for shorter, within what the newest tastes say. */
function windowBy({ seconds }: Recipe, shots: readonly Shot[]): Required<Tolerance> {
  const taste = shots.findLast((s) => s.taste)?.taste;
  const by = taste === "sour" ? 1 + TASTE : taste === "bitter" ? 1 - TASTE : 1;
  return { lower: seconds.lower * by, target: seconds.target * by, upper: seconds.upper * by };
}

/**
 * The setting whose next shot most likely ends the search: mean and variance of its log-seconds, and where the mean must come to lie
 * for the probability inside to reach acceptance.
 */
function bestSetting(
  belief: Belief,
  last: Shot,
  window: Required<Tolerance>,
  accept: number,
  ends: readonly [number, number] | undefined,
): { finer: number; setting: number } {
  const { grinder } = belief;
  let best = { finer: 0, setting: last.setting, chance: -1 };
  for (let finer = -REACH; finer <= REACH; finer++) {
    const setting = last.setting + grinder.finer * finer * grinder.step;
    if (ends && (setting < ends[0] - 1e-9 || setting > ends[1] + 1e-9)) continue;
    const chance = chanceAt(belief, setting, window, accept);
    // Ties go to the smaller move.
    if (chance > best.chance + 1e-9 || (chance > best.chance - 1e-9 && Math.abs(finer) < Math.abs(best.finer)))
      best = { finer, setting, chance };
  }
  if (best.chance > 1e-4) return best;
  // No single shot can be hoped to end it: as near the middle as is believed.
  const { mean } = at(belief, last.setting);
  const steps =
    Math.round((Math.log(window.target) - mean) / slopeOf(belief).mean) || (mean > Math.log(window.target) ? -1 : 1);
  const [lowest, highest] = ends ?? [-Infinity, Infinity];
  const wanted = last.setting + grinder.finer * Math.max(-REACH, Math.min(REACH, steps)) * grinder.step;
  const setting = Math.min(highest, Math.max(lowest, wanted));
  return { finer: (grinder.finer * (setting - last.setting)) / grinder.step, setting };
}

function chanceAt(belief: Belief, setting: number, window: Required<Tolerance>, accept: number): number {
  const { mean, variance } = at(belief, setting);
  const noise = SHOT_NOISE ** 2;
  const posterior = (variance * noise) / (variance + noise);
  const [low, high] = [Math.log(window.lower), Math.log(window.upper)];
  const middle = (low + high) / 2;
  // So far off that no shot can be hoped to land: not worth the arithmetic.
  if (Math.abs(mean - middle) > (high - low) / 2 + 5 * Math.sqrt(variance)) return 0;
  const sd = Math.sqrt(posterior);
  const inside = (m: number) => phi((high - m) / sd) - phi((low - m) / sd);
  const spread = Math.sqrt(variance - posterior);
  if (inside(middle) < accept) {
    // One shot can't settle it: the hope is to come out near the middle, where the next can.
    const total = Math.sqrt(variance);
    return 1e-3 * (phi((high - mean) / total) - phi((low - mean) / total));
  }
  let near = 0;
  let far = (high - low) / 2;
  for (let i = 0; i < 14; i++) {
    const half = (near + far) / 2;
    if (inside(middle + half) >= accept) near = half;
    else far = half;
  }
  return phi((middle + near - mean) / spread) - phi((middle - near - mean) / spread) + 1e-3 * inside(mean);
}

function whyGrind(
  last: Shot,
  seconds: number | null,
  finer: number,
  window: Required<Tolerance>,
  belief: Belief,
): string {
  const slope = slopeOf(belief);
  const percent = Math.round(100 * (Math.exp(slope.mean) - 1));
  const learnt = `a step is worth about ${percent} % here`;
  if (last.choked) return `It choked: much coarser, not one step; ${learnt}.`;
  if (seconds === null) return `Next to nothing came: coarser; ${learnt}.`;
  const at = `${seconds.toFixed(0)} s to the full cup`;
  const taste = last.taste === "sour" || last.taste === "bitter" ? ` and ${last.taste}` : "";
  const want = `${window.lower.toFixed(0)} to ${window.upper.toFixed(0)} s wanted`;
  return `${at}${taste}, ${want}: ${finer > 0 ? "finer" : "coarser"}; ${learnt}.`;
}
