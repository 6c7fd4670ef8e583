import type { Knob } from "../adjust";
import { clockWords, parseClock } from "../pressure";
import { baseUnit, parseQuantity } from "../quantity";
import { type GrindRate, DOSE_SCATTER, TIMER_STEP, rateAt } from "./timed";

/** Knobs that change how much coffee comes: each goes through the one engine. */

/** How the place of an amount knob is read. */
export const AMOUNT_KINDS = ["seconds", "clock", "threads", "degrees", "spring", "notch", "pulses"] as const;
export type AmountKind = (typeof AMOUNT_KINDS)[number];

/** Where an amount stands, as people type it: "8.4 s", "half past two", "6". A sentence when it is not that. */
export function parseAmount(typed: string, kind: AmountKind): number | string {
  if (kind === "clock") {
    const place = parseClock(typed);
    return place.ok ? (place.low + place.high) / 2 : place.message;
  }
  if (kind === "degrees") {
    const degrees = parseQuantity(typed, "temperatureDifference", baseUnit("temperatureDifference"));
    return degrees.ok ? degrees.value : degrees.message;
  }
  const dimension = kind === "seconds" ? "time" : "mark";
  const parsed = parseQuantity(typed, dimension, baseUnit(dimension));
  return parsed.ok ? parsed.value : parsed.message;
}

/**
 * How an amount is written, without its unit: seconds, clock places, threads.
 *
 * @param at s, clock places or threads
 */
export function amountFigure(kind: AmountKind, at: number): string {
  if (kind === "clock") return clockWords(at);
  const figure = kind === "seconds" ? at.toFixed(1) : String(Number(at.toFixed(2))).replace("-", "−");
  return kind === "degrees" && at > 0 ? `+${figure}` : figure;
}

/**
 * An amount with its unit.
 *
 * @param at s, clock places or threads
 * @example amountWords("seconds", 8.4) // "8.4 s"
 */
export function amountWords(kind: AmountKind, at: number): string {
  const unit = {
    seconds: " s",
    clock: "",
    threads: " threads",
    degrees: " °C",
    spring: "",
    notch: "",
    pulses: " pulses",
  }[kind];
  return `${amountFigure(kind, at)}${unit}`;
}

/** From memory: a timer or stop seldom fails, and is set the wrong way round more seldom still. */
const FAULTS = { stuck: 0.02, reversed: 0.005 } as const;
/** A dose of one setting scatters by about this, g. Common practice, from memory. */
export const DOSE_SD = 0.15;

/** Threads that can show: none, or all of such a stop. From memory. */
export const STOP_THREADS = [0, 25] as const;

/**
 * Threads of a stop: about a gram each until learnt. Common practice; a quarter thread is what a hand can set.
 *
 * @param gives what more threads showing give: the model’s
 * @param start threads that showed when it was first weighed, 0 to 25: its ends lie about them
 */
export function stopKnob(gives: "more" | "less", start?: number): Knob {
  return {
    ...(start === undefined ? {} : { travel: { lowest: STOP_THREADS[0] - start, highest: STOP_THREADS[1] - start } }),
    largestMove: 8,
    name: "stop",
    unit: "thread",
    step: 0.25,
    direction: gives === "more" ? 1 : -1,
    response: { mean: 1, sd: 0.3 },
    scatter: DOSE_SD,
    faults: FAULTS,
  };
}

/** Such a dial goes from about 7 o'clock over the top to 5 o'clock, hours counted on past twelve: no other place exists. From memory. */
export const DIAL_ENDS = [7, 17] as const;

/**
 * A dial without figures, read as clock hours: about a gram an hour until learnt. From memory.
 *
 * @param start where it stood when it was first weighed, clock hours; its ends lie about it
 */
export function amountDialKnob(start?: number): Knob {
  return {
    ...(start === undefined ? {} : { travel: { lowest: DIAL_ENDS[0] - start, highest: DIAL_ENDS[1] - start } }),
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

/**
 * Seconds on a timer: worth the rate at the setting in hand.
 *
 * @param setting where the grind stands, as its scale shows it
 */
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
