import { type Tolerance, aim, pInside } from "../metrology";

/** Grinders that dose by seconds: grams per second depend on the setting, so the grind changes the dose. */

export interface TimedDose {
  /** s the grinder ran */
  readonly seconds: number;
  /** g weighed */
  readonly grams: number;
  /** On the grinder’s own scale. */
  readonly setting: number;
}

export interface GrinderScale {
  /** +1 where a larger figure is finer. */
  readonly finer: 1 | -1;
  /** Smallest step. */
  readonly step: number;
}

/** log(g/s) = level + perStep · (steps coarser than the origin), as a normal for both. */
export interface GrindRate {
  readonly level: number;
  readonly perStep: number;
  readonly covariance: readonly [ll: number, lp: number, pp: number];
  readonly origin: number;
  readonly scale: GrinderScale;
  readonly doses: number;
}

/** About 2 g a second, by a factor of two. From memory. */
const LEVEL = { mean: Math.log(2), sd: 0.7 };
/** Coarser grinds faster: about 3 % a step, give or take half of it. Direction common practice, size from memory. */
const PER_STEP = { mean: 0.03, sd: 0.015 };
/** One timed dose scatters by about this share. From memory. */
export const DOSE_SCATTER = 0.02;

const coarser = ({ origin, scale }: Pick<GrindRate, "origin" | "scale">, setting: number) =>
  (-scale.finer * (setting - origin)) / scale.step;

/**
 * Rate of a timed grinder against its setting, by Bayesian straight line through log-rates.
 *
 * @param doses none gives what such grinders usually do
 * @throws RangeError when a dose has no seconds or grams above 0
 */
export function fitRate(doses: readonly TimedDose[], scale: GrinderScale): GrindRate {
  const origin = doses.at(-1)?.setting ?? 0;
  let level = LEVEL.mean;
  let perStep = PER_STEP.mean;
  let [ll, lp, pp] = [LEVEL.sd ** 2, 0, PER_STEP.sd ** 2];
  for (const { seconds, grams, setting } of doses) {
    if (!(seconds > 0) || !(grams > 0)) throw new RangeError("A timed dose has seconds and grams above 0.");
    const x = coarser({ origin, scale }, setting);
    const variance = ll + 2 * x * lp + x * x * pp + DOSE_SCATTER ** 2;
    const gain = [(ll + x * lp) / variance, (lp + x * pp) / variance] as const;
    const off = Math.log(grams / seconds) - (level + perStep * x);
    level += gain[0] * off;
    perStep += gain[1] * off;
    [ll, lp, pp] = [ll - gain[0] ** 2 * variance, lp - gain[0] * gain[1] * variance, pp - gain[1] ** 2 * variance];
  }
  return { level, perStep, covariance: [ll, lp, pp], origin, scale, doses: doses.length };
}

/**
 * g/s at a setting, and its standard uncertainty, scatter of a single dose left out.
 *
 * @param setting where the grind stands, as its scale shows it
 */
export function rateAt(rate: GrindRate, setting: number): { mean: number; u: number } {
  const x = coarser(rate, setting);
  const [ll, lp, pp] = rate.covariance;
  const mean = Math.exp(rate.level + rate.perStep * x);
  return { mean, u: mean * Math.sqrt(Math.max(0, ll + 2 * x * lp + x * x * pp)) };
}

/** The timer counts tenths of a second. */
export const TIMER_STEP = 0.1;

export interface TimedFor {
  /** s to set, in whole steps of the timer */
  seconds: number;
  /** Standard uncertainty of the seconds the target truly needs. */
  uSeconds: number;
  /** g expected, and the standard uncertainty of one dose. */
  grams: number;
  u: number;
  pInside: number;
}

/**
 * Seconds for a dose at a setting: g = rate × s. Common practice.
 *
 * @param setting where the grind stands, as its scale shows it
 */
export function secondsFor(tolerance: Tolerance, rate: GrindRate, setting: number): TimedFor {
  const { mean, u } = rateAt(rate, setting);
  const exact = aim(tolerance) / mean;
  const seconds = Math.max(1, Math.round(exact / TIMER_STEP)) * TIMER_STEP;
  const grams = mean * seconds;
  const spread = Math.hypot(seconds * u, DOSE_SCATTER * grams);
  return {
    seconds: Math.round(seconds * 10) / 10,
    uSeconds: (exact * u) / mean,
    grams,
    u: spread,
    pInside: pInside({ value: grams, u: spread }, tolerance),
  };
}
