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
 * Which step a plan is in after so many seconds; null past its end.
 *
 * @param elapsed s since the plan began
 */
export function stepAt(steps: readonly PlanStep[], elapsed: number): { index: number; left: number } | null {
  let end = 0;
  for (const [index, step] of steps.entries()) {
    end += step.seconds;
    if (elapsed < end) return { index, left: end - elapsed };
  }
  return null;
}
