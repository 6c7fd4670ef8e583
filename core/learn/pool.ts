/** What machines of one model have shown of a knob serves the next of the model: a hierarchical prior with partial pooling. */

export interface MachineShown {
  readonly value: number;
  readonly sd: number;
}

export interface Response {
  readonly mean: number;
  readonly sd: number;
}

export interface Pooled extends Response {
  /** Machines it was learnt from. */
  machines: number;
  /** Spread between machines of the model. */
  between: number;
}

/** A machine may be odd: another spring, a worn thread. It then says nothing of its model. From memory: one in twenty. */
export const ODD = 0.05;
/** Odd machines lie anywhere within this many prior spreads. */
export const ODD_WIDTH = 4;
/** Points of the grid of means and spreads. Our choice: finer than the two digits shown of either. */
const MEANS = 25;
const SPREADS = 8;
/**
 * How much of the spread of knobs at large lies between machines of one model, at most about. Our choice, because a model fixes spring and thread, but not wear.
 */
const BETWEEN = 0.6;
/** Beyond this many machines more of them change nothing that matters; the newest are asked. */
const ENOUGH = 200;

/**
 * Two-level normal model: machines of a model scatter by τ about its mean μ; what a machine showed scatters about its own response.
 * μ has the knob’s starting response as prior, τ a half-normal one. A small share of odd machines is allowed for, so that one of them
 * does not poison the model (a contaminated normal). Worked out on a grid over (μ, τ): deterministic.
 * Source: Gelman et al., Bayesian Data Analysis, 5.4 (hierarchical normal model).
 *
 * @param shown one figure per machine, newest last
 * @param start response the knob has where nothing is known
 * @returns predictive mean and standard deviation for the next machine of the model
 */
export function poolModel(shown: readonly MachineShown[], start: Response): Pooled {
  const used = shown.slice(-ENOUGH).filter((s) => s.sd > 0 && Number.isFinite(s.value));
  if (used.length === 0) return { ...start, machines: 0, between: start.sd };
  const centre = median(used.map((s) => s.value));
  const seen = Math.max(1.5 * spreadAbout(centre, used) + typical(used) / Math.sqrt(used.length), 0.02 * start.sd);
  // The grid covers where either the prior or the machines put the mean.
  const low = Math.max(0.02 * start.mean, Math.min(centre, start.mean) - reach(centre, start, seen, used.length));
  const high = Math.max(centre, start.mean) + reach(centre, start, seen, used.length);
  const odd = (ODD_WIDTH * start.sd) ** 2;
  const { mus, taus } = grid(low, high, start, centre, seen, used.length);
  let total = 0;
  let mean = 0;
  let squares = 0;
  let between = 0;
  const logs = logPosterior(mus, taus, used, start, odd);
  const best = logs.reduce((a, b) => Math.max(a, b), -Infinity);
  for (const [m, mu] of mus.entries())
    for (const [t, tau] of taus.entries()) {
      const weight = Math.exp(logs[t * mus.length + m]! - best) * width(mus, m) * width(taus, t);
      total += weight;
      mean += weight * mu;
      squares += weight * (mu * mu + tau * tau);
      between += weight * tau;
    }
  mean /= total;
  return {
    mean,
    sd: Math.sqrt(Math.max(squares / total - mean * mean, (0.01 * start.mean) ** 2)),
    machines: shown.length,
    between: between / total,
  };
}

/** Log posterior over the grid, means within spreads. What does not depend on the mean is worked out once per spread. */
function logPosterior(
  mus: readonly number[],
  taus: readonly number[],
  used: readonly MachineShown[],
  start: Response,
  odd: number,
): Float64Array {
  const n = used.length;
  const values = Float64Array.from(used, (s) => s.value);
  const squares = Float64Array.from(used, (s) => s.sd * s.sd);
  const logs = new Float64Array(mus.length * taus.length);
  const [peak, fall, tail, flat] = [0, 1, 2, 3].map(() => new Float64Array(n)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  for (let i = 0; i < n; i++) {
    const wide = odd + squares[i]!;
    tail[i] = ODD / Math.sqrt(wide);
    flat[i] = -0.5 / wide;
  }
  for (const [t, tau] of taus.entries()) {
    for (let i = 0; i < n; i++) {
      const v = tau * tau + squares[i]!;
      peak[i] = (1 - ODD) / Math.sqrt(v);
      fall[i] = -0.5 / v;
    }
    const prior = -0.5 * (tau / (BETWEEN * start.sd)) ** 2;
    for (const [m, mu] of mus.entries()) {
      let log = prior - 0.5 * ((mu - start.mean) / start.sd) ** 2;
      // A product of some machines at a time: one logarithm for all of them.
      let product = 1;
      for (let i = 0; i < n; i++) {
        const d2 = (values[i]! - mu) ** 2;
        product *= peak[i]! * Math.exp(fall[i]! * d2) + tail[i]! * Math.exp(flat[i]! * d2);
        if (product < 1e-200 || product > 1e200) {
          log += Math.log(product);
          product = 1;
        }
      }
      logs[t * mus.length + m] = log + Math.log(product);
    }
  }
  return logs;
}

function grid(low: number, high: number, start: Response, centre: number, seen: number, n: number) {
  // Fine about the machines' own centre, coarse over the rest.
  const fine = (2.5 * seen) / Math.sqrt(n) + 0.3 * (start.sd / Math.sqrt(n));
  const mus = [
    ...Array.from({ length: MEANS }, (_, i) => low + ((high - low) * i) / (MEANS - 1)),
    ...Array.from({ length: MEANS }, (_, i) => centre + fine * ((2 * i) / (MEANS - 1) - 1)),
  ]
    .filter((mu) => mu > 0)
    .sort((a, b) => a - b);
  const most = 2 * start.sd;
  const taus = Array.from(
    { length: SPREADS },
    (_, i) => 0.02 * start.sd * (most / (0.02 * start.sd)) ** (i / (SPREADS - 1)),
  );
  return { mus, taus };
}

function width(at: readonly number[], i: number): number {
  return ((at[i + 1] ?? at[i]!) - (at[i - 1] ?? at[i]!)) / 2;
}

function reach(centre: number, start: Response, seen: number, n: number): number {
  return Math.abs(centre - start.mean) < start.sd ? 2.5 * start.sd : (4 * seen) / Math.sqrt(n) + start.sd;
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2;
}

function spreadAbout(centre: number, shown: readonly MachineShown[]): number {
  return 1.48 * median(shown.map((s) => Math.abs(s.value - centre)));
}

function typical(shown: readonly MachineShown[]): number {
  return median(shown.map((s) => s.sd));
}
