import { type Drip, USUAL_DRIP, learnDrip } from "../volume";
import type { Pull } from "./pull";

/** While a shot runs: what is in the cup now, and when to stop. */

export interface Weighed {
  /** s since the pump */
  readonly at: number;
  /** g on the scale */
  readonly grams: number;
}

export interface Running {
  /** s since the pump */
  readonly elapsed: number;
  /** s from the pump to the first drop, once it was seen */
  readonly firstDrop: number | null;
  /** Grams seen on the scale so far. */
  readonly weighed: readonly Weighed[];
  /** Seconds from the pump this shot is expected to take, and their standard deviation. */
  readonly expected: { readonly seconds: number; readonly sd: number };
  /** g wanted in the cup */
  readonly target: number;
  readonly drip: Drip;
}

export interface Forecast {
  /** g in the cup now, and standard uncertainty */
  readonly grams: number;
  readonly u: number;
  /** s from now to the stop that gives the target; 0 once it is due */
  readonly stopIn: number;
  readonly uStop: number;
  /** s since the pump at which to stop */
  readonly stopAt: number;
}

/** First drops come at about a quarter of the shot, give or take a third of that. From memory. */
const FIRST_SHARE = 0.25;
const FIRST_SD = 0.33;
/** The flow comes up to its own within so many seconds of the first drop (a time constant). From memory. */
const RISES = [0, 0.4, 0.8, 1.2, 1.6, 2, 2.4];
const RISE_SD = 0.6;
/**
 * A figure read off a moving display: half a second late or early, the same for all of one pair of eyes; and 0.3 g of its own. From memory.
 */
const LATES = [-1, -0.5, 0, 0.5, 1];
const LATE_SD = 0.5;
const U_GRAMS = 0.3;
/** The drop seen, or not seen at all: standard deviations about what is known of it. */
const FIRSTS = [-1.5, -0.75, 0, 0.75, 1.5];
const U_FIRST = 0.4;
/** Points of the grid of flows, and how far it reaches. */
const FLOWS = 31;
const REACH = 3;

/** What the slow start has cost by then, s of full flow. */
const lost = (rise: number, ran: number) => (rise > 0 ? rise * (1 - Math.exp(-ran / rise)) : 0);
const poured = (flow: number, rise: number, ran: number) => (ran <= 0 ? 0 : flow * (ran - lost(rise, ran)));

/**
 * What is in the cup follows a flow that comes up after the first drop and then holds. Flow, rise, first drop and the lateness of the eye
 * are a grid; every figure of the scale weighs it (Bayes). The lateness is one for all figures: ten of them do not make it go away.
 *
 * @returns null before the pump has run
 */
export function forecast({ elapsed, firstDrop, weighed, expected, target, drip }: Running): Forecast | null {
  if (!(elapsed > 0) || !(expected.seconds > 0)) return null;
  const toStop = target - drip.mean;
  const told = weighed.filter(({ at, grams }) => at > 0 && grams > 0.5);
  const usualFirst = firstDrop ?? FIRST_SHARE * expected.seconds;
  const firstSd = firstDrop === null ? FIRST_SD * usualFirst : U_FIRST;
  const running = Math.max(2, expected.seconds - usualFirst - RISES[RISES.length >> 1]!);
  // Of the seconds expected, and of what the figures say themselves, whichever is wider.
  const middle = Math.log(toStop / running);
  const spread = Math.max(0.05, expected.sd / running);
  const seen = told.at(-1);
  const shown = seen && seen.at - usualFirst > 2 ? Math.log(seen.grams / (seen.at - usualFirst)) : middle;
  const low = Math.min(middle, shown) - REACH * Math.min(spread, 0.4);
  const high = Math.max(middle, shown) + REACH * Math.min(spread, 0.4);

  let [mass, cup, cups, stop, stops, flows] = [0, 0, 0, 0, 0, 0];
  let best = -Infinity;
  for (let i = 0; i < FLOWS; i++) {
    const log = low + ((high - low) * i) / (FLOWS - 1);
    const flow = Math.exp(log);
    const byFlow = -0.5 * ((log - middle) / spread) ** 2;
    for (const rise of RISES)
      for (const z of FIRSTS) {
        const first = Math.max(0, usualFirst + z * firstSd);
        // A drop that was not seen yet can’t have fallen.
        if (firstDrop === null && told.length === 0 && first < elapsed - 1) continue;
        const prior = byFlow - 0.5 * ((rise - 1.2) / RISE_SD) ** 2 - 0.5 * z * z;
        const now = poured(flow, rise, elapsed - first);
        const at = first + toStop / flow + lost(rise, toStop / flow + rise);
        for (const late of told.length > 0 ? LATES : [0]) {
          let weight = prior - 0.5 * (late / LATE_SD) ** 2;
          for (const one of told)
            weight -= 0.5 * ((one.grams - poured(flow, rise, one.at - late - first)) / U_GRAMS) ** 2;
          if (weight > best) {
            // The heaviest so far is the measure of all: nothing overflows, nothing vanishes.
            const scale = Math.exp(best - weight);
            [mass, cup, cups, stop, stops, flows] = [mass, cup, cups, stop, stops, flows].map((x) => x * scale) as [
              number,
              number,
              number,
              number,
              number,
              number,
            ];
            best = weight;
          }
          const w = Math.exp(weight - best);
          mass += w;
          cup += w * now;
          cups += w * now * now;
          stop += w * at;
          stops += w * at * at;
          flows += w * flow;
        }
      }
  }
  // All that was thought possible has passed: it is due.
  if (mass === 0)
    return {
      grams: 0,
      u: toStop,
      stopIn: Math.max(0, expected.seconds - elapsed),
      uStop: expected.seconds,
      stopAt: Math.max(elapsed, expected.seconds),
    };
  const [grams, stopAt, flow] = [cup / mass, stop / mass, flows / mass];
  const u = Math.sqrt(Math.max(0, cups / mass - grams ** 2));
  const sd = Math.sqrt(Math.max(0, stops / mass - stopAt ** 2));
  const stopIn = Math.max(0, stopAt - elapsed);
  return { grams, u, stopIn, uStop: Math.hypot(sd, drip.u / flow), stopAt: elapsed + stopIn };
}

/** What this machine’s shots drip after the stop, where the scale was read at the stop. */
export function dripOf(pulls: readonly Pick<Pull, "atStop" | "yield">[]): Drip {
  return learnDrip(
    pulls.flatMap((p) => (p.atStop === undefined || p.yield === null ? [] : [{ atStop: p.atStop, inCup: p.yield }])),
    USUAL_DRIP,
  );
}
