import { type Conformity, type DecisionRule, type Tolerance, judge, pInside, widestRectangle } from "../metrology";
import type { Figure } from "./figure";

/** A figure held against its limits. */
export type Result = Figure & Conformity & { readonly pInside: number };

/** A figure held against limits, by the decision rule of the job. Null where nothing was read. */
export function judged(figure: Figure | null, tolerance: Tolerance, rule: DecisionRule): Result | null {
  if (!figure) return null;
  // Of several instruments no single rectangle is the whole.
  const estimate = figure.parts.length > 0 ? figure : { ...figure, half: widestRectangle(figure.budget) };
  return { ...figure, ...judge(estimate, tolerance, rule), pInside: pInside(estimate, tolerance) };
}
