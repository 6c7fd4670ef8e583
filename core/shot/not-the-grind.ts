import { phiInverse } from "../metrology";
import { type Belief, SHOT_NOISE, at, believe } from "./belief";
import { type DialInQuestion, MOST_OVER, type NotTheGrind, doseInUse } from "./change";
import { type Shot, secondsAt } from "./log";
import type { Recipe } from "./recipe";

/** Coffee this many days from its roast runs fast and flat whatever the grind. Common practice: about two months. */
const STALE_DAYS = 60;
/** Under this, bar, brew pressure itself makes a shot run as it should not. Common practice: 9 ± 0.5, and a dial to be read. */
const LOW_PRESSURE = 8;

/** Each with the check that tells. Common practice. */
export const CAUSES: Record<NotTheGrind, string> = {
  "dose-off": "The dose was off: weigh it again before the grind is blamed.",
  cold: "It was pulled cold: lock the portafilter in, flush, and pull the same again.",
  "low-pressure": "The pressure stayed low: read it with a blind basket before the grind is touched.",
  channel: "It sprayed: a channel, not the grind. Distribute and tamp anew, pull the same again.",
  "stale-coffee": "Old coffee runs fast whatever the grind: open a fresh bag and pull the same again.",
  contradiction: "This shot does not fit the ones before: pull the same again.",
};

/** What explains the last shot better than its grind; null when nothing does. */
export function notTheGrind({ recipe, shots, school }: DialInQuestion, belief: Belief): NotTheGrind | null {
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
