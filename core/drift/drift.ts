import { type Tolerance, phi, studentCdf } from "../metrology";

/**
 * How a setting wanders between visits, and when it will have left its tolerance: a Wiener process with drift, seen through readings with
 * errors (the degradation model of Whitmore, Lifetime Data Analysis 1, 1995, 307–319). Each stretch from as left to the next as found tells of
 * it; before there are any, what is told is as wide as the tolerance itself.
 */

/** A value and its standard uncertainty, stored unit. */
export interface Point {
  readonly value: number;
  readonly u: number;
}

/** One visit: what was found and what was left, null where it was not read. */
export interface DriftVisit {
  /** Days since any one day. */
  readonly day: number;
  readonly found: Point | null;
  readonly left: Point | null;
}

export interface Drift {
  /** As left last. */
  readonly from: Point & { readonly day: number };
  /** A year, and its standard uncertainty. */
  readonly rate: number;
  readonly uRate: number;
  /** What it wanders beside that, for the root of a year. */
  readonly sigma: number;
  /** Of the wandering. */
  readonly dof: number;
  /** Stretches between visits that it was learnt from. */
  readonly stretches: number;
}

const YEAR = 365.25;
/**
 * What is thought before anything is seen, in half tolerances. A year’s drift: a pump that lost 2 bar in five years, seen in practice, is two
 * standard deviations of ± 0.5 bar. What a setting wanders beside that in a year: our choice.
 */
const PRIOR = { rate: 0.4, sigma: 0.3, dof: 4 } as const;
/** Stretches shorter than this tell of readings, not of drift, days. */
const SHORTEST = 7;
/** A stretch further off than this, in standard deviations, counts for less (Huber). */
const FAR = 2;
const ROUNDS = 6;

/**
 * Drift of one setting from its visits.
 *
 * @param visits oldest first
 * @returns null where it was never read as left
 */
export function driftFrom(visits: readonly DriftVisit[], tolerance: Tolerance): Drift | null {
  const last = visits.findLast((v) => v.left !== null);
  if (!last?.left) return null;
  const half = halfOf(tolerance);
  const stretches = stretchesOf(visits);
  const prior = { rate: (PRIOR.rate * half) ** 2, sigma: (PRIOR.sigma * half) ** 2 };
  let sigma2 = prior.sigma;
  let rate = 0;
  let uRate2 = prior.rate;
  for (let round = 0; round < ROUNDS; round++) {
    let precision = 1 / prior.rate;
    let sum = 0;
    for (const { years, moved, u2 } of stretches) {
      const variance = u2 + sigma2 * years;
      const z = Math.abs(moved - rate * years) / Math.sqrt(variance);
      const weight = Math.min(1, FAR / z) / variance;
      precision += weight * years ** 2;
      sum += weight * years * moved;
    }
    rate = sum / precision;
    uRate2 = 1 / precision;
    // What is left once the readings’ own errors are taken off; never more of one stretch than it may be far off.
    const seen = stretches.reduce((total, { years, moved, u2 }) => {
      const most = FAR ** 2 * (u2 + sigma2 * years);
      return total + Math.max(0, Math.min((moved - rate * years) ** 2, most) - u2) / years;
    }, 0);
    sigma2 = (PRIOR.dof * prior.sigma + seen) / (PRIOR.dof + stretches.length);
  }
  return {
    from: { ...last.left, day: last.day },
    rate,
    uRate: Math.sqrt(uRate2),
    sigma: Math.sqrt(sigma2),
    dof: PRIOR.dof + stretches.length,
    stretches: stretches.length,
  };
}

/** From each as left to the next as found. */
function stretchesOf(visits: readonly DriftVisit[]) {
  let from: { day: number; left: Point } | null = null;
  const all: { years: number; moved: number; u2: number }[] = [];
  for (const { day, found, left } of visits) {
    if (from && found && day - from.day >= SHORTEST)
      all.push({
        years: (day - from.day) / YEAR,
        moved: found.value - from.left.value,
        u2: found.u ** 2 + from.left.u ** 2,
      });
    if (left) from = { day, left };
  }
  return all;
}

/** Half the tolerance; of a one-sided one a tenth of its limit stands for it. */
function halfOf({ lower, upper }: Tolerance): number {
  if (lower !== undefined && upper !== undefined) return (upper - lower) / 2;
  return Math.max(0.5, Math.abs((lower ?? upper)!) / 10);
}

/**
 * Where a setting stands on a day: expected value and standard deviation.
 *
 * @param day days since the day that visits count from; earlier than the last visit counts as that visit
 */
export function expectedOn({ from, rate, uRate, sigma }: Drift, day: number): Point {
  const years = Math.max(0, day - from.day) / YEAR;
  return {
    value: from.value + rate * years,
    u: Math.sqrt(from.u ** 2 + (uRate * years) ** 2 + sigma ** 2 * years),
  };
}

/**
 * The chance that a setting lies outside its tolerance on a day.
 *
 * @param day days since the day that visits count from
 * @returns 0 to 1
 */
export function pOutside(drift: Drift, { lower, upper }: Tolerance, day: number): number {
  const { value, u } = expectedOn(drift, day);
  const cdf = (x: number) => (drift.dof > 60 ? phi(x) : studentCdf(x, drift.dof));
  const below = lower === undefined ? 0 : cdf((lower - value) / u);
  const above = upper === undefined ? 0 : cdf((value - upper) / u);
  return Math.min(1, below + above);
}

/** Looked ahead no further, days. */
const HORIZON = Math.round(6 * YEAR);

/**
 * The first day on which the chance of being outside has come to `p`.
 *
 * @param p 0 to 1
 * @returns null where that is more than six years off
 */
export function reachedOn(drift: Drift, tolerance: Tolerance, p: number): number | null {
  const start = Math.ceil(drift.from.day);
  const reached = (day: number) => pOutside(drift, tolerance, day) >= p;
  // It may shrink at first, where it drifts inwards from a limit: looked for month by month, then by the day.
  for (let day = start; day <= start + HORIZON; day += 30) {
    if (!reached(day)) continue;
    for (let back = Math.max(start, day - 30); back <= day; back++) if (reached(back)) return back;
  }
  return null;
}
