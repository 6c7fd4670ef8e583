import { type Tolerance, aim } from "./conformity";
import { AT_THE_GROUP } from "./instrument";
import type { GaugePlace } from "./instrument";
import type { KitInstrument } from "./kit";
import { measure } from "./reading";

/** What all readings with one instrument share may be a third of half the tolerance before it is coarse. Our choice: 3 to 1, as of a test. */
const COARSE = 1 / 3;
/** A finer instrument shares this much less at least, or fetching it is not worth the walk. Our choice. */
const FINER = 1.5;

/**
 * Whether what readings share is too much of a tolerance to turn anything on them.
 *
 * @param uCommon standard uncertainty shared by readings with one instrument, unit of the tolerance, ≥ 0
 */
export function isCoarse(uCommon: number, { lower, upper }: Tolerance): boolean {
  return lower !== undefined && upper !== undefined && uCommon > ((upper - lower) / 2) * COARSE;
}

/**
 * The instrument of a kit that tells most about a tolerance, where one tells clearly more than what was read with; null where none does.
 *
 * @param uCommon standard uncertainty shared by the readings taken, unit of the tolerance, ≥ 0
 * @param kit instruments that can read this, each where it sits
 */
export function finerOf(
  uCommon: number,
  tolerance: Tolerance,
  kit: readonly KitInstrument[],
  at: Date,
  placeOf: (instrument: KitInstrument) => GaugePlace = () => AT_THE_GROUP,
): KitInstrument | null {
  const shares = kit.map((instrument) => {
    const place = placeOf(instrument);
    const middle = Math.min(instrument.highest, Math.max(instrument.lowest, aim(tolerance) - place.toGroup));
    return { instrument, u: measure([middle], { ...instrument, corrections: [] }, at, place).uCommon };
  });
  const best = shares.reduce<(typeof shares)[number] | null>((a, b) => (a && a.u <= b.u ? a : b), null);
  return best && best.u * FINER <= uCommon ? best.instrument : null;
}
