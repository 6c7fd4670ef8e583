/**
 * Work in bursts against the clock: a fill that must end inside its limit, or a dry pump that may only run so long and then rests.
 * Common practice: a control stops a fill after 2 minutes to save the element; off about 5 s, on again, one retry; a second alarm means
 * that no water is arriving. A pump priming a dry boiler runs under about a minute, then rests a few minutes.
 */
export interface BurstRule {
  /** Longest burst, s. */
  readonly limit: number;
  /** Pause before another try, s. */
  readonly pause: number;
  /** Tries in all. */
  readonly tries: number;
  /** Rest after one that succeeded, s. */
  readonly restAfter: number;
}

/** A fill and a dry prime, as told above. Common practice. */
export const FILL: BurstRule = { limit: 120, pause: 5, tries: 2, restAfter: 0 };
export const PRIME: BurstRule = { limit: 60, pause: 180, tries: 3, restAfter: 180 };

/** One burst: when it began, and how it ended if it has. Times in ms. */
export interface Burst {
  readonly startedAt: number;
  readonly endedAt: number | null;
  /** done: water arrived, boiler full. alarm: the control stopped it or the hand did. */
  readonly outcome: "done" | "alarm" | null;
}

export type BurstState =
  | { phase: "idle"; next: 1 }
  | { phase: "running"; attempt: number; until: number }
  | { phase: "pause"; attempt: number; until: number }
  | { phase: "again"; next: number }
  | { phase: "resting"; until: number; seconds: number; attempt: number }
  | { phase: "done"; seconds: number; attempt: number }
  | { phase: "fault"; attempt: number };

/**
 * Where the bursts stand now. A burst that nobody ended is over at its limit, and counts as an alarm.
 *
 * @param now ms
 */
export function burstState(bursts: readonly Burst[], now: number, rule: BurstRule): BurstState {
  const last = bursts.at(-1);
  if (!last) return { phase: "idle", next: 1 };
  const attempt = bursts.length;
  const until = last.startedAt + 1000 * rule.limit;
  if (last.endedAt === null && now < until) return { phase: "running", attempt, until };
  const end = Math.min(last.endedAt ?? until, until);
  if (last.outcome === "done" && last.endedAt !== null && last.endedAt <= until) {
    const seconds = (last.endedAt - last.startedAt) / 1000;
    const rested = end + 1000 * rule.restAfter;
    return now < rested ? { phase: "resting", until: rested, seconds, attempt } : { phase: "done", seconds, attempt };
  }
  if (attempt >= rule.tries) return { phase: "fault", attempt };
  const ready = end + 1000 * rule.pause;
  return now < ready ? { phase: "pause", attempt, until: ready } : { phase: "again", next: attempt + 1 };
}

/** What to look for when no water arrives, likeliest first. Common practice. */
export const NO_WATER = [
  "Shut-off valve closed, or opened a little only.",
  "Line pressure under 3 bar while the pump runs: a starved inlet, a kinked hose, a full strainer.",
  "Cartridge not flushed or fitted the wrong way round.",
  "Fill valve not opening: listen for its click at the start.",
  "Level probe or its lead: scale, or off its terminal.",
] as const;
