import { type KnobAt, keyOf } from "../knobs";
import type { DecisionRule, Tolerance } from "../metrology";
import type { Dimension } from "../quantity";
import type { SignedDocument, SignedPoint } from "./document";
import { type Logged, type Run, logOf, runOf } from "./log";
import { methodOf } from "./method";

/** A figure of a signed job, as it is kept to be asked for: one a knob and phase. */
export interface KeptResult extends KnobAt {
  readonly phase: Run;
  readonly dimension: Dimension;
  readonly tolerance: Tolerance;
  readonly rule: DecisionRule;
  readonly point: SignedPoint;
  /** When the last reading of it was taken; null where the log has none. */
  readonly readAt: Date | null;
  /** An instrument behind it was past its date. */
  readonly outOfDate: boolean;
}

const PHASES = [
  ["as-found", "asFound"],
  ["as-left", "asLeft"],
] as const;

/**
 * The figures of a signed job: as they were signed. What a document of earlier years does not say of a figure (which instruments, how many
 * readings before it was warm) is read off the job’s own log.
 */
export function keptResults(document: SignedDocument, job: Logged): KeptResult[] {
  return document.results.flatMap(({ knob, group, button, judged, tolerance, ...points }) => {
    const log = logOf(job, keyOf({ knob, group, button }));
    return PHASES.flatMap(([phase, key]) => {
      const point = points[key];
      if (!point) return [];
      const run = runOf(log, phase);
      return [
        {
          knob,
          group,
          button,
          phase,
          dimension: judged,
          tolerance,
          rule: document.rule,
          point: {
            ...point,
            early: point.early ?? run.filter((r) => r.early).length,
            instruments: point.instruments ?? [...new Set(run.map((r) => r.instrument.id))],
            method: point.method ?? methodOf(run, knob),
          },
          readAt: run.at(-1)?.at ?? null,
          outOfDate: run.some((r) => r.instrumentOutOfDate),
        },
      ];
    });
  });
}
