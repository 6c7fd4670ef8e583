import type { FaultKind } from "../../core/adjust";

/** A fault on the report, in words the owner can follow. */
const WORDS: Record<FaultKind, string> = {
  stuck: "The over-pressure valve does not answer.",
  ceiling: "The pump does not reach the pressure.",
  reversed: "The over-pressure valve answers the wrong way round.",
  "step-too-coarse": "The valve cannot be set finely enough.",
  "gauge-too-coarse": "The gauge at hand could not decide.",
  "end-of-travel": "The valve has no travel left.",
};

export function fault({ fault, text }: { fault: string; text: string }): string {
  return [WORDS[fault as FaultKind], text].filter(Boolean).join(" ");
}
