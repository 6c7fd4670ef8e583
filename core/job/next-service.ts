import { addMonths, format } from "date-fns";
import { dayIn, noonOf } from "../day";
import { chosen } from "../sheet";
import { serviceMonths } from "../water";
import type { NextService } from "./document";
import type { Standing } from "./standing";

/** When the machine is serviced next: by where it works, and sooner where its water stays hard. */

/** Visits after which it counts anew: to read a pressure or to teach a button is no service. */
const SERVICED = ["setup", "work", "hand-over"] as const;

/**
 * The day the next service is due at the latest; null after a visit that was none.
 *
 * @param at when the visit ends, ms
 */
export function nextService({ job, kind, records }: Standing, at: number): NextService | null {
  if (!SERVICED.some((scope) => job.scopes.includes(scope))) return null;
  const months = serviceMonths(kind.supply);
  const hard = chosen(records, "water.decision") === "interval";
  const every = hard ? months.hard : months.usual;
  const from = noonOf(dayIn(job.zone, at))!;
  return {
    on: format(addMonths(from, every), "yyyy-MM-dd"),
    why: `Every ${every} months${hard ? " while the water is as hard as it was read" : ""}.`,
  };
}
