import type { Tolerance } from "../../core/metrology";
import { OPV_TOLERANCE, type OpvSchool } from "../../core/pressure";
import { type SpecLine, toleranceFor } from "../../core/spec";

/** Limits on brew pressure: the spec card's for the school chosen, the trade's where the card has none. */
export function toleranceOf(school: OpvSchool, spec: readonly SpecLine[]): Tolerance {
  return toleranceFor(spec, school === "ceiling" ? "opv-ceiling" : "brew-pressure") ?? OPV_TOLERANCE[school];
}
