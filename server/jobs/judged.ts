import { type DecisionRule, type Tolerance, judge, pInside } from "../../core/metrology";
import type { Summary } from "./events";

export type Judged = ReturnType<typeof judged>;

/** A run of readings held against limits. */
export function judged(summary: Summary | null, tolerance: Tolerance, rule: DecisionRule) {
  if (!summary) return null;
  const conformity = judge(summary, tolerance, rule);
  return { ...summary, ...conformity, pInside: pInside(summary, tolerance) };
}
