/** One step of a timed plan that a technician follows. */
export interface PlanStep {
  readonly label: string;
  /** s; 0 for something done in passing */
  readonly seconds: number;
  /** Ends when something is seen, not by the clock; the seconds are what to expect. */
  readonly until?: "light" | "boiling stops";
}

/** How long a plan takes in all, s. */
export function planSeconds(steps: readonly PlanStep[]): number {
  return steps.reduce((sum, s) => sum + s.seconds, 0);
}

/**
 * Which step a plan is in after so many seconds; null past its end. A step that ends by something seen lasts until it was said to be seen,
 * however long that takes: its seconds only say what to expect.
 *
 * @param elapsed s since the plan began
 * @param seen s since the plan began at which each such step was said to have ended, in order
 * @returns the step, and the seconds left of it; below 0 where it takes longer than expected
 */
export function planAt(
  steps: readonly PlanStep[],
  elapsed: number,
  seen: readonly number[],
): { index: number; left: number } | null {
  let begun = 0;
  let ended = 0;
  for (const [index, step] of steps.entries()) {
    const expected = begun + step.seconds;
    const end = step.until ? (seen[ended++] ?? Infinity) : expected;
    if (elapsed < end) return { index, left: expected - elapsed };
    begun = end;
  }
  return null;
}
