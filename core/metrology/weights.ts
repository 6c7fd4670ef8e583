/**
 * Weights that sum to 1, from their logarithms: the largest is taken off first, so that however unlikely all of them are none is lost.
 *
 * @param logs natural logarithms of weights up to a common factor, at least one of them finite
 */
export function weightsFrom(logs: readonly number[]): number[] {
  const top = Math.max(...logs);
  const weights = logs.map((log) => Math.exp(log - top));
  const total = weights.reduce((sum, w) => sum + w, 0);
  return weights.map((w) => w / total);
}
