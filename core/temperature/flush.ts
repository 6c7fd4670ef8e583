import { coverageFactor, fitLine, onLine } from "../metrology";
import type { PlanStep } from "./plan-steps";

/** Heat exchangers: idle water in the tube is overheated and flushed away first. */

export interface FlushTry {
  /** Seconds flushed. */
  readonly seconds: number;
  /** Water at the coffee after it, °C. */
  readonly celsius: number;
}

export interface FlushAdvice {
  seconds: number;
  /** Half-width of the 95 % interval; null while nothing has been read. */
  U: number | null;
  by: "usual" | "one reading" | "fit";
  why: string;
}

/** 0 to 5 s, or until it stops boiling. Common practice. */
const USUAL = 3;
/** A flush longer than this, s, empties what it should cool. From memory. */
const MOST = 20;
/** Degrees a second of flush takes off, until this machine has shown its own. From memory. */
const USUAL_FALL = 1;

/**
 * Seconds of cooling flush for a target temperature: usual, then from one reading, then from a line through the readings.
 * @param target °C at the coffee
 */
export function flushFor(tries: readonly FlushTry[], target: number): FlushAdvice {
  const clamp = (s: number) => Math.min(MOST, Math.max(0, Math.round(2 * s) / 2));
  const last = tries.at(-1);
  if (!last)
    return {
      seconds: USUAL,
      U: null,
      by: "usual",
      why: "Flush until it stops boiling, 0 to 5 s. Then read the water.",
    };
  const different = new Set(tries.map((t) => t.seconds)).size;
  if (tries.length >= 3 && different >= 2) {
    const line = fitLine(tries.map((t) => ({ x: t.seconds, y: t.celsius })));
    if (line.slope < 0) {
      const seconds = (target - line.intercept) / line.slope;
      const U = (coverageFactor(0.95, line.dof) * onLine(line, seconds).u) / -line.slope;
      return {
        seconds: clamp(seconds),
        U,
        by: "fit",
        why: `This machine loses ${(-line.slope).toFixed(1)} °C a second of flush.`,
      };
    }
  }
  return {
    seconds: clamp(last.seconds + (last.celsius - target) / USUAL_FALL),
    U: null,
    by: "one reading",
    why: `${last.celsius.toFixed(1)} °C after ${last.seconds} s; about ${USUAL_FALL} °C a second until it has shown its own.`,
  };
}

/**
 * A cooling flush by the clock: flush so many seconds, wait for the plateau, brew.
 *
 * @param seconds of flush, ≥ 0
 */
export function flushPlan(seconds: number): PlanStep[] {
  return [
    { label: `Flush ${seconds} s, or until it stops boiling`, seconds, until: "boiling stops" },
    { label: "Portafilter in", seconds: 5 },
    { label: "Brew now", seconds: 30 },
  ];
}
