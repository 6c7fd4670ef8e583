import type { Knob } from "../adjust";
import type { Tolerance } from "../metrology";

/** No turn may be able to take the line past this, bar gauge: what water inlets of such machines are rated for. Common practice, from memory. */
export const SAFE_LINE_PRESSURE = 8;

/** The regulator in the water line: clockwise raises, about a bar a turn until it has shown its own. Common practice, from memory. */
export function lineRegulatorKnob(): Knob {
  return {
    name: "regulator",
    unit: "turn",
    step: 1 / 8,
    direction: 1,
    // About a bar a turn: from memory.
    response: { mean: 1, sd: 0.4 },
    largestMove: 3,
    safe: SAFE_LINE_PRESSURE,
    backlash: 0.1,
    scatter: 0.05,
    // Idle pressure falls only once some water has been drawn.
    staleProbability: 0.1,
    faults: { stuck: 0.05, ceiling: 0.1, reversed: 0.01 },
  };
}

/**
 * Pre-infusion of a lever: line pressure at the group with the lever held down, bar. The regulator makes it; the cam times it.
 * Common practice, from memory.
 */
export const LEVER_PRE_INFUSION: Required<Tolerance> = { lower: 1, target: 1.5, upper: 2 };
