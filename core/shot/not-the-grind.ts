import { phiInverse } from "../metrology";
import { type Belief, type Grinder, SHOT_NOISE, at, believe } from "./belief";
import { type DialInQuestion, type NotTheGrind, doseInUse } from "./change";
import { cupHeld, inTime, tastesRight, within } from "./held";
import { type Shot, secondsAt } from "./log";
import { STALE_DAYS } from "./pull";
import { type Recipe, doseRoom } from "./recipe";

/** Under this, bar, brew pressure itself makes a shot run as it should not. Common practice: 9 ± 0.5, and a dial to be read. */
const LOW_PRESSURE = 8;

/** Each with the check that tells. Common practice. */
export const CAUSES: Record<NotTheGrind, string> = {
  "dose-off": "The dose was off: weigh it again before the grind is blamed.",
  cold: "It was pulled cold: lock the portafilter in, flush, and pull one more at the same setting.",
  "low-pressure": "The pressure stayed low: read it with a blind basket before the grind is touched.",
  channel: "It sprayed: channelling, not the grind. Redistribute, tamp level, repeat.",
  "stale-coffee": "Old coffee runs fast whatever the grind: open a fresh bag and pull one more at the same setting.",
  contradiction: "This shot does not fit the ones before: pull one more at the same setting.",
  "died-off": "The flow died off: look at tank, tap and inlet. The grind is not to blame.",
  "too-hot": "Bitter within its time: hot water is likelier than the grind.",
  "too-cool": "Sour within its time: cool water is likelier than the grind.",
  "sour-slow":
    "Sour and slow contradict each other: cool water or a channel beside a choked puck. Redistribute, tamp level, check the temperature.",
  "beside-grind": "Time, cup and taste are right: the grind stays.",
  "bitter-fast":
    "Bitter and fast contradict each other: hot water, or coffee burnt or old. Check temperature and coffee before the grind.",
};

/** Set points by roast, °C. Common practice; light from memory. */
export const ROAST_SET_POINTS = {
  dark: [91, 92],
  medium: [93.5, 94],
  light: [94.5, 96],
} as const satisfies Record<string, readonly [low: number, high: number]>;

/** A taste within its time that the water explains: a set point beside what the roast asks for, or a wait or flush that is set by taste. */
function byTheWater(shots: readonly Shot[], { water }: Pick<DialInQuestion, "water">): NotTheGrind | null {
  const last = shots.at(-1)!;
  if (last.taste !== "sour" && last.taste !== "bitter") return null;
  const cause = last.taste === "sour" ? "too-cool" : "too-hot";
  const band = last.roast ? ROAST_SET_POINTS[last.roast] : null;
  if (water === "display" && band && last.setPoint != null) {
    const off = last.taste === "sour" ? band[0] - last.setPoint : last.setPoint - band[1];
    return off > SET_STEP / 2 ? cause : null;
  }
  // A flush or a wait is put right once: the same taste again, and something else is to blame.
  const before = shots.at(-2);
  if (before?.taste === last.taste && before.setting === last.setting) return null;
  return water === "wait" || water === "flush" ? cause : null;
}

/** Displays are set in half degrees. Common practice. */
const SET_STEP = 0.5;

/** What explains the last shot better than its grind; null when nothing does. */
export function notTheGrind({ recipe, shots, school, water }: DialInQuestion, belief: Belief): NotTheGrind | null {
  const last = shots.at(-1)!;
  if (!within(last.dose, doseRoom(recipe, school))) return "dose-off";
  if (last.flow === "spray") return "channel";
  if (last.flow === "died") return "died-off";
  const seconds = secondsAt(last, recipe.yield.target);
  // Choked, or a few grams: too fine, however warm it was.
  if (seconds === null) return null;
  // Said once: pulled again at once, it is as warm as pulling makes it, and the grind is judged by what there is.
  if (last.cold && !shots.at(-2)?.cold) return "cold";
  const fast = seconds < recipe.seconds.lower;
  const slow = seconds > recipe.seconds.upper;
  if (last.taste === "sour" && slow) return "sour-slow";
  if (last.taste === "bitter" && fast && (last.age ?? 0) <= STALE_DAYS) return "bitter-fast";
  const hot = !fast && !slow ? byTheWater(shots, { water }) : null;
  if (hot) return hot;
  if (last.peak != null && last.peak < LOW_PRESSURE && fast && (last.age ?? 0) <= STALE_DAYS) return "low-pressure";
  if (fast && (last.age ?? 0) > STALE_DAYS) return "stale-coffee";
  const before = shots.slice(0, -1);
  // In spec as it is, it is what was wanted, whatever those before it were.
  if (tastesRight(last, recipe) && inTime(last, recipe) && cupHeld(last, recipe) !== "outside") return null;
  // Seen twice in a row it is no slip any more.
  return contradicts(before, last, recipe, belief.grinder) && !again(before, last, recipe) ? "contradiction" : null;
}

/** What still speaks of the grinder as it is: where two shots in a row agree against all before them, something was changed by then. */
export function standing(shots: readonly Shot[], recipe: Recipe, grinder: Grinder): readonly Shot[] {
  for (let i = shots.length - 1; i >= 3; i--) {
    const [before, pair] = [shots.slice(0, i - 1), shots.slice(i - 1, i + 1)];
    // One of before that agrees is soon found, and spares the belief.
    if (before.some((s) => again([s], pair[0]!, recipe))) continue;
    if (again(pair.slice(0, 1), pair[1]!, recipe) && pair.every((s) => contradicts(before, s, recipe, grinder)))
      return shots.slice(i - 1);
  }
  return shots;
}

/** Further from what the shots before it let expect than a shot ever scatters. */
function contradicts(before: readonly Shot[], shot: Shot, recipe: Recipe, grinder: Grinder): boolean {
  const seconds = secondsAt(shot, recipe.yield.target);
  if (seconds === null || before.length < 2) return false;
  const aim = { dose: doseInUse(shot, recipe), yield: recipe.yield.target };
  const { mean, variance } = at(believe(before, aim, grinder), shot.setting);
  return Math.abs(Math.log(seconds) - mean) / Math.hypot(Math.sqrt(variance), SHOT_NOISE) > CONTRADICTS;
}

const CONTRADICTS = phiInverse(0.9995);

function again(before: readonly Shot[], last: Shot, recipe: Recipe): boolean {
  const twin = before.at(-1)!;
  const [a, b] = [secondsAt(twin, recipe.yield.target), secondsAt(last, recipe.yield.target)];
  return twin.setting === last.setting && a !== null && b !== null && Math.abs(Math.log(a / b)) < 4 * SHOT_NOISE;
}
