import { type Tolerance } from "../metrology";
import { type Belief, believe, inWindow, isOnScale, nextInWindow, reachOf, settingAt, slopeOf } from "./belief";
import { atTheEnd, betweenSteps, byDose } from "./between-steps";
import { type Change, type DialIn, type DialInQuestion, doseInUse, expectedAt } from "./change";
import { cupHeld, inTime, tastesOff, tastesRight, within } from "./held";
import { type Shot, secondsAt } from "./log";
import { CAUSES, notTheGrind, standing } from "./not-the-grind";
import { MOST_OVER, type Recipe } from "./recipe";
import { likeliest, rangeToTry, scored } from "./settings";
import { SAME_DOSE } from "./tries";

/** The one thing to change next, by how much, what to expect of it, and why. */

/** Sure enough that a setting's own time is inside. Our choice: kept settings are then wrong about once in twenty-five. */
const ACCEPT = 0.94;
/** So many shots in the window in a row, of one setting, are the recipe whatever a model says. Our choice. */
const IN_A_ROW = 4;
/** Shots of one setting and dose in a row: after so many beside the window the dose is trimmed, after so many more it is taken or left. Our choice. */
const FEW_REPEATS = 3;
const MOST_REPEATS = 6;
/** With less than this, no setting makes the window. Our choice: 1 in 20, as everywhere. */
const OUT_OF_REACH = 0.05;
/** Less than this for the next shot, and a figure alone is no help: the settings to try are said. Our choice: one in three. */
const WIDE = 1 / 3;
/** Taste moves the aim by this share of the time. From memory. */
const TASTE = 0.1;
/** g the dose is moved by in the school that moves it. Common practice. */
const DOSE_STEP = 0.5;

/**
 * What to change after these shots.
 *
 * Exactly one thing moves. The grind moves while dose and yield hold; in the other school more coffee makes a fast shot slower and a
 * coarser grind a slow one faster. Taste outranks the clock; a shot in the window is never a reason to move the grind. What is not the
 * grind is named first, with the check that tells.
 *
 * @throws RangeError with no shot, or one without a dose and seconds above 0
 */
export function dialIn(asked: DialInQuestion): DialIn {
  check(asked.shots);
  const question = { ...asked, shots: standing(asked.shots, asked.recipe, asked.grinder) };
  const { recipe, shots, grinder, ends } = question;
  const last = shots.at(-1)!;
  const aim = { dose: doseInUse(last, recipe), yield: recipe.yield.target };
  const belief = believe(shots, aim, grinder);
  const pInside = nextInWindow(belief, last.setting, recipe.seconds);
  const stay = (change: Change, why: string): DialIn => ({
    change,
    expected: expectedAt(belief, last.setting),
    pInside,
    why,
  });
  const stop = (change: Change, why: string): DialIn => ({ change, expected: null, pInside, why });

  const other = notTheGrind(question, belief);
  if (other) return stop({ kind: "check", cause: other }, CAUSES[other]);
  const back = backToTaken(asked, belief);
  if (back) return back;
  const cup = cupHeld(last, recipe);
  if (tastesRight(last, recipe) && last.yield !== null)
    return cup !== "outside"
      ? stop({ kind: "keep" }, "It tastes balanced: taste outranks the clock.")
      : stop({ kind: "yield", to: aim.yield }, "It tastes balanced: hold the grind. Only the cup is off.");
  const window = windowBy(recipe, shots);
  const flowed = inTime(last, recipe) && !tastesOff(last, recipe);
  const near = flowed && cup === "band";
  const drawn = secondsAt(last, aim.yield);
  if (flowed && cup !== "inside" && drawn !== null && within(drawn, recipe.seconds))
    return {
      ...stay(
        { kind: "yield", to: aim.yield },
        last.byButton
          ? `It flowed as it should; the button stopped it at ${last.yield!.toFixed(0)} g. Teach the button, not the grind.`
          : `The grind is right: drawn to ${aim.yield.toFixed(0)} g it takes its time. Only the cup is off.`,
      ),
      near,
    };
  const pOwn = inWindow(belief, last.setting, recipe.seconds);
  const sure = pOwn >= (question.accept ?? ACCEPT);
  const again = repeats(shots);
  if (flowed && !near)
    return sure || inARow(shots, recipe) >= IN_A_ROW || (again >= MOST_REPEATS && pOwn >= 0.5)
      ? stay({ kind: "keep" }, "The last shots are in the window, surely enough.")
      : stay({ kind: "same", because: "not-sure-yet" }, "It is in the window. Repeat to confirm.");

  const reach = reachOf(belief, window, ends);
  if (ends && reach.between < OUT_OF_REACH) return atTheEnd(belief, last, window, { ...question, ends });
  const settings = scored(belief, last, window, ends);
  const finer = byTaste(likeliest(settings), question);
  const setting = settingAt(last.setting, finer, grinder);
  const between = reach.whole < OUT_OF_REACH || toAndFro(shots, setting);
  const coarse = between ? betweenSteps(belief, last, window, question) : null;
  if (coarse) return coarse;
  const dosed =
    finer === 0 && again >= FEW_REPEATS
      ? byDose(belief, last, window, question, "It stands at the edge of the window, and a step is too much.")
      : null;
  if (dosed) return dosed;
  if (finer === 0)
    return stay({ kind: "same", because: "not-sure-yet" }, "It may be in the window already. Repeat to confirm.");
  if (question.school === "coarser-more" && finer > 0 && last.dose + DOSE_STEP <= recipe.dose.target + MOST_OVER + 1e-9)
    return stop({ kind: "dose", by: DOSE_STEP }, "Too fast: more coffee slows it, same grind (workshop method).");
  const pNext = nextInWindow(belief, setting, window);
  const range = pNext < WIDE ? rangeToTry(settings) : null;
  return {
    change: { kind: "grind", finer, setting, ...(range && range[0] !== range[1] ? { range } : {}) },
    expected: expectedAt(belief, setting),
    pInside: pNext,
    ...(near && { near }),
    ...(window.lower !== recipe.seconds.lower && { window: { lower: window.lower, upper: window.upper } }),
    why: whyGrind(shots, secondsAt(last, aim.yield), finer, { window, recipe }, belief),
  };
}

function check(shots: readonly Shot[]): void {
  if (shots.length === 0) throw new RangeError("Pull a first shot.");
  for (const shot of shots)
    if (!(shot.dose > 0) || !(shot.seconds > 0)) throw new RangeError("A shot has a dose and seconds above 0.");
}

/** The newest shots of one setting and dose. */
function repeats(shots: readonly Shot[]): number {
  const { setting, dose } = shots.at(-1)!;
  return shots.length - 1 - shots.findLastIndex((s) => s.setting !== setting || Math.abs(s.dose - dose) > SAME_DOSE);
}

/** The newest shots of one setting that were in the window one after the other. */
function inARow(shots: readonly Shot[], recipe: Recipe): number {
  const { setting } = shots.at(-1)!;
  const before = shots.findLastIndex((s) => s.setting !== setting || !inTime(s, recipe));
  return shots.length - 1 - before;
}

/** Sour asks for longer, bitter for shorter: of this shot, and of the one that the last change answers. */
function windowBy({ seconds }: Recipe, shots: readonly Shot[]): Required<Tolerance> {
  const taste = shots.slice(-2).findLast((s) => s.taste)?.taste;
  const by = taste === "sour" ? 1 + TASTE : taste === "bitter" ? 1 - TASTE : 1;
  return { lower: seconds.lower * by, target: seconds.target * by, upper: seconds.upper * by };
}

/** From a setting that was pulled twice to another that was: neither would be the recipe a third time either. */
function toAndFro(shots: readonly Shot[], to: number): boolean {
  const pulled = (setting: number) => shots.filter((s) => Math.abs(s.setting - setting) < 1e-9).length;
  const from = shots.at(-1)!.setting;
  return Math.abs(to - from) > 1e-9 && pulled(from) > 1 && pulled(to) > 1;
}

/** A taste that the water does not explain moves the grind one step at least, where the scale has one left. */
function byTaste(finer: number, { shots, grinder, ends }: DialInQuestion): number {
  const { taste, setting } = shots.at(-1)!;
  const tasted = taste === "sour" ? Math.max(1, finer) : taste === "bitter" ? Math.min(-1, finer) : finer;
  return isOnScale(settingAt(setting, tasted, grinder), ends) ? tasted : finer;
}

/** Once a recipe was taken, one odd shot is pulled again, and another setting leads back to the one taken. */
function backToTaken({ taken, recipe, shots, grinder }: DialInQuestion, belief: Belief): DialIn | null {
  const last = shots.at(-1)!;
  if (!taken || shots.length <= taken.shots || (inTime(last, recipe) && cupHeld(last, recipe) !== "outside"))
    return null;
  const expected = expectedAt(belief, taken.setting);
  const pInside = nextInWindow(belief, taken.setting, recipe.seconds);
  if (last.setting !== taken.setting)
    return {
      change: {
        kind: "grind",
        finer: (grinder.finer * (taken.setting - last.setting)) / grinder.step,
        setting: taken.setting,
      },
      expected,
      pInside,
      why: "Back to the recipe that was used here: this one is further off.",
    };
  const odd = shots.slice(taken.shots).filter((s) => s.setting === taken.setting && !inTime(s, recipe));
  if (odd.length > 1) return null;
  return {
    change: { kind: "same", because: "not-sure-yet" },
    expected,
    pInside,
    why: "One shot beside a recipe that was used here: repeat before anything is changed.",
  };
}

function whyGrind(
  shots: readonly Shot[],
  seconds: number | null,
  finer: number,
  { window, recipe }: { window: Required<Tolerance>; recipe: Recipe },
  belief: Belief,
): string {
  const slope = slopeOf(belief);
  const percent = Math.round(100 * (Math.exp(slope.mean) - 1));
  const last = shots.at(-1)!;
  // Of one setting alone nobody knows what a step does here.
  const settings = new Set(shots.filter((s) => !s.choked && s.yield !== null).map((s) => s.setting));
  const learnt = `a step is ${settings.size > 1 ? "" : "usually "}worth about ${percent} %${settings.size > 1 ? " here" : ""}`;
  if (last.choked) return `It choked: much coarser, not one step; ${learnt}.`;
  if (seconds === null) return `Next to nothing came: coarser; ${learnt}.`;
  const at = `${seconds.toFixed(0)} s to the full cup`;
  const taste = last.taste === "sour" || last.taste === "bitter" ? ` and ${last.taste}` : "";
  const range = `${window.lower.toFixed(0)} to ${window.upper.toFixed(0)} s`;
  const moved = window.lower - recipe.seconds.lower;
  const want = moved
    ? `and the taste asks for ${moved > 0 ? "longer" : "shorter"} than the recipe, ${range}`
    : `${range} wanted`;
  return `${at}${taste}, ${want}: ${finer > 0 ? "finer" : "coarser"}; ${learnt}.`;
}
