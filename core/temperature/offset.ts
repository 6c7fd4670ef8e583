import type { Knob } from "../adjust";
import type { ModelCard } from "../kind";
import type { Tolerance } from "../metrology";
import type { SchoolsOf } from "../school";

/** The boiler's offset: what must be added so that water at the coffee equals the display. Readings are water less display, °C. */

/** A degree of offset is a degree of water, give or take what the way to the group takes of it. The first reading after a change often still shows the last value. From memory. */
export function offsetKnob({ step, raises }: NonNullable<ModelCard["offset"]>): Knob {
  return {
    name: "offset",
    unit: "°C",
    step,
    direction: raises ? 1 : -1,
    response: { mean: 1, sd: 0.2 },
    largestMove: 15,
    scatter: 0.1,
    staleProbability: 1 / 3,
    faults: { stuck: 0.03, reversed: 0.03 },
  };
}

/** How near water and display must be, °C. Correct: as near as whole degrees get it. Leave: no nearer than coffee can tell. From memory. */
export const OFFSET_TOLERANCE: Record<SchoolsOf["temperatureOffset"], Required<Tolerance>> = {
  correct: { lower: -1, target: 0, upper: 1 },
  leave: { lower: -1.5, target: 0, upper: 1.5 },
};

/** A change needs time, and often a restart, before it shows. Common practice. */
export const SETTLE_MINUTES = 5;

/** A second set point lies at least this far from the first, °C. Common practice: 2 °C. */
export const SECOND_AWAY = 1.5;

export interface SecondSetPoint {
  /** Error at the second less error at the first, °C. */
  difference: number;
  U: number;
  verdict: "an offset" | "not an offset" | "can't tell";
}

/** More than this between the errors at both set points is no offset, °C. From memory. */
const MOST_DIFFERENCE = 1;

/**
 * An offset holds at both set points, a faulty probe does not.
 *
 * @param first water less display at the first set point, °C
 * @param second water less display at the second, °C
 * @param u standard uncertainty of the difference: what both readings share drops out
 */
export function secondSetPoint(first: number, second: number, u: number): SecondSetPoint {
  const difference = second - first;
  const U = 2 * u;
  const away = Math.abs(difference);
  if (away + U <= MOST_DIFFERENCE) return { difference, U, verdict: "an offset" };
  if (away - U > 0 && away > MOST_DIFFERENCE) return { difference, U, verdict: "not an offset" };
  return { difference, U, verdict: away <= MOST_DIFFERENCE ? "an offset" : "can't tell" };
}
