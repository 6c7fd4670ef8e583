import { randomNormal } from "d3-random";

/** A made-up grinder with a coffee in it, for tests, the bench and demo data: what a setting does to the seconds of a shot. */
export interface GrinderTwin {
  /** Setting at which a shot of the usual dose takes `seconds`. */
  readonly at: number;
  readonly seconds: number;
  /** Log-seconds per step finer. */
  readonly slope: number;
  /** A larger figure is finer: +1; coarser: −1. */
  readonly finer: 1 | -1;
  readonly step: number;
  /** First and last setting of its scale; it stops there, whatever is set. */
  readonly ends: readonly [number, number];
  /** Standard deviation of the log-seconds of single shots at one setting. */
  readonly noise: number;
  /** Probability of a shot that is none: a channel, a slip of the hand. */
  readonly odd: number;
}

/** Log-seconds per log-dose: more coffee is slower. From memory. */
const DOSE = 2.5;
/** A shot is given up after this, s. Common practice. */
const GIVEN_UP = 60;

/**
 * Seconds of the setting itself, without the scatter of a shot.
 *
 * @param setting as the scale shows it
 */
export function ownSeconds({ at, seconds, slope, finer, step, ends }: GrinderTwin, setting: number): number {
  const there = Math.min(ends[1], Math.max(ends[0], setting));
  return seconds * Math.exp((slope * finer * (there - at)) / step);
}

/**
 * One shot.
 *
 * @param setting as the scale shows it
 * @param dose over the usual one: 1 where it is met
 * @param random uniform in [0, 1), the only source of chance
 * @returns s; null where it choked
 */
export function pullShot(twin: GrinderTwin, setting: number, dose: number, random: () => number): number | null {
  const normal = randomNormal.source(random)(0, 1);
  const slip = random() < twin.odd ? (random() < 0.5 ? -1 : 1) * (0.3 + 0.4 * random()) : 0;
  const took = ownSeconds(twin, setting) * Math.exp(DOSE * Math.log(dose) + twin.noise * normal() + slip);
  return took > GIVEN_UP ? null : took;
}
