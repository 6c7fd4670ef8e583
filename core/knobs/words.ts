import type { FaultKind } from "../adjust";
import type { FaultWords, KnobModule } from "./loop";

/** Words that more than one knob says, and the plain ones of faults that have none of their own. Common practice in the trade. */

/** The instrument is the fault, whatever is turned. */
export const COARSE: KnobModule["faults"] = {
  "gauge-too-coarse": {
    says: "The instrument at hand could not decide.",
    checks: ["Take one with a smaller limit of error, or one with a calibration certificate."],
    part: "Finer instrument needed",
  },
};

const PLAIN: Readonly<Record<FaultKind, string>> = {
  stuck: "It does not respond.",
  ceiling: "It gives no more.",
  reversed: "It responds the wrong way round.",
  "step-too-coarse": "It cannot be set finely enough.",
  "gauge-too-coarse": "The instrument at hand could not decide.",
  "end-of-travel": "It is at the end of its travel.",
};

/** A fault that this knob has no words of its own for. */
export function plainFault(fault: FaultKind): FaultWords {
  return { says: PLAIN[fault], checks: ["Look at the part and what it moves."], part: "To be found" };
}
