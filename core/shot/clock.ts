/** The running clock of one shot: three taps. What was tapped stands; a second tap of the same thing is refused. */

export const TAPS = ["pump", "first-drop", "stop"] as const;
export type Tap = (typeof TAPS)[number];

/** When each was tapped, ms. */
export type ShotClock = { readonly [T in Tap]?: number };

/** Shorter is a slip of the finger, longer a clock left running. s */
export const SHORTEST = 1;
export const LONGEST = 180;

const SAID: Record<Tap, string> = { pump: "started", "first-drop": "marked", stop: "stopped" };

/**
 * The clock after one more tap.
 *
 * @param at ms
 * @returns the clock, or a sentence saying why the tap can’t be
 */
export function tapped(clock: ShotClock, tap: Tap, at: number): ShotClock | string {
  if (clock[tap] !== undefined) {
    const ago = Math.max(0, Math.round((at - clock[tap]) / 1000));
    const what = tap === "first-drop" ? "The first drop" : "The timer";
    return `${what} was ${SAID[tap]} already, ${ago} s before. The first tap stands.`;
  }
  if (tap === "pump")
    return clock["first-drop"] === undefined && clock.stop === undefined
      ? { ...clock, pump: at }
      : "The pump comes first.";
  if (clock.pump === undefined) return "Start the timer with the pump first.";
  if (at < clock.pump) return "That was before the pump started.";
  if (tap === "first-drop")
    return clock.stop !== undefined ? "The first drop can’t come after the stop." : { ...clock, "first-drop": at };
  if (at - clock.pump < 1000 * SHORTEST) return "Stopped too soon for a shot. Start the timer again.";
  if (clock["first-drop"] !== undefined && at < clock["first-drop"])
    return "The stop can’t come before the first drop.";
  return { ...clock, stop: at };
}

/** The tap that comes next; null once it is stopped. The first drop may be left out. */
export function nextTap(clock: ShotClock): Tap | null {
  if (clock.pump === undefined) return "pump";
  if (clock.stop !== undefined) return null;
  return clock["first-drop"] === undefined ? "first-drop" : "stop";
}

/**
 * s since the pump, still counting until it is stopped; 0 before it started.
 *
 * @param now ms
 */
export function elapsed(clock: ShotClock, now: number): number {
  if (clock.pump === undefined) return 0;
  return Math.max(0, ((clock.stop ?? now) - clock.pump) / 1000);
}

/** s from the pump to the first drop, and to the stop, as far as they were tapped. */
export function timesOf(clock: ShotClock): { firstDrop: number | null; total: number | null } {
  const since = (at: number | undefined) =>
    at === undefined || clock.pump === undefined ? null : Math.round((at - clock.pump) / 100) / 10;
  return { firstDrop: since(clock["first-drop"]), total: since(clock.stop) };
}
