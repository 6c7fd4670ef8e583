import type { MachineShown } from "./pool";

/** What one machine has shown of a knob, visit by visit: the newest tells most. */

/** From one visit to the next the response of a knob wanders by about a tenth of itself: a screw was serviced, a spring aged. From memory. */
const DRIFT = 0.1;
/** A visit further off than this many standard deviations was an odd one: it weighs as little as makes it fit. Our choice. */
const ODD = 2;

/**
 * The response as it will be on the next visit, from the visits before: a random walk with noisy looks at it (Kalman). What is old fades by
 * the drift since; one visit that fits nothing counts for little (Huber, “Robust Statistics”, 1981).
 *
 * @param shown oldest first, each with its standard deviation > 0
 * @returns null with none
 */
export function ownResponse(shown: readonly MachineShown[]): MachineShown | null {
  let now: { value: number; variance: number } | null = null;
  for (const { value, sd } of shown) {
    if (!now) {
      now = { value, variance: sd * sd };
      continue;
    }
    const prior: number = now.variance + (DRIFT * now.value) ** 2;
    const z = Math.abs(value - now.value) / Math.sqrt(prior + sd * sd);
    const noise = sd * sd * Math.max(1, z / ODD) ** 2 + (z > ODD ? prior * ((z / ODD) ** 2 - 1) : 0);
    const gain: number = prior / (prior + noise);
    now = { value: now.value + gain * (value - now.value), variance: prior * (1 - gain) };
  }
  return now && { value: now.value, sd: Math.sqrt(now.variance + (DRIFT * now.value) ** 2) };
}
