import { type Conformity, type DecisionRule, type Tolerance, judge, pInside } from "../metrology";
import { type Figure, figureOf } from "./figure";
import { type Run, runOf } from "./log";
import type { KnobStanding, Standing } from "./standing";

/** A figure held against its limits. */
export type Result = Figure & Conformity & { readonly pInside: number };

/** A figure held against limits, by the decision rule of the job. Null where nothing was read. */
export function judged(figure: Figure | null, tolerance: Tolerance, rule: DecisionRule): Result | null {
  return figure && { ...figure, ...judge(figure, tolerance, rule), pInside: pInside(figure, tolerance) };
}

/** The result of one knob, as found or as left: null where nothing was read. */
export function resultOf({ loop, log }: KnobStanding, run: Run, { job, kind }: Standing): Result | null {
  return judged(figureOf(runOf(log, run), loop, kind.pump), loop.tolerance, job.rule);
}
