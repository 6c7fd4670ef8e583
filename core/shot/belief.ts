import { sum } from "d3-array";
import { phi } from "../metrology";
import { type Shot, secondsAt } from "./log";

/** What a grinder does to the seconds of a shot, learnt from the shots themselves. */

export interface Grinder {
  /** +1 where a larger figure on its scale is finer. */
  readonly finer: 1 | -1;
  /** Smallest step of its scale. */
  readonly step: number;
  /** Log-seconds per step finer, before this coffee and grinder have shown their own. */
  readonly slope: { readonly mean: number; readonly sd: number };
}

/** One click is worth about 12 % of the time, give or take 40 % of that. Common practice: one click ≈ several seconds. */
export const USUAL_GRINDER: Grinder = { finer: -1, step: 1, slope: { mean: 0.12, sd: 0.048 } };

/**
 * Clicks of a grinder that is built into a machine are wider: one chokes two or three of them below a good one. From memory; 60 s against
 * 27 over two or three clicks is 0.27 to 0.4 each.
 */
export const BUILT_IN_SLOPE = { mean: 0.28, sd: 0.14 };

/** Single shots of one setting scatter by about this share. From memory. */
export const SHOT_NOISE = 0.06;
/** More coffee is slower: log-seconds per log-dose, and its spread. From memory. */
export const DOSE_EFFECT = { mean: 2.5, sd: 1 };
/**
 * Where shots of any coffee lie before the first one: about 27 s, by a factor of two and more. Our choice: wide enough for a grinder as
 * it came off the van.
 */
const WIDE = { mean: Math.log(27), sd: 0.9 };
// Called some ten thousand times an answer: looked up once.
const { exp, max, min } = Math;

/** Points of the grid. Our choice: a level every few tenths of a second, for some ten thousand looks an answer. */
const LEVELS = 161;
const SLOPES = 25;
/** How far the grid of slopes reaches, in standard deviations of their logarithm: further up, where steps are worth more than thought. */
const FLATTEST = -2.6;
const STEEPEST = 3.2;
/** A shot may be none of this: a channel, a slip. It then says nothing. From memory: one in fifty. */
const ODD = 0.02;

/** The line log(seconds) = level + slope·(steps finer than the origin), as weights on a grid. */
export interface Belief {
  readonly levels: Float64Array;
  readonly slopes: Float64Array;
  readonly weights: Float64Array;
  readonly moments: Moments;
  /** Setting the level belongs to. */
  readonly origin: number;
  readonly grinder: Grinder;
}

/**
 * Steps finer than the origin, of a setting.
 *
 * @param setting as the grinder’s scale shows it
 */
export function stepsFiner(belief: Pick<Belief, "origin" | "grinder">, setting: number): number {
  return (belief.grinder.finer * (setting - belief.origin)) / belief.grinder.step;
}

/**
 * The setting so many steps finer than another, as the grinder’s scale shows it.
 *
 * @param from as the scale shows it
 * @param finer steps, negative where coarser
 */
export function settingAt(from: number, finer: number, { finer: way, step }: Pick<Grinder, "finer" | "step">): number {
  return from + way * finer * step;
}

/**
 * Whether a scale has a setting; one without known ends has them all.
 *
 * @param setting as the scale shows it
 */
export function isOnScale(setting: number, ends: readonly [number, number] | undefined): boolean {
  return !ends || (setting >= ends[0] - 1e-9 && setting <= ends[1] + 1e-9);
}

/**
 * Belief after the shots, by Bayes on a grid over level and slope; choked shots count as “longer than”.
 *
 * @param shots at least one
 * @param aim target dose and yield: shots are carried over to them
 */
export function believe(shots: readonly Shot[], aim: { dose: number; yield: number }, grinder: Grinder): Belief {
  const origin = shots.at(-1)!.setting;
  const first = shots.map((s) => secondsAt(s, aim.yield)).find((t) => t !== null);
  const centre = first == null ? WIDE.mean + 0.5 : Math.log(first);
  // Lognormal: a step is worth twice as much as thought as easily as half, and never nothing or the wrong way, which are no grinds.
  const { mean, sd } = grinder.slope;
  const sigma = Math.sqrt(Math.log1p((sd / mean) ** 2));
  const z = (i: number) => FLATTEST + ((STEEPEST - FLATTEST) * i) / (SLOPES - 1);
  const slopes = Float64Array.from({ length: SLOPES }, (_, i) => mean * exp(sigma * z(i) - sigma ** 2 / 2));
  const levels = Float64Array.from(
    { length: LEVELS },
    (_, i) => Math.min(WIDE.mean, centre) - 1.6 + ((3.2 + Math.abs(centre - WIDE.mean)) * i) / (LEVELS - 1),
  );
  const weights = new Float64Array(LEVELS * SLOPES);
  const belief = { levels, slopes, weights, origin, grinder };
  for (let s = 0; s < SLOPES; s++)
    for (let l = 0; l < LEVELS; l++)
      weights[s * LEVELS + l] = density(z(s), 0, 1) * density(levels[l]!, WIDE.mean, WIDE.sd);
  for (const shot of shots) update(belief, shot, aim);
  const total = weights.reduce((a, b) => a + b, 0);
  for (let i = 0; i < weights.length; i++) weights[i]! /= total;
  return { ...belief, moments: momentsOf(levels, slopes, weights) };
}

function update(belief: Omit<Belief, "moments">, shot: Shot, aim: { dose: number; yield: number }): void {
  const { levels, slopes, weights } = belief;
  const x = stepsFiner(belief, shot.setting);
  const heavier = Math.log(shot.dose / aim.dose);
  const shift = DOSE_EFFECT.mean * heavier;
  const noise = Math.hypot(SHOT_NOISE, DOSE_EFFECT.sd * heavier);
  const seconds = secondsAt(shot, aim.yield);
  const seen = seconds === null ? Math.log(max(1, shot.seconds)) : Math.log(seconds);
  for (let s = 0; s < SLOPES; s++)
    for (let l = 0; l < LEVELS; l++) {
      const expected = levels[l]! + slopes[s]! * x + shift;
      const chance = seconds === null ? phi((expected - seen) / noise) : density(seen, expected, noise);
      weights[s * LEVELS + l]! *= (1 - ODD) * chance + ODD * 0.3;
    }
}

/**
 * What shots of one coffee showed of a step: the slope of log-seconds over steps finer, by weighted least squares, shots carried over to one
 * dose and yield. Not of cold ones, sprays, or those that came to nothing.
 *
 * @returns log-seconds per step and its standard deviation; null with one setting alone, or where finer was not slower
 */
export function slopeShown(
  shots: readonly Shot[],
  aim: { dose: number; yield: number },
  { finer, step }: Pick<Grinder, "finer" | "step">,
): { value: number; sd: number; moves: number } | null {
  const seen = shots.flatMap((shot) => {
    const seconds = shot.cold || shot.flow === "spray" ? null : secondsAt(shot, aim.yield);
    if (seconds === null) return [];
    const heavier = Math.log(shot.dose / aim.dose);
    const variance = SHOT_NOISE ** 2 + (DOSE_EFFECT.sd * heavier) ** 2;
    return [{ x: (finer * shot.setting) / step, y: Math.log(seconds) - DOSE_EFFECT.mean * heavier, w: 1 / variance }];
  });
  const weights = sum(seen, (s) => s.w);
  const [x, y] = [sum(seen, (s) => s.w * s.x) / weights, sum(seen, (s) => s.w * s.y) / weights];
  const xx = sum(seen, (s) => s.w * (s.x - x) ** 2);
  const value = sum(seen, (s) => s.w * (s.x - x) * (s.y - y)) / xx;
  if (!(xx > 0 && value > 0)) return null;
  return { value, sd: 1 / Math.sqrt(xx), moves: new Set(seen.map((s) => s.x)).size - 1 };
}

/** Means, variances and covariance of level and slope: all that the mean and spread of any setting need. */
interface Moments {
  readonly level: number;
  readonly slope: number;
  readonly ll: number;
  readonly ls: number;
  readonly ss: number;
}

function momentsOf(levels: Float64Array, slopes: Float64Array, weights: Float64Array): Moments {
  // About the middle of the grid: small numbers lose no digits in their squares.
  const [l0, s0] = [levels[LEVELS >> 1]!, slopes[SLOPES >> 1]!];
  let [level, slope, ll, ls, ss] = [0, 0, 0, 0, 0];
  for (let s = 0; s < SLOPES; s++)
    for (let l = 0; l < LEVELS; l++) {
      const w = weights[s * LEVELS + l]!;
      const [dl, ds] = [levels[l]! - l0, slopes[s]! - s0];
      level += w * dl;
      slope += w * ds;
      ll += w * dl * dl;
      ls += w * dl * ds;
      ss += w * ds * ds;
    }
  return {
    level: l0 + level,
    slope: s0 + slope,
    ll: ll - level * level,
    ls: ls - level * slope,
    ss: ss - slope * slope,
  };
}

/**
 * Mean and variance of the log-seconds that a setting stands for, noise of a shot left out.
 *
 * @param setting as the grinder’s scale shows it
 */
export function at(belief: Belief, setting: number): { mean: number; variance: number } {
  const { level, slope, ll, ls, ss } = belief.moments;
  const x = stepsFiner(belief, setting);
  return { mean: level + slope * x, variance: max(ll + 2 * x * ls + x * x * ss, 1e-9) };
}

/** Seconds that are wanted, both > 0. */
export interface Window {
  readonly lower: number;
  readonly upper: number;
}

/**
 * Probability that a setting’s own time lies in a window.
 *
 * @param setting as the grinder’s scale shows it
 */
export function inWindow(belief: Belief, setting: number, { lower, upper }: Window): number {
  const { levels, slopes, weights } = belief;
  const x = stepsFiner(belief, setting);
  const [a, b] = [Math.log(lower), Math.log(upper)];
  const width = levels[1]! - levels[0]!;
  let sum = 0;
  for (let s = 0; s < SLOPES; s++)
    for (let l = 0; l < LEVELS; l++) {
      // The node stands for its cell: what of it lies inside counts.
      const value = levels[l]! + slopes[s]! * x;
      const inside = min(value + width / 2, b) - max(value - width / 2, a);
      if (inside > 0) sum += weights[s * LEVELS + l]! * min(1, inside / width);
    }
  return sum;
}

/**
 * Probability that the next shot at a setting lies in a window: its own time, and the scatter of single shots.
 *
 * @param setting as the grinder’s scale shows it
 */
export function nextInWindow(belief: Belief, setting: number, { lower, upper }: Window): number {
  const { levels, slopes, weights } = belief;
  const x = stepsFiner(belief, setting);
  const [a, b] = [Math.log(lower), Math.log(upper)];
  let sum = 0;
  for (let s = 0; s < SLOPES; s++)
    for (let l = 0; l < LEVELS; l++) {
      const weight = weights[s * LEVELS + l]!;
      if (weight < 1e-7) continue;
      const value = levels[l]! + slopes[s]! * x;
      sum += weight * (phi((b - value) / SHOT_NOISE) - phi((a - value) / SHOT_NOISE));
    }
  return sum;
}

/**
 * Probability that some setting of the scale makes the window: of all between its ends, and of the whole steps among them.
 *
 * @param ends lowest and highest setting; left out where the scale goes on
 */
export function reachOf(
  belief: Belief,
  { lower, upper }: Window,
  ends: readonly [number, number] | undefined,
): { between: number; whole: number } {
  const { levels, slopes, weights } = belief;
  const [a, b] = [Math.log(lower), Math.log(upper)];
  const [p, q] = ends ? ends.map((end) => stepsFiner(belief, end)) : [-Infinity, Infinity];
  const [coarsest, finest] = [min(p!, q!), max(p!, q!)];
  let [between, whole] = [0, 0];
  for (let s = 0; s < SLOPES; s++)
    for (let l = 0; l < LEVELS; l++) {
      const from = max(coarsest, (a - levels[l]!) / slopes[s]!);
      const to = min(finest, (b - levels[l]!) / slopes[s]!);
      if (from > to) continue;
      between += weights[s * LEVELS + l]!;
      if (Math.floor(to + 1e-9) >= Math.ceil(from - 1e-9)) whole += weights[s * LEVELS + l]!;
    }
  return { between, whole };
}

/** Slope in log-seconds per step finer: mean and standard deviation. */
export function slopeOf({ moments }: Belief): { mean: number; sd: number } {
  return { mean: moments.slope, sd: Math.sqrt(max(0, moments.ss)) };
}

function density(x: number, mean: number, sd: number): number {
  return exp(-0.5 * ((x - mean) / sd) ** 2) / sd;
}
