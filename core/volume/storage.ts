import { mean } from "d3-array";
import { phi } from "../metrology";
import { type Kept, USUAL_KEPT, keptAt } from "./kept";

/** Does the button store volume or seconds? Tested with one button, blank and with coffee. */

export interface StorageRun {
  readonly coffee: boolean;
  /** s the button ran */
  readonly seconds: number;
  /** g in the cup; left out where only the seconds were taken */
  readonly cup?: number | undefined;
  /** g of coffee; needed where there is coffee */
  readonly dose?: number | undefined;
  /** ml through the meter, where it can be read */
  readonly water?: number | undefined;
}

export interface StorageTest {
  /** Of volume against time, 0 to 1; of what is neither, as before the runs. */
  pVolume: number;
  /** Neither: the runs share neither water nor seconds. */
  verdict: "volume" | "time" | "open" | "neither";
  /** The run that would settle it, in words; null once it is settled. */
  next: string | null;
}

/** Our choice: 1 wrong in 20, as everywhere. */
const SURE = 0.95;
/** That it is neither, before anything was run: two things were changed, one in twenty-five; wets the coffee first, one in a hundred. From memory. */
const PRIOR_NEITHER = 0.04;
const PRIOR_WETS_FIRST = 0.01;
/** Log-scale spread of what a button may be set to, and its centre: about 25 s and 45 ml. From memory. */
const WIDE = 0.8;
const USUAL_SECONDS = Math.log(25);
const USUAL_WATER = Math.log(45);
/** What is stored comes back within a meter’s repeatability. Common practice: 2 %. */
const STORED = 0.02;
/** Flow, and with it what is not stored, scatters by a share that the runs themselves show; 5 % is usual. From memory. */
const SCATTERS = [
  { share: 0.025, weight: 0.25 },
  { share: 0.05, weight: 0.5 },
  { share: 0.1, weight: 0.25 },
];
/** Loaded, water flows slower by one ratio: about three times, by a factor of two either way; never faster, coffee holds it up. From memory. */
const SLOWER: Spread = { mean: Math.log(3), sd: 0.7, least: 0 };
const LESS: Spread = { mean: -SLOWER.mean, sd: SLOWER.sd, most: 0 };
const SAME: Spread = { mean: 0, sd: 0, stored: true };
/** Where nothing is shared, runs with coffee may differ from those without by anything of this spread. Our choice. */
const FREE: Spread = { mean: 0, sd: 0.9 };
/** A button that wets the coffee first lets a quarter more water through with coffee, give or take half of that, and takes longer by its pause too. From memory. */
const WETTED: Spread = { mean: Math.log(1.25), sd: 0.12, stored: true };
const PAUSED: Spread = { mean: SLOWER.mean, sd: 0.8 };
/** A clock by hand, s, and a switch, as a share. From memory. */
const U_CLOCK = 0.5;
const U_SWITCH = 0.01;

/**
 * Posterior over three ways a button may work. Volume: all runs share one volume of water, and those with coffee take longer by one ratio.
 * Time: all share the seconds, and those with coffee give less by that ratio. Neither: they share nothing, or those with coffee got their wetting on top. Each is a normal linear model on
 * the log scale; how far repeats scatter is a short sum over what is usual (Bayes; Kalman steps give the evidence).
 *
 * @param prior probability of volume against time before the runs, from the kind
 * @throws RangeError when a run has no time, an empty cup, or coffee weighed without a dose
 */
export function storageTest(runs: readonly StorageRun[], prior = 0.5, kept: Kept = USUAL_KEPT): StorageTest {
  for (const run of runs) {
    if (!(run.seconds > 0)) throw new RangeError("A run takes some seconds.");
    if (run.cup !== undefined && !(run.cup > 0)) throw new RangeError("Weigh what came out.");
    if (run.coffee && run.cup !== undefined && !(run.dose! > 0))
      throw new RangeError("With coffee the dose is needed: some water stays in the puck.");
  }
  const seconds = runs.map((r) => ({
    at: Math.log(r.seconds),
    s: Math.hypot(U_CLOCK / r.seconds, U_SWITCH),
    coffee: r.coffee,
  }));
  const water = runs.flatMap((r) => (r.cup === undefined ? [] : [waterOf({ ...r, cup: r.cup }, kept)]));
  const over = (waterBy: Spread, secondsBy: Spread) =>
    SCATTERS.reduce((sum, { share, weight }) => {
      const by = ({ stored }: Spread) => (stored ? STORED : share);
      const inWater = evidence(water, USUAL_WATER, waterBy, by(waterBy));
      return sum + weight * Math.exp(inWater + evidence(seconds, USUAL_SECONDS, secondsBy, by(secondsBy)));
    }, 0);
  const known = 1 - PRIOR_NEITHER - PRIOR_WETS_FIRST;
  const volume = known * prior * over(SAME, SLOWER);
  const time = known * (1 - prior) * over(LESS, SAME);
  const neither = PRIOR_NEITHER * over(FREE, FREE) + PRIOR_WETS_FIRST * over(WETTED, PAUSED);
  const all = volume + time + neither;
  const pNeither = neither / all;
  const pVolume = volume / all + pNeither * prior;
  if (pNeither > NEITHER_FROM) return { pVolume, verdict: "neither", next: settles(runs) };
  const verdict = volume >= SURE * all ? "volume" : time >= SURE * all ? "time" : "open";
  return { pVolume, verdict, next: verdict === "open" ? nextRun(runs) : null };
}

/** Likelier neither than either of them, nothing is taught by what it is said to store. Our choice: even. */
const NEITHER_FROM = 0.5;

/** It can be neither: what machines do so, the one run that tells them apart, and what to go by meanwhile. */
function settles(runs: readonly StorageRun[]): string {
  const [blank, loaded] = [false, true].map((coffee) =>
    mean(
      runs.filter((r) => r.coffee === coffee),
      (r) => r.seconds,
    ),
  );
  const shorter = loaded! < blank!;
  const causes = shorter
    ? "Machines that do so wet the coffee first by a timer of their own, or count by something else than the water; or another button ran, or it was taught again in between"
    : "Machines that do so wet the coffee first and count after; or another button ran, or it was taught again in between";
  const told = shorter
    ? `about ${loaded!.toFixed(0)} s again: it is set to that now, and the longer run was of another setting`
    : `the seconds and grams of before: it wets the coffee first`;
  return `${shorter ? "With coffee it ran shorter, which neither can do. " : ""}${causes}. Run this same button once more without coffee, timed and weighed: ${told}. Until then teach it with coffee, and check three shots.`;
}

interface Seen {
  at: number;
  s: number;
  coffee: boolean;
}

/** By how much runs with coffee lie off those without, on the log scale. */
interface Spread {
  readonly mean: number;
  readonly sd: number;
  readonly least?: number;
  readonly most?: number;
  /** It is what the button stores, and repeats as that does. */
  readonly stored?: true;
}

function waterOf(run: StorageRun & { cup: number }, kept: Kept): Seen {
  const k = run.coffee && run.water === undefined ? keptAt(kept, run.dose!) : { value: 0, u: 0 };
  const ml = run.water ?? run.cup + k.value;
  const spread = run.water === undefined && run.coffee ? Math.hypot(k.u, kept.sd) : 0;
  return { at: Math.log(ml), s: Math.hypot((1.5 + spread) / ml, 0.02), coffee: run.coffee };
}

/**
 * Log evidence of runs about one unknown value with a wide prior, those with coffee off it by another unknown: Kalman steps for the two.
 *
 * @param centre of the prior, log scale
 * @param scatter of repeats, as a share, > 0
 */
function evidence(seen: readonly Seen[], centre: number, by: Spread, scatter: number): number {
  let [base, delta] = [centre, by.mean];
  let [bb, bd, dd] = [WIDE ** 2, 0, by.sd ** 2];
  let log = 0;
  for (const { at, s, coffee } of seen) {
    const c = coffee ? 1 : 0;
    const total = bb + 2 * c * bd + c * dd + s * s + scatter * scatter;
    const miss = at - base - c * delta;
    log -= 0.5 * (Math.log(2 * Math.PI * total) + (miss * miss) / total);
    const [gainB, gainD] = [(bb + c * bd) / total, (bd + c * dd) / total];
    base += gainB * miss;
    delta += gainD * miss;
    [bb, bd, dd] = [bb - gainB * (bb + c * bd), bd - gainB * (bd + c * dd), dd - gainD * (bd + c * dd)];
  }
  // A bound on the difference: the share of it that is left after the runs, by the share there was before them.
  return (
    log + Math.log(Math.max(Number.MIN_VALUE, inBounds(delta, dd, by))) - Math.log(inBounds(by.mean, by.sd ** 2, by))
  );
}

/** Share of a normal that lies inside the bounds of a spread; 1 where it has none. */
function inBounds(mean: number, variance: number, { least = -Infinity, most = Infinity }: Spread): number {
  if (least === -Infinity && most === Infinity) return 1;
  const sd = Math.sqrt(Math.max(variance, Number.MIN_VALUE));
  return phi((most - mean) / sd) - phi((least - mean) / sd);
}

function nextRun(runs: readonly StorageRun[]): string {
  const coffee = runs.filter((r) => r.coffee);
  const weighed = (all: readonly StorageRun[]) => all.some((r) => r.cup !== undefined);
  const blank = runs.filter((r) => !r.coffee);
  if (blank.length === 0) return "Run the button once without coffee into a jug: time it and weigh it.";
  if (coffee.length === 0) {
    const { seconds, cup } = blank.at(-1)!;
    const water = cup === undefined ? "" : `, with about ${Math.round(cup)} ml of water in`;
    return `Run it once with coffee, timed and weighed. About ${Math.round(seconds)} s again: it stores time. Longer${water}: it stores volume.`;
  }
  if (!weighed(blank) || !weighed(coffee))
    return `Weigh what runs out too, ${weighed(blank) ? "with coffee" : weighed(coffee) ? "without coffee" : "once without coffee and once with"}: the same water in means volume.`;
  return "Run it once more with coffee ground finer, so that it runs clearly slower: the same seconds mean time, the same water means volume.";
}
