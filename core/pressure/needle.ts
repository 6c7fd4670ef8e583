import type { BudgetLine } from "../metrology";
import { rectangular } from "../metrology";
import type { MachineKind } from "../kind";

/** Half a swing beyond this is more than the pump's own pulse. Vibratory ±0.3 bar is normal, rotary holds steady. Common practice. */
const NORMAL_SWING = { vibratory: 0.3, rotary: 0.1, none: 0.1 } as const;

export interface Swing {
  /** What counts: the middle of the swing. */
  middle: number;
  half: number;
  /** More than this kind of pump pulses by itself. */
  unusual: boolean;
  /** For the budget: how far the mean may lie from the middle of the swing. */
  line: BudgetLine;
}

/**
 * A needle that swings, read as its lowest and highest place.
 * The mean of an uneven swing lies somewhere in its inner half: a rectangular distribution of half-width (high − low)/4.
 *
 * @param low lowest place of the needle, its unit
 * @param high highest place, ≥ low
 * @throws RangeError when low lies above high
 */
export function swing(low: number, high: number, pump: MachineKind["pump"]): Swing {
  if (!(low <= high)) throw new RangeError("The lower end of the swing comes first.");
  const half = (high - low) / 2;
  return {
    middle: (low + high) / 2,
    half,
    unusual: half > NORMAL_SWING[pump] + 1e-9,
    line: {
      kind: "swing",
      source: "swing of the needle",
      type: "B",
      distribution: "rectangular",
      u: rectangular(half / 2),
      sensitivity: 1,
      dof: Infinity,
      common: false,
    },
  };
}
