import { type Tolerance, aim } from "./conformity";
import type { Instrument } from "./instrument";
import { AT_THE_GROUP, type GaugePlace } from "./instrument";
import { measure } from "./reading";

/** Accuracy classes gauges are sold in. Source: EN 837-1, clause 6 (from memory). */
const CLASSES = [4, 2.5, 1.6, 1, 0.6, 0.25, 0.1] as const;

/**
 * fine: half the tolerance is at least three times U, the usual demand on a test. coarse: figures well inside or outside can be
 * told, those near a limit can't. too-coarse: not even the middle of the tolerance could be called inside.
 */
export type Fineness = "fine" | "coarse" | "too-coarse" | "open";

export interface Suitability {
  fineness: Fineness;
  /** Half the tolerance ÷ U of the mean of two readings; undefined with a one-sided tolerance. */
  ratio: number | undefined;
  /** U of two readings at the middle of the tolerance. */
  U: number;
  /** Largest limit of error that would be fine (or at least decide), and the coarsest standard class that meets it on this span; null when none does. */
  wouldDo: { limit: number; percentOfSpan: number | null } | null;
}

/** Tolerance over U asked for: the usual 3 to 1 of shop practice (JCGM 106 leaves the ratio to whoever decides). */
const FINE = 3;
/** Ratios asked for, the demanding one first. */
const ASKED = [FINE, 2, 1.25];

/**
 * Whether an instrument is fine enough for a tolerance, said before it is used: the test uncertainty ratio of two readings.
 * Source: ILAC-G8:09/2019 on ratio and guard band; the demand of 3 : 1 is common practice.
 */
export function suitability(
  instrument: Instrument,
  tolerance: Tolerance,
  at: Date,
  place: GaugePlace = AT_THE_GROUP,
): Suitability {
  const mid = Math.min(instrument.highest, Math.max(instrument.lowest, aim(tolerance) - place.toGroup));
  // Outside its certificate nothing is known of its correction, but its error statement still stands.
  const { U } = measure([mid, mid], { ...instrument, corrections: [] }, at, place);
  if (tolerance.lower === undefined || tolerance.upper === undefined)
    return { fineness: "open", ratio: undefined, U, wouldDo: null };
  const half = (tolerance.upper - tolerance.lower) / 2;
  const ratio = half / U;
  const fineness = ratio >= FINE ? "fine" : ratio >= 1 ? "coarse" : "too-coarse";
  if (fineness === "fine") return { fineness, ratio, U, wouldDo: null };
  // With a smaller error the rest of the budget weighs more, and k with it: worked out anew for each error that is tried.
  const ratioWith = (limit: number) =>
    half / measure([mid, mid], { ...instrument, error: { form: "limit", limit }, corrections: [] }, at, place).U;
  const span = instrument.highest - instrument.lowest;
  const asked = ASKED.find((least) => least > ratio && ratioWith(0) > least);
  const limit = asked === undefined ? null : largestWith((x) => ratioWith(x) >= asked, span);
  return {
    fineness,
    ratio,
    U,
    wouldDo: limit === null ? null : { limit, percentOfSpan: CLASSES.find((c) => (c / 100) * span <= limit) ?? null },
  };
}

/** Largest figure up to `most` that does, where all smaller ones do too. */
function largestWith(does: (x: number) => boolean, most: number): number {
  let [low, high] = [0, most];
  if (does(high)) return high;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (does(middle)) low = middle;
    else high = middle;
  }
  return low;
}

export interface Disagreement {
  difference: number;
  /** Expanded uncertainty of the difference. */
  U: number;
  /** |difference| ÷ U: over 1 they disagree (ISO 13528, E_n number). */
  En: number;
  agree: boolean;
}

/** Two instruments on the same steady state: do they agree inside their uncertainties? */
export function compare(a: { value: number; U: number }, b: { value: number; U: number }): Disagreement {
  const U = Math.hypot(a.U, b.U);
  const difference = b.value - a.value;
  const En = U > 0 ? Math.abs(difference) / U : difference === 0 ? 0 : Infinity;
  return { difference, U, En, agree: En <= 1 };
}
