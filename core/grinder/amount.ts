import type { Knob } from "../adjust";
import { type GrindRate, DOSE_SCATTER, TIMER_STEP, rateAt } from "./timed";

/** Knobs that change how much coffee comes: each goes through the one engine. */

/** How the place of an amount knob is read. */
export type AmountKind = "seconds" | "clock" | "threads";

const FAULTS = { stuck: 0.02, reversed: 0.005 } as const;
/** A dose of one setting scatters by about this, g. Common practice, from memory. */
export const DOSE_SD = 0.15;

/** Threads of a stop: about a gram each until learnt. Common practice; a quarter thread is what a hand can set. */
export function stopKnob(): Knob {
  return {
    name: "stop",
    unit: "thread",
    step: 0.25,
    direction: 1,
    response: { mean: 1, sd: 0.3 },
    scatter: DOSE_SD,
    faults: FAULTS,
  };
}

/** A dial without figures, read as clock hours: about a gram an hour until learnt. From memory. */
export function amountDialKnob(): Knob {
  return {
    name: "amount dial",
    unit: "hour",
    step: 0.25,
    direction: 1,
    response: { mean: 1.2, sd: 0.5 },
    largestMove: 6,
    scatter: DOSE_SD,
    faults: FAULTS,
  };
}

/** Seconds on a timer: worth the rate at the setting in hand. */
export function timerKnob(rate: GrindRate, setting: number): Knob {
  const { mean, u } = rateAt(rate, setting);
  return {
    name: "timer",
    unit: "s",
    step: TIMER_STEP,
    direction: 1,
    // A grinder needs a moment to come up to speed: seconds more are worth a little more than the mean rate.
    response: { mean, sd: Math.max(u, 0.05 * mean) },
    scatter: DOSE_SCATTER * 18,
    faults: FAULTS,
  };
}
