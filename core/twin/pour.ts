/** A made-up shot for the simulated scale: what stands in the cup at each moment. */
export interface PourTwin {
  /** s from the pump to the first drop */
  readonly firstDrop: number;
  /** g/s once it flows */
  readonly flow: number;
  /** g that still fall after the stop */
  readonly drip: number;
}

/** After the stop the rest of the water in the puck runs out, with this time constant, s. From memory. */
const RUN_OUT = 0.9;
/** After the first drop the flow comes up to its own, with this time constant, s. */
const RISE = 1.2;

/**
 * Grams in the cup: nothing before the first drop, then a flow that rises to its own and holds; after the stop the drip runs out.
 * What is in the cup never grows less, and what comes after the stop is the drip and no more (conservation of mass).
 *
 * @param at s since the pump
 * @param stop s since the pump at which it was stopped; undefined while it runs
 */
export function cupAt({ firstDrop, flow, drip }: PourTwin, at: number, stop?: number): number {
  const ran = Math.max(0, Math.min(at, stop ?? Infinity) - firstDrop);
  const poured = flow * (ran - RISE * (1 - Math.exp(-ran / RISE)));
  if (stop === undefined || at <= stop || ran <= 0) return poured;
  return poured + drip * (1 - Math.exp(-(at - stop) / RUN_OUT));
}

/**
 * A twin from a seed in [0, 1)³, about a target: 36 g in something like 20 to 34 s.
 *
 * @param target g in the cup, > 0
 */
export function pourFrom(random: () => number, target: number): PourTwin {
  const firstDrop = 4 + 4 * random();
  const seconds = 20 + 14 * random();
  return { firstDrop, flow: target / (seconds - firstDrop), drip: 1.5 + 1.5 * random() };
}
