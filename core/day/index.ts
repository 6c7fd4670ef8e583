import { TZDate } from "@date-fns/tz";
import { format } from "date-fns";

/** Calendar days of a place: a workshop lives in one time zone, whatever zone server and phone are set to. */

/**
 * The calendar day of a moment in a time zone, as ISO: "2026-05-04".
 *
 * @param zone IANA name
 * @param at ms since 1970
 * @throws RangeError when there is no such zone or moment
 */
export function dayIn(zone: string, at: number): string {
  return format(new TZDate(at, zone), "yyyy-MM-dd");
}

/**
 * The moment a calendar day begins in a time zone.
 *
 * @param zone IANA name
 * @throws RangeError when there is no such zone
 */
export function startOf(zone: string, isoDay: string): Date {
  const [year, month, day] = isoDay.split("-").map(Number);
  return new Date(new TZDate(year!, month! - 1, day!, zone).getTime());
}

/** Whether a time zone of this name is known (IANA). */
export function isZone(zone: string): boolean {
  try {
    return new Intl.DateTimeFormat("en-GB", { timeZone: zone }).resolvedOptions().timeZone !== "";
  } catch {
    return false;
  }
}

/**
 * The moment a calendar day stands for where only days are counted: its noon in UTC. Null when there is no such day.
 *
 * @example noonOf("2026-02-30") // null
 */
export function noonOf(isoDay: string): TZDate | null {
  const [year, month, day] = isoDay.split("-").map(Number);
  if (!/^\d{4}-\d{2}-\d{2}$/.test(isoDay)) return null;
  const noon = new TZDate(year!, month! - 1, day!, 12, 0, 0, "UTC");
  return format(noon, "yyyy-MM-dd") === isoDay ? noon : null;
}
