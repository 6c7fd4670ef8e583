import type { Knob } from "../adjust";
import { type Tolerance, aim, pInside } from "../metrology";
import { type Kept, keptAt } from "./kept";

/** A dose button's programme: pulses, ml or the gram to stop at, for a target in the cup. */

export interface Drip {
  /** g that still fall after the button has stopped. */
  readonly mean: number;
  readonly u: number;
}

/** About 2 g after the stop. Common practice, from memory. */
export const USUAL_DRIP: Drip = { mean: 2, u: 1 };

export interface Programme {
  /** What is stored: whole pulses, or ml to a half. */
  amount: number;
  unit: "pulses" | "ml";
  /** Water in, ml. */
  water: number;
  /** Yield expected, g, and its standard uncertainty for the mean shot. */
  expected: number;
  u: number;
  /** That one shot lands inside. */
  pInside: number;
}

/**
 * Water in = in the cup + kept. The amount is the whole number whose shot lands inside with the greatest probability.
 *
 * @param question tolerance of the yield in g; dose in g; meter in pulses per ml with its standard uncertainty, null to answer in ml
 */
export function programmeFor(question: {
  tolerance: Tolerance;
  dose: number;
  kept: Kept;
  meter: { K: number; u: number; start: number } | null;
}): Programme {
  const { tolerance, dose, kept, meter } = question;
  const back = keptAt(kept, dose);
  const water = aim(tolerance) + back.value;
  const step = meter ? 1 : 0.5;
  const exact = meter ? (water - meter.start) * meter.K : water;
  const amount = Math.max(0, Math.round(exact / step) * step);
  const got = meter ? amount / meter.K + meter.start : amount;
  const expected = got - back.value;
  const u = Math.hypot(back.u, meter ? (got * meter.u) / meter.K : 0.01 * got);
  const shot = Math.hypot(u, kept.sd);
  return {
    amount,
    unit: meter ? "pulses" : "ml",
    water: got,
    expected,
    u,
    pInside: pInside({ value: expected, u: shot }, tolerance),
  };
}

/** For a button that is only taught: the gram on the scale at which to stop, drip taken off. */
export function stopAt(tolerance: Tolerance, drip: Drip): { grams: number; pInside: number } {
  const grams = Math.round(2 * (aim(tolerance) - drip.mean)) / 2;
  return { grams, pInside: pInside({ value: grams + drip.mean, u: drip.u }, tolerance) };
}

/** Drip learnt from shots stopped by hand: what stood on the scale at the stop, and what was in the cup after. */
export function learnDrip(stops: readonly { atStop: number; inCup: number }[], prior: Drip = USUAL_DRIP): Drip {
  let { mean } = prior;
  let variance = prior.u ** 2;
  const noise = 0.5 ** 2;
  for (const { atStop, inCup } of stops) {
    const gain = variance / (variance + noise);
    mean += gain * (inCup - atStop - mean);
    variance *= 1 - gain;
  }
  return { mean, u: Math.sqrt(variance) };
}

/** Shots of one programme scatter by about this, g. From memory. */
export const SHOT_SD = 1.2;

/** The stored programme as a knob: a pulse is worth 1/K g in the cup. */
export function pulseKnob(meter: { K: number; u: number }): Knob {
  const mean = 1 / meter.K;
  return {
    name: "programme",
    unit: "pulse",
    step: 1,
    direction: 1,
    response: { mean, sd: Math.max((mean * meter.u) / meter.K, 0.05 * mean) },
    scatter: 0.2,
    staleProbability: 0.02,
    faults: { stuck: 0.02, reversed: 0.002 },
  };
}

/** Water that may run before the meter counts, ml. From memory. */
const U_START = 2;

/**
 * What a pulse is worth, before the first change: the pulses stored went into the cup and the puck (water balance), so that one shot with
 * its pulses known says more of the meter than what is usual.
 *
 * @param stored pulses of the programme as found, > 0
 * @param cup g it gave
 * @param dose g of coffee, > 0
 */
export function balanced(
  knob: Knob,
  { stored, cup, dose }: { stored: number; cup: number; dose: number },
  kept: Kept,
): Knob {
  const back = keptAt(kept, dose);
  const value = (cup + back.value) / stored;
  const u = Math.hypot(back.u, kept.sd, SHOT_SD, U_START) / stored;
  const { mean, sd } = knob.response;
  const gain = sd ** 2 / (sd ** 2 + u ** 2);
  // Pulses of another machine, or a figure of ml: further off than any meter, it says nothing.
  if (Math.abs(value - mean) > 3 * Math.hypot(sd, u)) return knob;
  return { ...knob, response: { mean: mean + gain * (value - mean), sd: Math.sqrt((1 - gain) * sd ** 2) } };
}

/** Pulses per ml of the turbines met at espresso machines, until this one is fitted. From memory. */
export const USUAL_METER = { K: 2, u: 0.5, start: 0 } as const;

/** Teaching again, stopping earlier or later on the scale. */
export function teachKnob(): Knob {
  return {
    name: "stop",
    unit: "g",
    step: 0.5,
    direction: 1,
    response: { mean: 1, sd: 0.15 },
    scatter: 0.7,
    staleProbability: 0.02,
    faults: { stuck: 0.02, reversed: 0.002 },
  };
}
