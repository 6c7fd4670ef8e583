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
  pVolume: number;
  /** Neither: the runs share neither water nor seconds. */
  verdict: "volume" | "time" | "open" | "neither";
  /** The run that would settle it, in words; null once it is settled. */
  next: string | null;
}

/** Our choice: 1 wrong in 20, as everywhere. */
const SURE = 0.95;
/** Log-scale spread of what a button may be set to, and its centre: about 25 s and 45 ml. From memory. */
const WIDE = 0.8;
const USUAL_SECONDS = Math.log(25);
const USUAL_WATER = Math.log(45);
/** How evenly water flows between runs of one condition, as a share: without coffee, with. From memory. */
const EVEN = { blank: 0.04, coffee: 0.15 } as const;

/**
 * Bayes factor between two models. Volume: all runs share one volume of water, their seconds follow the resistance. Time: all runs share
 * the seconds, their water follows. Runs without coffee resist alike, runs with coffee nearly so.
 *
 * @param prior probability of volume before the runs, from the kind
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
    s: Math.hypot(0.5 / r.seconds, 0.01),
    coffee: r.coffee,
  }));
  const water = runs.flatMap((r) => (r.cup === undefined ? [] : [waterOf({ ...r, cup: r.cup }, kept)]));
  const volume = shared(water, USUAL_WATER) + perCondition(seconds, USUAL_SECONDS);
  const time = shared(seconds, USUAL_SECONDS) + perCondition(water, USUAL_WATER);
  const odds = Math.log(prior / (1 - prior)) + volume - time;
  const pVolume = 1 / (1 + Math.exp(-odds));
  if (apart(water) && apart(seconds)) return { pVolume, verdict: "neither", next: NEITHER };
  const verdict = pVolume >= SURE ? "volume" : pVolume <= 1 - SURE ? "time" : "open";
  return { pVolume, verdict, next: verdict === "open" ? nextRun(runs) : null };
}

/** What is stored can be neither: it wets the puck first, or something else was changed between the runs. */
const NEITHER =
  "Neither alone: it may wet the coffee first and count after, or two things were changed between the runs. Run it twice without coffee, nothing else touched: the same seconds and grams both times, then once with coffee.";

/** Runs of both conditions that share nothing: further apart than 4 standard deviations of what one store would give. */
function apart(seen: readonly Seen[]): boolean {
  const mean = (coffee: boolean) => {
    const own = seen.filter((x) => x.coffee === coffee);
    const weight = own.reduce((sum, x) => sum + 1 / (x.s * x.s + EVEN.blank ** 2), 0);
    return own.length === 0
      ? null
      : { at: own.reduce((sum, x) => sum + x.at / (x.s * x.s + EVEN.blank ** 2), 0) / weight, v: 1 / weight };
  };
  const [blank, coffee] = [mean(false), mean(true)];
  return blank !== null && coffee !== null && Math.abs(blank.at - coffee.at) > 4 * Math.sqrt(blank.v + coffee.v);
}

interface Seen {
  at: number;
  s: number;
  coffee: boolean;
}

function waterOf(run: StorageRun & { cup: number }, kept: Kept): Seen {
  const k = run.coffee && run.water === undefined ? keptAt(kept, run.dose!) : { value: 0, u: 0 };
  const ml = run.water ?? run.cup + k.value;
  const spread = run.water === undefined && run.coffee ? Math.hypot(k.u, kept.sd) : 0;
  return { at: Math.log(ml), s: Math.hypot((1.5 + spread) / ml, 0.02), coffee: run.coffee };
}

/** Log evidence that all share one value. */
function shared(seen: readonly Seen[], centre: number): number {
  return evidence(
    seen.map((x) => ({ at: x.at, s: x.s })),
    centre,
  );
}

/** Log evidence that each condition has a value of its own, about which runs scatter. */
function perCondition(seen: readonly Seen[], centre: number): number {
  return [false, true].reduce(
    (sum, coffee) =>
      sum +
      evidence(
        seen
          .filter((x) => x.coffee === coffee)
          .map((x) => ({ at: x.at, s: Math.hypot(x.s, coffee ? EVEN.coffee : EVEN.blank) })),
        centre,
      ),
    0,
  );
}

/** Observations of one unknown with a wide normal prior, one after the other. */
function evidence(seen: readonly { at: number; s: number }[], centre: number): number {
  let mean = centre;
  let variance = WIDE ** 2;
  let log = 0;
  for (const { at, s } of seen) {
    const total = variance + s * s;
    log += -0.5 * (Math.log(2 * Math.PI * total) + (at - mean) ** 2 / total);
    const gain = variance / total;
    mean += gain * (at - mean);
    variance *= 1 - gain;
  }
  return log;
}

function nextRun(runs: readonly StorageRun[]): string {
  const coffee = runs.filter((r) => r.coffee);
  const blank = runs.filter((r) => !r.coffee);
  if (blank.length === 0) return "Run the button once without coffee into a jug: time it and weigh it.";
  if (coffee.length === 0) {
    const { seconds, cup } = blank.at(-1)!;
    const water = cup === undefined ? "" : `, with about ${Math.round(cup)} ml of water in`;
    return `Run it once with coffee, timed and weighed. About ${Math.round(seconds)} s again: it stores time. Longer${water}: it stores volume.`;
  }
  return "Run it once more with coffee ground finer, so that it runs clearly slower: the same seconds mean time, the same water means volume.";
}
