import type { Knob } from "../adjust";
import type { Tolerance } from "../metrology";

/** A pressurestat's two points, bar gauge: it switches the element on at cut-in and off at cut-out. */
export interface Band {
  readonly cutIn: number;
  readonly cutOut: number;
}

/** No turn of the wheel may be able to take the boiler past this, bar gauge: safety valves of such boilers lift at about 1.8 bar. From memory. */
export const SAFE_BOILER_PRESSURE = 1.8;

/** The wheel: one notch about 0.1 bar, + raises. Common practice. */
export function pressurestatKnob(): Knob {
  return {
    name: "wheel",
    unit: "notch",
    step: 1,
    direction: 1,
    response: { mean: 0.1, sd: 0.04 },
    largestMove: 6,
    safe: SAFE_BOILER_PRESSURE,
    backlash: 0.5,
    scatter: 0.01,
    // The first cut-out after a turn may belong to a heating that had begun before it.
    staleProbability: 0.1,
    faults: { stuck: 0.05, reversed: 0.02 },
  };
}

/** How far cut-out and band may lie from what the card says, bar. Common practice, from memory. */
const CUT_OUT_MARGIN = 0.1;
const BAND_MARGIN = 0.1;
/** A band narrower than this is a switch that chatters, whatever the card says. From memory. */
const LEAST_BAND = 0.05;

/** A limit as it is meant: 1.4 less 0.1 is 1.3, not 1.2999999999999998. */
const even = (bar: number) => Number(bar.toFixed(6));

/** Limits on the cut-out: the upper end of the model's steam pressure. The wheel moves both points together. */
export function cutOutTolerance(steam: { lower: number; upper: number }): Required<Tolerance> {
  return { lower: even(steam.upper - CUT_OUT_MARGIN), target: steam.upper, upper: even(steam.upper + CUT_OUT_MARGIN) };
}

/** Limits on the band between the points: itself a spec, and no wheel changes it. */
export function bandTolerance(steam: { lower: number; upper: number }): Required<Tolerance> {
  const target = even(steam.upper - steam.lower);
  return { lower: even(Math.max(LEAST_BAND, target - BAND_MARGIN)), target, upper: even(target + BAND_MARGIN) };
}

/** What is wrong with two points as typed; null when nothing is. */
export function bandProblem({ cutIn, cutOut }: Band): string | null {
  if (cutIn === cutOut) return "Cut-in and cut-out can’t be the same: watch one heating from start to end.";
  return cutIn > cutOut ? "Cut-in is the lower of the two: there the element comes on." : null;
}
