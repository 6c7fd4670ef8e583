import { type Tolerance, phi, phiInverse } from "../metrology";
import type { SchoolsOf } from "../school";
import { type Belief, DOSE_EFFECT, type Grinder, SHOT_NOISE, at, believe, inWindow, slopeOf } from "./belief";
import { type Shot, secondsAt } from "./log";
import { type Recipe, YIELD_BAND } from "./recipe";

/** The one thing to change next, by how much, what to expect of it, and why. */

export type Change =
  /** Steps finer; negative is coarser. */
  | { readonly kind: "grind"; readonly finer: number; readonly setting: number }
  | { readonly kind: "dose"; readonly by: number }
  /** The grind is right, the cup is not: where to stop, g. */
  | { readonly kind: "yield"; readonly to: number }
  | { readonly kind: "same"; readonly because: "not-sure-yet" }
  | { readonly kind: "check"; readonly cause: NotTheGrind }
  | { readonly kind: "keep" };

export type NotTheGrind = "stale-coffee" | "cold" | "channel" | "low-pressure" | "dose-off" | "contradiction";

export interface DialIn {
  change: Change;
  /** Seconds expected of the next shot, and twice its standard deviation; null where nothing is to be expected. */
  expected: { seconds: number; spread: number } | null;
  /** That the setting’s own time lies in the window, after the change. */
  pInside: number;
  /** One sentence. */
  why: string;
}

export interface DialInQuestion {
  readonly recipe: Recipe;
  readonly shots: readonly Shot[];
  readonly grinder: Grinder;
  readonly school: SchoolsOf["grindOrDose"];
  /** Lowest and highest setting of the grinder, where it has ends. */
  readonly ends?: readonly [number, number];
  /** Accept when the probability inside is at least this. */
  readonly accept?: number;
}

/** Sure enough: with shots that scatter by 6 % this keeps wrong yeses under one in twenty. */
const ACCEPT = 0.915;
/** Steps looked at, either way. */
const REACH = 24;
/** Taste moves the aim by this share of the time. From memory. */
const TASTE = 0.1;
/** g the dose is moved by in the school that moves it, and what a basket still takes over the target. Common practice. */
const DOSE_STEP = 0.5;
const MOST_OVER = 1;
/** Coffee this many days from its roast runs fast and flat whatever the grind. Common practice: about two months. */
const STALE_DAYS = 60;
const LOW_PRESSURE = 8;

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
  if (reached)
    return {
      change: { kind: "keep" },
      expected: expectedAt(belief, last.setting),
      pInside: pNow,
      why: "The last shots make the recipe, surely enough.",
    };
  const coarse = betweenSteps(belief, last, window, question);
  if (coarse) return coarse;
  const best = bestSetting(belief, last, window, accept, question.ends);
  if (best.finer === 0)
    return {
      change: { kind: "same", because: "not-sure-yet" },
      expected: expectedAt(belief, last.setting),
      pInside: pNow,
      why: "It may be there already: one more of the same tells.",
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
      why: "Too fast: more coffee slows it, the grind stays. That is the school chosen.",
    };
  return {
    change: { kind: "grind", finer: best.finer, setting: best.setting },
    expected: expectedAt(belief, best.setting),
    pInside: inWindow(belief, best.setting, window.lower, window.upper),
    why: whyGrind(last, seconds, best.finer, window, belief),
  };
}

/** A dose this far from the target was meant so: what is learnt then belongs to it, g. */
const MEANT = 0.35;

function doseInUse(last: Shot, { dose }: Recipe): number {
  return Math.abs(last.dose - dose.target) > MEANT ? last.dose : dose.target;
}

/** Most the dose is moved to land between two steps of the grinder, g. From memory. */
const FINE_DOSE = 0.5;

/**
 * Where one step jumps over the whole window, surely enough, no setting makes the recipe: the nearer of the two is kept and the dose
 * does the rest, inside its own tolerance.
 */
function betweenSteps(
  belief: Belief,
  last: Shot,
  window: Required<Tolerance>,
  { recipe, grinder, ends }: DialInQuestion,
): DialIn | null {
  const settingAt = (finer: number) => last.setting + grinder.finer * finer * grinder.step;
  const [low, high, middle] = [Math.log(window.lower), Math.log(window.upper), Math.log(window.target)];
  const sure = phiInverse(0.9);
  for (let finer = -2; finer <= 1; finer++) {
    const [fast, slow] = [at(belief, settingAt(finer)), at(belief, settingAt(finer + 1))];
    if (fast.mean + sure * Math.sqrt(fast.variance) > low || slow.mean - sure * Math.sqrt(slow.variance) < high)
      continue;
    const nearer = middle - fast.mean <= slow.mean - middle ? finer : finer + 1;
    const setting = settingAt(nearer);
    if (ends && (setting < ends[0] || setting > ends[1])) return null;
    const why = `A step of this grinder is wider than the window: no setting makes it.`;
    if (nearer !== 0)
      return {
        change: { kind: "grind", finer: nearer, setting },
        expected: expectedAt(belief, setting),
        pInside: inWindow(belief, setting, window.lower, window.upper),
        why: `${why} Take the nearer one; the dose does the rest.`,
      };
    const wanted = last.dose * Math.expm1((middle - (nearer === finer ? fast.mean : slow.mean)) / DOSE_EFFECT.mean);
    const room = wanted > 0 ? recipe.dose.target + FINE_DOSE - last.dose : last.dose - recipe.dose.target + FINE_DOSE;
    const by = (Math.sign(wanted) * Math.round(10 * Math.min(Math.abs(wanted), Math.max(0, room)))) / 10;
    if (Math.abs(by) < 0.1) return null;
    return {
      change: { kind: "dose", by },
      expected: null,
      pInside: inWindow(belief, last.setting, window.lower, window.upper),
      why: `${why} Hold the grind; ${by > 0 ? "a little more coffee slows" : "a little less coffee speeds"} it between the steps.`,
    };
  }
  return null;
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

/** Sour asks for longer, bitter for shorter, within what the newest tastes say. */
function windowBy({ seconds }: Recipe, shots: readonly Shot[]): Required<Tolerance> {
  const taste = shots.findLast((s) => s.taste)?.taste;
  const by = taste === "sour" ? 1 + TASTE : taste === "bitter" ? 1 - TASTE : 1;
  return { lower: seconds.lower * by, target: seconds.target * by, upper: seconds.upper * by };
}

function expectedAt(belief: Belief, setting: number): DialIn["expected"] {
  const { mean, variance } = at(belief, setting);
  const sd = Math.hypot(Math.sqrt(variance), SHOT_NOISE);
  const seconds = Math.exp(mean);
  return { seconds, spread: 2 * seconds * sd };
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

const CAUSES: Record<NotTheGrind, string> = {
  "dose-off": "The dose was off: weigh it again before the grind is blamed.",
  cold: "It was pulled cold: lock the portafilter in, flush, and pull the same again.",
  "low-pressure": "The pressure stayed low: read it with a blind basket before the grind is touched.",
  channel: "It sprayed: a channel, not the grind. Distribute and tamp anew, pull the same again.",
  "stale-coffee": "Old coffee runs fast whatever the grind: open a fresh bag and pull the same again.",
  contradiction: "This shot does not fit the ones before: pull the same again.",
};

/** What explains the last shot better than its grind; null when nothing does. */
function notTheGrind({ recipe, shots, school }: DialInQuestion, belief: Belief): NotTheGrind | null {
  const last = shots.at(-1)!;
  const over = school === "coarser-more" ? MOST_OVER : 0;
  if (last.dose < recipe.dose.lower - 1e-9 || last.dose > recipe.dose.upper + over + 1e-9) return "dose-off";
  if (last.cold) return "cold";
  const seconds = secondsAt(last, recipe.yield.target);
  const fast = seconds !== null && seconds < recipe.seconds.lower;
  if (last.flow === "spray") return "channel";
  if (last.peak != null && last.peak < LOW_PRESSURE && !last.choked && fast && (last.age ?? 0) <= STALE_DAYS)
    return "low-pressure";
  if (fast && (last.age ?? 0) > STALE_DAYS) return "stale-coffee";
  const before = shots.slice(0, -1);
  if (seconds === null || before.length < 2) return null;
  const { mean, variance } = at(
    believe(before, { dose: doseInUse(last, recipe), yield: recipe.yield.target }, belief.grinder),
    last.setting,
  );
  const off = Math.abs(Math.log(seconds) - mean) / Math.hypot(Math.sqrt(variance), SHOT_NOISE);
  // Seen twice in a row it is no slip any more.
  return off > CONTRADICTS && !again(before, last, recipe) ? "contradiction" : null;
}

const CONTRADICTS = phiInverse(0.9995);

function again(before: readonly Shot[], last: Shot, recipe: Recipe): boolean {
  const twin = before.at(-1)!;
  const [a, b] = [secondsAt(twin, recipe.yield.target), secondsAt(last, recipe.yield.target)];
  return twin.setting === last.setting && a !== null && b !== null && Math.abs(Math.log(a / b)) < 4 * SHOT_NOISE;
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
