import { type Evidence, PATTERNS, type PatternId } from "../diagnose";
import { moduleOf } from "../knobs";
import { figureOf } from "./figure";
import { flowing, runOf } from "./log";
import { resultOf } from "./result";
import type { Standing } from "./standing";

/** The last flowing readings, as many as are read for a test. Common practice. */
const FLOWING = 2;

/** What the readings on the sheet say by themselves towards a cause: nobody types twice what was read. */
export function seenInReadings(pattern: PatternId, standing: Standing): Evidence[] {
  return standing.loops.flatMap((knob) => {
    const { evidence } = moduleOf(knob.loop.at.knob);
    const read =
      evidence && PATTERNS[evidence.pattern].id === PATTERNS[pattern].id ? resultOf(knob, "as-found", standing) : null;
    if (!evidence || !read) return [];
    const { count, value, u, verdict } = read;
    const returned = runOf(knob.log, "as-found").findLast((r) => r.detail.returned !== undefined)?.detail.returned;
    const under = figureOf(flowing(knob.log).slice(-FLOWING), knob.loop, standing.kind.pump);
    return evidence.of({ count, value, u, verdict, returned, flowing: under }, knob.loop);
  });
}
