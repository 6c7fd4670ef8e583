import { figureOf } from "./figure";
import { type Result, judged } from "./judged";
import { type Run, runOf } from "./log";
import type { KnobStanding, Standing } from "./standing";

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
