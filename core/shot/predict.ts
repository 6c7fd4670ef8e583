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

/** First drops come at about a quarter of the shot. From memory. */
const FIRST_SHARE = 0.25;
/** A figure read off a moving display: half a second late, and 0.3 g. From memory. */
const LATE = 0.5;
const U_GRAMS = 0.3;

/**
 * Flow is about steady after the first drop. Before anything is weighed it is the one that makes the expected seconds; every figure
 * of the scale is weighed in by its uncertainty.
 *
 * @returns null before the pump has run
 */
export function forecast({ elapsed, firstDrop, weighed, expected, target, drip }: Running): Forecast | null {
  if (!(elapsed > 0) || !(expected.seconds > 0)) return null;
  const first = firstDrop ?? Math.max(FIRST_SHARE * expected.seconds, elapsed);
  const toStop = target - drip.mean;
  // log-flow as a normal: the expectation, then each weighing.
  const running = Math.max(2, expected.seconds - (firstDrop ?? FIRST_SHARE * expected.seconds));
  let mean = Math.log(toStop / running);
  let variance = (expected.sd / running) ** 2 + (firstDrop === null ? 0.1 ** 2 : 0);
  for (const { at, grams } of weighed) {
    const ran = at - first;
    if (!(ran > 0.5) || !(grams > 0.5)) continue;
    const noise = (U_GRAMS / grams) ** 2 + (LATE / ran) ** 2 + 0.03 ** 2;
    const gain = variance / (variance + noise);
    mean += gain * (Math.log(grams / ran) - mean);
    variance *= 1 - gain;
  }
  const flow = Math.exp(mean);
  const sd = Math.sqrt(variance);
  const last = weighed.at(-1);
  // From the newest weighing on, what is in the cup is known; before it all rests on flow and first drop.
  const grams =
    last && last.at >= first ? last.grams + flow * (elapsed - last.at) : Math.max(0, flow * (elapsed - first));
  const u = last && last.at >= first ? Math.hypot(U_GRAMS, flow * sd * (elapsed - last.at)) : grams * sd;
  const left = (toStop - grams) / flow + (firstDrop === null && !last ? Math.max(0, first - elapsed) : 0);
  const stopIn = Math.max(0, left);
  return { grams, u, stopIn, uStop: Math.hypot(stopIn * sd, u / flow, drip.u / flow), stopAt: elapsed + stopIn };
}

/** What this machine’s shots drip after the stop, where the scale was read at the stop. */
export function dripOf(pulls: readonly Pick<Pull, "atStop" | "yield">[]): Drip {
  return learnDrip(
    pulls.flatMap((p) => (p.atStop === undefined || p.yield === null ? [] : [{ atStop: p.atStop, inCup: p.yield }])),
    USUAL_DRIP,
  );
}
