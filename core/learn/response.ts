import { mean } from "d3-array";
import type { AdjustEvent } from "../adjust";

/** What one job showed of a knob’s response. */
export interface Shown {
  /** Reading units per knob unit, size. */
  value: number;
  /** Standard deviation. */
  sd: number;
  moves: number;
}

/**
 * Response from the log of one job: each move with readings on both sides says Δreading/amount, weighed by its variance. Lost motion
 * and scatter widen it. Moves in a row without a reading between count as one.
 *
 * @param noise what a move scatters by for reasons of its own (reading units), and lost motion (knob units)
 * @returns null when no move has readings on both sides, or what it showed is not a response (0, or the wrong way)
 */
export function shownResponse(
  events: readonly AdjustEvent[],
  direction: 1 | -1,
  noise: { scatter: number; backlash: number },
): Shown | null {
  let weights = 0;
  let sum = 0;
  let moves = 0;
  let before: number[] = [];
  let u = 0;
  let amount = 0;
  let after: number[] = [];
  const take = () => {
    if (before.length && after.length && amount !== 0) {
      const change = mean(after)! - mean(before)!;
      const r = (direction * change) / amount;
      const variance = u ** 2 * (1 / before.length + 1 / after.length) + noise.scatter ** 2;
      const v = variance / amount ** 2 + ((noise.backlash / 3) * (r / amount)) ** 2;
      weights += 1 / v;
      sum += r / v;
      moves++;
    }
  };
  for (const e of events) {
    if (e.kind === "reading") {
      u = Math.max(u, e.u);
      if (amount === 0) before.push(e.value);
      else after.push(e.value);
    } else if (after.length) {
      take();
      before = after;
      after = [];
      amount = e.amount;
    } else if (before.length) amount += e.amount;
  }
  take();
  const value = sum / weights;
  return moves > 0 && value > 0 && Number.isFinite(value) ? { value, sd: Math.sqrt(1 / weights), moves } : null;
}
