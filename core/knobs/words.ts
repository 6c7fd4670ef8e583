import type { FaultKind } from "../adjust";
import type { FaultWords, KnobModule } from "./loop";

/** Words that more than one knob says, and the plain ones of faults that have none of their own. Common practice in the trade. */

/** The instrument is the fault, whatever is turned. */
export const COARSE: KnobModule["faults"] = {
  "gauge-too-coarse": {
    says: "The instrument at hand could not decide.",
    checks: ["Take one with a smaller limit of error, or one with a calibration certificate."],
    part: "",
  },
};

/** What to look at where no adjustment is likely to help; and the way on, by a hand that decides for itself. */
export const LOOK_FIRST = (checks: readonly string[]): FaultWords => ({
  says: PLAIN["look-first"],
  checks: [
    "Is it read right: the instrument, its unit, where it sits?",
    ...checks,
    "All of that right: adjust a little by your own judgement, save it and read again. What it does is learnt from there.",
  ],
  part: "",
});

const PLAIN: Readonly<Record<FaultKind, string>> = {
  stuck: "It does not respond.",
  ceiling: "It gives no more.",
  reversed: "It responds the wrong way round.",
  "step-too-coarse": "It cannot be set finely enough.",
  "gauge-too-coarse": "The instrument at hand could not decide.",
  "end-of-travel": "It is at the end of its travel.",
  "look-first": "Too far out for one adjustment: something else is likely.",
};

/** A fault that this knob has no words of its own for. */
export function plainFault(fault: FaultKind): FaultWords {
  if (fault === "look-first") return LOOK_FIRST([]);
  return { says: PLAIN[fault], checks: ["Look at the part and what it moves."], part: "To be found" };
}

/** An instrument that can’t tell is no fault of the machine: what it reads is left as it is. */
export const isLeftAsIs = (fault: string | null): boolean => fault === "gauge-too-coarse";

/** How an adjustment ended that was not accepted, in short. */
export const endedWords = (fault: string): string =>
  isLeftAsIs(fault) ? "left as it is: can’t tell" : "ended with a fault";
