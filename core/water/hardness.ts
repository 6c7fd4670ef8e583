import { type Conformity, type Tolerance, judge } from "../metrology";
import type { SchoolsOf } from "../school";

/** Upper limits on hardness, mg/L as CaCO3, by school. */
export const HARDNESS_LIMIT: Record<SchoolsOf["hardness"], Required<Pick<Tolerance, "upper">> & Tolerance> = {
  // Home practice, common in the trade.
  "under-50": { upper: 50 },
  // SCA water standard for brewing coffee: calcium hardness 17 to 85 mg/L as CaCO3 (values from memory).
  "published-band": { lower: 17, upper: 85 },
};

/**
 * A strip leaves a step open: anywhere between two colours is as likely. The verdict follows from that (GUM 4.3.7, rectangular),
 * so a step that straddles the limit can't tell.
 *
 * @param low mg/L as CaCO3
 * @param high mg/L as CaCO3; the same for a titration or meter
 * @param school which limit it is held against
 * @param u standard uncertainty of a titration or meter, mg/L
 * @throws RangeError below 0, or with the larger one first
 */
export function judgeHardness(low: number, high: number, school: SchoolsOf["hardness"], u = 0): Conformity {
  if (!(low >= 0) || !(high >= low))
    throw new RangeError("A hardness is a figure of 0 or more, the smaller one first.");
  const half = (high - low) / 2;
  const spread = Math.hypot(half / Math.sqrt(3), u);
  // All of a strip's step lies inside ±half: nothing beyond it is believed.
  return judge({ value: low + half, u: spread, U: Math.max(half, 2 * u), half }, HARDNESS_LIMIT[school], "guarded");
}
