import { mean as meanOf } from "d3-array";
import type { Knob } from "../adjust";
import type { Tolerance } from "../metrology";
import type { MachineKind } from "../kind";

/** Which school the over-pressure valve is set by; the workshop picks, the report names it. */
export type OpvSchool = "regulate" | "ceiling";

/** What is turned, and what it did where nothing else is known. */
export interface OpvModel {
  /** Bar per turn before this machine has shown its own. */
  readonly responseMean: number;
  readonly responseSd: number;
  /** Which way raises the pressure. */
  readonly raises: "clockwise" | "anticlockwise";
}

/** Starting response where the model card has none: about 2 bar per turn, clockwise raises. Common practice. */
export const USUAL_OPV: OpvModel = { responseMean: 2, responseSd: 0.7, raises: "clockwise" };

/**
 * Tolerance on brew pressure at the group, bar gauge.
 * regulate: 9 ± 0.5, inside the 9 ± 1 bar of certified Italian espresso. ceiling: about 11, 10.5 to 12, as a fail-safe. Both common practice.
 */
export const OPV_TOLERANCE: Record<OpvSchool, Required<Tolerance>> = {
  regulate: { lower: 8.5, target: 9, upper: 9.5 },
  ceiling: { lower: 10.5, target: 11, upper: 12 },
};

/**
 * No turn may be able to take brew pressure past this, bar gauge at the group: over a ceiling of 12 bar, and under the dead-end pressure of
 * pumps, hoses and joints that are made for 15 to 16. Common practice, from memory.
 */
export const SAFE_BREW_PRESSURE = 13;

/** Readings outside `hard` are refused as impossible, outside `usual` are asked about. Bar gauge at the gauge. */
export const BREW_PRESSURE_RANGE = { hard: [0, 25], usual: [3, 16] } as const;

/** Turns are signed: + is the way that raises the pressure. */
export function opvKnob(model: OpvModel, kind: MachineKind): Knob {
  return {
    name: "valve",
    unit: "turn",
    step: 1 / 8,
    direction: 1,
    response: { mean: model.responseMean, sd: model.responseSd },
    // More than this in one go leaves the range where a spring can be trusted to answer evenly.
    largestMove: 2,
    safe: SAFE_BREW_PRESSURE,
    backlash: 0.1,
    scatter: 0.03,
    staleProbability: 0.01,
    faults: { stuck: 0.05, ceiling: kind.pump === "none" ? 0 : 0.1, reversed: 0.01 },
  };
}

/** A spring that can be fitted where there is no screw, and the pressure it opens at. */
export interface Spring {
  readonly name: string;
  readonly bar: number;
}

/**
 * The spring swap: discrete choices, one step a spring stronger or weaker. Which one is in it is seen only when it is open, so the
 * travel is as long as the set either way.
 *
 * @param springs at least two, weakest first
 * @throws RangeError with fewer
 */
export function springKnob(springs: readonly Spring[]): Knob {
  if (springs.length < 2) throw new RangeError("A spring swap needs at least two springs.");
  const steps = springs.slice(1).map((s, i) => s.bar - springs[i]!.bar);
  const mean = meanOf(steps)!;
  const spread = Math.sqrt(meanOf(steps, (s) => (s - mean) ** 2)!);
  return {
    name: "spring",
    unit: "spring",
    step: 1,
    direction: 1,
    response: { mean, sd: Math.max(spread, 0.25 * mean) },
    travel: { lowest: -(springs.length - 1), highest: springs.length - 1 },
    width: springs.length - 1,
    safe: SAFE_BREW_PRESSURE,
    // A spring seats a little differently each time it is fitted.
    scatter: 0.1,
    staleProbability: 0.01,
    faults: { stuck: 0.04, ceiling: 0.1, reversed: 0.005 },
  };
}

/** Turns clockwise, as logged, to the knob's own sign (+ raises), and back: the same factor serves both ways. */
export function raising(raises: OpvModel["raises"]): 1 | -1 {
  return raises === "clockwise" ? 1 : -1;
}

export type PressureCheck = "adjustable" | "measure-only" | "not-applicable";

/** Whether the over-pressure valve check makes sense on this kind, and whether a screw can be turned. */
export function pressureCheck(kind: MachineKind): PressureCheck {
  if (kind.pump === "none") return "not-applicable";
  return kind.opv === "spring" || kind.opv === "none" ? "measure-only" : "adjustable";
}
