import type { BudgetLine } from "./budget";
import { normalDensity, phi, studentCdf } from "./distributions";
import type { Verdict } from "./verdict";

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
  /** Half-width of the widest rectangle that u is made of, 0 or left out where there is none: a class error is anywhere in it, and not beyond. */
  half?: number;
}

/**
 * Half-width of the widest rectangular input of a budget, in the unit of the result; 0 where there is none.
 */
export function widestRectangle(budget: readonly BudgetLine[]): number {
  const widths = budget.map((l) =>
    l.distribution === "rectangular" ? Math.abs(l.sensitivity * l.u) * Math.sqrt(3) : 0,
  );
  return Math.max(0, ...widths);
}

/**
 * Probability that the true value lies inside a one- or two-sided tolerance, given an estimate and its standard uncertainty.
 * Normal for ν = ∞, scaled and shifted t else; where a rectangle is the widest part, that rectangle blurred by a normal of the rest.
 * Source: JCGM 106:2012, 7.2–7.4, equations 8 to 12; the sum of a rectangle and a normal in closed form.
 *
 * @throws RangeError when u is negative or no limit is set
 * @example pInside({ value: 9.5, u: 0.1 }, { upper: 9.5 }) // 0.5
 */
export function pInside(
  estimate: { value: number; u: number; dof?: number; half?: number },
  tolerance: Tolerance,
): number {
  checkTolerance(tolerance);
  const { value, u, dof = Infinity, half = 0 } = estimate;
  if (!(u >= 0)) throw new RangeError("A standard uncertainty is 0 or more.");
  const { lower = -Infinity, upper = Infinity } = tolerance;
  if (u === 0) return value >= lower && value <= upper ? 1 : 0;
  // Both shapes are symmetric: a difference of two that are nearly 1 is taken in the other tail, where nothing is lost.
  const far = lower > value;
  const [near, away] = far ? [value - lower, value - upper] : [upper - value, lower - value];
  const below = (distance: number) =>
    distance === Infinity ? 1 : distance === -Infinity ? 0 : belowLimit(distance, { u, dof, half });
  return Math.min(1, Math.max(0, below(near) - below(away)));
}

/** Rest of the spread that is left to the normal at least, as a share of u: a rectangle alone has no tails at all, and no budget is that sure. */
const LEAST_REST = 0.05;

/** Distribution function at a distance from the estimate. */
function belowLimit(distance: number, { u, dof, half }: { u: number; dof: number; half: number }): number {
  const rest = Math.sqrt(Math.max((LEAST_REST * u) ** 2, u * u - (half * half) / 3));
  // A rectangle that is not the greater part is lost in the rest.
  if (half <= rest) return studentCdf(distance / u, dof);
  // Mean of Φ((d − t)/σ) over t from −a to a.
  return Math.min(
    1,
    Math.max(0, (rest / (2 * half)) * (whole((distance + half) / rest) - whole((distance - half) / rest))),
  );
}

/** From here on down the two terms of the integral differ by less than their rounding: its asymptotic series is exact there. */
const DEEP = -8;

/**
 * The integral of Φ from −∞ to z, which is zΦ(z) + φ(z); far down by φ(z)/z² (1 − 3/z² + 15/z⁴ − 105/z⁶), Abramowitz and Stegun 26.2.12.
 *
 * @param z in standard deviations
 */
function whole(z: number): number {
  if (z > DEEP) return Math.max(0, z * phi(z) + normalDensity(z));
  const s = 1 / (z * z);
  return normalDensity(z) * s * (1 - s * (3 - s * (15 - s * 105)));
}

/**
 * The verdict in the four words of the product.
 *
 * - holds: inside, with at least U to spare to every limit
 * - just holds: inside by less than U. Under the guarded rule only if it is inside with 80 % or more
 * - can't tell: nearer to a limit than U and not inside surely enough; and whatever the figure, where U is over half the tolerance: such an
 *   instrument can't show anything in spec, so what it shows near the middle is no verdict either
 * - off: outside. Under the guarded rule by at least U, or where it is inside with 5 % at most
 *
 * @param estimate value and U in the unit of the tolerance
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

/** Our choice: 1 wrong in 20, as everywhere. */
const SURELY_OUT = 0.05;

function verdictOf(margin: number, U: number, p: number, rule: DecisionRule, ratio: number | undefined): Verdict {
  // Figures typed to a decimal meet limits exactly; floating point must not decide there.
  const even = 1e-9;
  if (margin >= U - even) return "holds";
  if (margin <= -U + even) return "off";
  if (ratio !== undefined && ratio < 1) return rule === "guarded" && p <= SURELY_OUT ? "off" : "can't tell";
  if (rule === "simple") return margin >= 0 ? "just holds" : "off";
  if (p <= SURELY_OUT) return "off";
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
