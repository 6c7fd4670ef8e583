import { mean } from "d3-array";

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** A straight line through points, with what is known of how well it fits. */
export interface Line {
  intercept: number;
  slope: number;
  /** Standard uncertainties of intercept and slope, and their covariance. */
  interceptU: number;
  slopeU: number;
  covariance: number;
  /** Standard deviation of the residuals, n − 2 degrees of freedom. */
  residualSd: number;
  dof: number;
  /** y − fitted, in the order given. */
  residuals: number[];
}

/**
 * Least-squares straight line y = intercept + slope·x. Sums are taken about the means, so that large offsets in x do not eat the
 * digits. Source: GUM H.3 (calibration of a thermometer by a fitted line); checked against NIST StRD "Norris".
 *
 * @param points at least 3, with at least two different x
 * @throws RangeError with fewer, or when all x are the same
 */
export function fitLine(points: readonly Point[]): Line {
  const n = points.length;
  if (n < 3) throw new RangeError("A line with its uncertainty needs at least 3 points.");
  const meanX = mean(points, (p) => p.x)!;
  const meanY = mean(points, (p) => p.y)!;
  let xx = 0;
  let xy = 0;
  for (const { x, y } of points) {
    xx += (x - meanX) ** 2;
    xy += (x - meanX) * (y - meanY);
  }
  if (!(xx > 0)) throw new RangeError("A line needs points at two different places at least.");
  const slope = xy / xx;
  const intercept = meanY - slope * meanX;
  const residuals = points.map(({ x, y }) => y - intercept - slope * x);
  const residualSd = Math.sqrt(residuals.reduce((sum, r) => sum + r * r, 0) / (n - 2));
  return {
    intercept,
    slope,
    slopeU: residualSd / Math.sqrt(xx),
    interceptU: residualSd * Math.sqrt(1 / n + meanX ** 2 / xx),
    covariance: (-(residualSd ** 2) * meanX) / xx,
    residualSd,
    dof: n - 2,
    residuals,
  };
}

/**
 * Value of the line at x, with the standard uncertainty of the fitted mean.
 *
 * @param x where, in the unit of the points
 */
export function onLine(line: Line, x: number): { value: number; u: number } {
  const variance = line.interceptU ** 2 + (x * line.slopeU) ** 2 + 2 * x * line.covariance;
  return { value: line.intercept + line.slope * x, u: Math.sqrt(Math.max(0, variance)) };
}
