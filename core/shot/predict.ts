import { type Drip, USUAL_DRIP, learnDrip } from "../volume";
import type { Pull } from "./pull";

/** While a shot runs: what is in the cup now, and when to stop. */

export interface Weighed {
  /** s since the pump */
  readonly at: number;
  /** g on the scale */
  readonly grams: number;
  /** The scale said it by itself; left out where eyes read it off a moving display. */
  readonly by?: "scale";
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
 * What is in the cup now and when to stop. Once the scale has been read some times, by the flow as it is now, which may grow, fall or break
 * through; before that by a flow that comes up after the first drop and then holds.
 *
 * @returns null before the pump has run
 */
export function forecast(running: Running): Forecast | null {
  const { elapsed, expected, weighed, target, drip, firstDrop } = running;
  if (!(elapsed > 0) || !(expected.seconds > 0)) return null;
  const told = weighed.filter(({ at, grams }) => at > 0 && at <= elapsed + 1 && grams > 0.5);
  const last = told.at(-1);
  const first = firstDrop ?? told[0]?.at ?? elapsed;
  if (!last || told.length < LEAST_READ || last.at - first < LEAST_RUN) return byTheExpected(running);
  const now = byTheFlow(told, first);
  const toStop = target - drip.mean;
  const late = told.every((one) => one.by === "scale") ? SCALE_LATE_SD : LATE_SD;
  const at = (ahead: number) => cupAhead(now, ahead, late);
  const reached = at(elapsed - last.at);
  const left = Math.max(0, (toStop - reached.grams) / now.flow);
  const then = at(elapsed - last.at + left);
  return {
    grams: reached.grams,
    u: Math.sqrt(reached.variance),
    stopIn: left,
    uStop: Math.hypot(Math.sqrt(then.variance) / now.flow, drip.u / now.flow),
    stopAt: elapsed + left,
  };
}

/** Figures of the scale, and s since the first drop, from which on the flow speaks for itself. */
const LEAST_READ = 3;
const LEAST_RUN = 4;
/** A flow wanders by about this much in the root of a second, as a share of itself: puck wetting, fines, a channel that opens. From memory. */
const WANDERS = 0.045;
/** And by so much more while it comes up after the first drop, a share that fades within so many seconds. */
const COMES_UP = 0.4;
const COMING_UP = 2.5;
const wandersAt = (ran: number) => WANDERS + COMES_UP * Math.exp(-Math.max(0, ran) / COMING_UP);
/** A figure this many standard deviations off is no wandering any more: the flow has changed, and by up to this share of itself. Our choice. */
const BREAKS = 1.5;
const BROKEN = 0.8;
const HALF_SEEN = 0.5;
/** A scale’s own lag, s: its filter, and the line to it. From memory. */
const SCALE_LATE_SD = 0.2;
/** No pour is slower than a drip. g/s */
const LEAST_FLOW = 0.15;

/** The cup and its flow at the last figure of the scale: means, variances and what they share. */
interface Flowing {
  readonly grams: number;
  readonly flow: number;
  readonly gg: number;
  readonly gf: number;
  readonly ff: number;
}

/** A flow that wanders, followed figure by figure (Kalman filter of a cup and its flow; Kalman 1960). */
function byTheFlow(told: readonly Weighed[], first: number): Flowing {
  const [one] = told;
  let at = one!.at;
  let x: Flowing = { grams: one!.grams, flow: one!.grams / Math.max(1, at - first), gg: U_GRAMS ** 2, gf: 0, ff: 0 };
  x = { ...x, ff: (COMES_UP * x.flow + 0.3) ** 2 };
  for (const { at: next, grams } of told.slice(1)) {
    const dt = next - at;
    if (dt <= 0) continue;
    let before = wander(x, dt, wandersAt(next - first));
    const off = grams - before.grams;
    const breaks = off ** 2 > BREAKS ** 2 * (before.gg + U_GRAMS ** 2);
    if (breaks) {
      const jump = (BROKEN * before.flow) ** 2;
      before = { ...before, gg: before.gg + jump * dt * dt, gf: before.gf + jump * dt, ff: before.ff + jump };
    }
    const s = before.gg + U_GRAMS ** 2;
    const [kg, kf] = [before.gg / s, before.gf / s];
    x = {
      grams: before.grams + kg * off,
      flow: Math.max(LEAST_FLOW, before.flow + kf * off),
      gg: before.gg * (1 - kg),
      gf: before.gf * (1 - kg),
      // When it broke between two figures nobody saw: what it is now is known only with the next.
      ff: before.ff - kf * before.gf + (breaks ? (HALF_SEEN * before.flow) ** 2 : 0),
    };
    at = next;
  }
  return x;
}

/** The cup and its flow some seconds on, with nothing read meanwhile. */
function wander({ grams, flow, gg, gf, ff }: Flowing, dt: number, share: number): Flowing {
  const q = (share * flow) ** 2;
  return {
    grams: grams + flow * dt,
    flow,
    gg: gg + 2 * dt * gf + dt * dt * ff + (q * dt ** 3) / 3,
    gf: gf + dt * ff + (q * dt * dt) / 2,
    ff: ff + q * dt,
  };
}

/**
 * What stands in the cup then, the same lateness on all that was read.
 *
 * @param late standard deviation of that lateness, s
 */
function cupAhead(now: Flowing, ahead: number, late: number): { grams: number; variance: number } {
  const { grams, gg, flow } = wander(now, Math.max(0, ahead), WANDERS);
  return { grams, variance: gg + (late * flow) ** 2 };
}

/**
 * What is in the cup follows a flow that comes up after the first drop and then holds. Flow, rise, first drop and the lateness of the eye
 * are a grid; every figure of the scale weighs it (Bayes). The lateness is one for all figures: ten of them do not make it go away.
 */
function byTheExpected({ elapsed, firstDrop, weighed, expected, target, drip }: Running): Forecast {
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
