import { type Conformity, type DecisionRule, type Tolerance, judge, pInside, widestRectangle } from "../metrology";
import { type Figure, figureOf } from "./figure";
import { type Run, runOf } from "./log";
import type { KnobStanding, Standing } from "./standing";

/** A figure held against its limits. */
export type Result = Figure & Conformity & { readonly pInside: number };

/** A figure held against limits, by the decision rule of the job. Null where nothing was read. */
export function judged(figure: Figure | null, tolerance: Tolerance, rule: DecisionRule): Result | null {
  if (!figure) return null;
  // Of several instruments no single rectangle is the whole.
  const estimate = figure.parts.length > 0 ? figure : { ...figure, half: widestRectangle(figure.budget) };
  return { ...figure, ...judge(estimate, tolerance, rule), pInside: pInside(estimate, tolerance) };
}

/** What was worked out for a knob is asked for again by stations, lists and reports of the same standing. */
const known = new WeakMap<KnobStanding, Map<Run, Result | null>>();

/** The result of one knob, as found or as left: null where nothing was read. */
export function resultOf(knob: KnobStanding, run: Run, { job, kind }: Standing): Result | null {
  let results = known.get(knob);
  if (!results) known.set(knob, (results = new Map()));
  let found = results.get(run);
  if (found === undefined) {
    const { loop, log } = knob;
    found = judged(figureOf(runOf(log, run), loop, kind.pump), loop.tolerance, job.rule);
    results.set(run, found);
  }
  return found;
}
