import normalCdf from "@stdlib/stats-base-dists-normal-cdf";
import normalQuantile from "@stdlib/stats-base-dists-normal-quantile";
import tCdf from "@stdlib/stats-base-dists-t-cdf";
import tQuantile from "@stdlib/stats-base-dists-t-quantile";

// Called some thousand times an answer: looked up once.
const { exp, sqrt } = Math;

/**
 * Φ(z), the standard normal distribution function.
 *
 * @param z any number; ±∞ too
 */
export function phi(z: number): number {
  return normalCdf(z, 0, 1);
}

/**
 * φ(z), the standard normal density.
 *
 * @param z any number
 */
export function normalDensity(z: number): number {
  return exp(-0.5 * z * z) / sqrt(2 * Math.PI);
}

/**
 * z with Φ(z) = p.
 *
 * @param p in (0, 1)
 */
export function phiInverse(p: number): number {
  return normalQuantile(p, 0, 1);
}

/** From so many degrees of freedom on, t is the normal to nine digits; the library’s quantile comes to nothing at all from 10¹⁷. */
const NORMAL_FROM = 1e9;

/**
 * Student's t distribution function; ν = ∞ is the normal.
 *
 * @param t any number
 * @param dof degrees of freedom ν, > 0
 */
export function studentCdf(t: number, dof: number): number {
  return dof < NORMAL_FROM ? tCdf(t, dof) : phi(t);
}

/**
 * Coverage factor of a two-sided interval.
 *
 * @param coverage probability inside, in (0, 1), e.g. 0.95
 * @param dof effective degrees of freedom, ≥ 1, Infinity for the normal
 * @example coverageFactor(0.95, 10) // 2.228…
 */
export function coverageFactor(coverage: number, dof: number): number {
  const p = (1 + coverage) / 2;
  return dof < NORMAL_FROM ? tQuantile(p, dof) : phiInverse(p);
}
