import { studentCdf } from "./distributions";

/** A tolerance on one quantity, stored unit. At least one limit is set, and lower < upper. */
export interface Tolerance {
  readonly lower?: number | undefined;
  readonly target?: number | undefined;
  readonly upper?: number | undefined;
}

/**
 * How a value is held against the limits.
 * simple: inside is inside (shared risk). guarded: inside by at least U (ILAC-G8:09/2019, w = U).
 */
export type DecisionRule = "simple" | "guarded";

/** How a verdict is said. The words of old records stay what they are. */
export const VERDICT_WORDS: Readonly<Record<Verdict, string>> = {
  holds: "in spec",
  "just holds": "just in",
  "can't tell": "can’t tell",
  off: "out of spec",
};

export const VERDICTS = ["holds", "just holds", "can't tell", "off"] as const;
export type Verdict = (typeof VERDICTS)[number];

export interface Conformity {
  /** Probability that the true value lies inside the tolerance (JCGM 106:2012, 7). */
  pInside: number;
  verdict: Verdict;
  /** Test uncertainty ratio: half the tolerance ÷ U; undefined for a one-sided tolerance. */
  ratio: number | undefined;
}

export interface Estimate {
  value: number;
  /** Standard uncertainty, ≥ 0. */
  u: number;
  /** Effective degrees of freedom; Infinity for the normal. */
  dof?: number;
  /** Expanded uncertainty. */
  U: number;
}

/**
 * Probability that the true value lies inside a one- or two-sided tolerance, given an estimate and its standard uncertainty.
 * Normal for ν = ∞, scaled and shifted t else. Source: JCGM 106:2012, 7.2–7.4, equations 8 to 12.
 *
 * @throws RangeError when u is negative or no limit is set
 * @example pInside({ value: 9.5, u: 0.1 }, { upper: 9.5 }) // 0.5
 */
export function pInside(estimate: { value: number; u: number; dof?: number }, tolerance: Tolerance): number {
  checkTolerance(tolerance);
  const { value, u, dof = Infinity } = estimate;
  if (!(u >= 0)) throw new RangeError("A standard uncertainty is 0 or more.");
  const { lower = -Infinity, upper = Infinity } = tolerance;
  if (u === 0) return value >= lower && value <= upper ? 1 : 0;
  const below = (limit: number) =>
    limit === Infinity ? 1 : limit === -Infinity ? 0 : studentCdf((limit - value) / u, dof);
  return below(upper) - below(lower);
}

/**
 * The verdict in the four words of the product.
 *
 * - holds: inside, with at least U to spare to every limit
 * - just holds: inside by less than U. Under the guarded rule only if it is inside with 80 % or more
 * - can't tell: nearer to a limit than U and not inside surely enough (or, under the simple rule, U wider than the tolerance)
 * - off: outside. Under the guarded rule by at least U
 */
export function judge(estimate: Estimate, tolerance: Tolerance, rule: DecisionRule): Conformity {
  const p = pInside(estimate, tolerance);
  const { lower = -Infinity, upper = Infinity } = tolerance;
  const { value, U } = estimate;
  const half = (upper - lower) / 2;
  const ratio = Number.isFinite(half) ? half / U : undefined;
  const margin = Math.min(value - lower, upper - value);
  return { pInside: p, verdict: verdictOf(margin, U, p, rule, ratio), ratio };
}

function verdictOf(margin: number, U: number, p: number, rule: DecisionRule, ratio: number | undefined): Verdict {
  // Figures typed to a decimal meet limits exactly; floating point must not decide there.
  const even = 1e-9;
  if (margin >= U - even) return "holds";
  if (margin <= -U + even) return "off";
  if (ratio !== undefined && ratio < 1) return "can't tell";
  if (rule === "simple") return margin >= 0 ? "just holds" : "off";
  return margin >= 0 && p >= 0.8 ? "just holds" : "can't tell";
}

/**
 * Refuses a tolerance that is none.
 *
 * @throws RangeError when it has no limit or its limits are the wrong way round.
 */
export function checkTolerance({ lower, upper, target }: Tolerance): void {
  if (lower === undefined && upper === undefined) throw new RangeError("A tolerance needs at least one limit.");
  if (lower !== undefined && upper !== undefined && !(lower < upper))
    throw new RangeError("The lower limit must lie below the upper one.");
  if (target !== undefined && (target < (lower ?? -Infinity) || target > (upper ?? Infinity)))
    throw new RangeError("The target must lie inside the limits.");
}

/** The middle to aim for: the target, else the centre, else one-sided: the limit itself. */
export function aim({ lower, target, upper }: Tolerance): number {
  return target ?? (lower !== undefined && upper !== undefined ? (lower + upper) / 2 : (lower ?? upper)!);
}
