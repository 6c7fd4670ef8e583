import type { AdjustQuestion } from "../adjust/types";
import { checkTolerance } from "../metrology";

/**
 * Whether a question can be answered at all.
 *
 * @throws RangeError when the step, the response or an uncertainty is not a positive number, or a tolerance is none
 */
export function check({ knob, events, tolerance }: AdjustQuestion): void {
  if (!(knob.step > 0 && Number.isFinite(knob.step))) throw new RangeError("A knob’s step is a positive number.");
  if (![knob.response.mean, knob.response.sd].every((x) => x > 0 && Number.isFinite(x)))
    throw new RangeError("A knob’s response is a positive number with a positive standard deviation.");
  const { lower, target, upper } = tolerance;
  if ([lower, target, upper].some((limit) => limit !== undefined && !Number.isFinite(limit)))
    throw new RangeError("The limits of a tolerance are finite.");
  checkTolerance(tolerance);
  const { travel, largestMove, backlash = 0, scatter = 0, staleProbability = 0 } = knob;
  if (travel && !(travel.lowest <= travel.highest)) throw new RangeError("Travel runs from its lowest to its highest.");
  if (knob.width !== undefined && !(knob.width >= knob.step)) throw new RangeError("The width is a step at least.");
  if (largestMove !== undefined && !(largestMove >= knob.step))
    throw new RangeError("The largest move is a step at least.");
  if (!(backlash >= 0 && Number.isFinite(backlash) && scatter >= 0 && Number.isFinite(scatter)))
    throw new RangeError("Lost motion and scatter are finite and not negative.");
  const { stuck = 0, ceiling = 0, reversed = 0 } = knob.faults ?? {};
  if (![staleProbability, stuck, ceiling, reversed].every((p) => p >= 0 && p < 1) || !(stuck + ceiling + reversed < 1))
    throw new RangeError("Probabilities lie between 0 and 1, those of all faults together too.");
  for (const e of events) {
    if (e.kind === "reading" && !(e.u > 0 && Number.isFinite(e.u) && Number.isFinite(e.value)))
      throw new RangeError("A reading needs a value and an uncertainty above 0.");
    if (e.kind === "reading" && e.uCommon !== undefined && !(e.uCommon >= 0 && Number.isFinite(e.uCommon)))
      throw new RangeError("A shared uncertainty is finite and not negative.");
    if (e.kind === "move" && !Number.isFinite(e.amount)) throw new RangeError("A move needs an amount.");
  }
}
