/** Days and hours in words, in a workshop’s time zone, whatever zone server and phone are set to: all papers and pages write the same. */

export interface Dates {
  /** "12 May 2026", of a bare day or a moment, ISO; "" of nothing. */
  day(iso: string): string;
  /** "14:05", of a moment in ms. */
  timeOfDay(ms: number): string;
}

const known = new Map<string, Dates>();

/**
 * The platform's own formats: a date library would weigh more than all that is said with it here.
 *
 * @param timeZone IANA name
 * @throws RangeError when there is no such zone
 */
export function datesOf(timeZone: string): Dates {
  const found = known.get(timeZone);
  if (found) return found;
  const shape = { day: "numeric", month: "short", year: "numeric" } as const;
  const moments = new Intl.DateTimeFormat("en-GB", { ...shape, timeZone });
  // A bare day is that day wherever it is read; only a moment belongs to a zone.
  const days = new Intl.DateTimeFormat("en-GB", { ...shape, timeZone: "UTC" });
  const times = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone });
  const dates: Dates = {
    day: (iso) => (iso ? (iso.length === 10 ? days : moments).format(new Date(iso)) : ""),
    timeOfDay: (ms) => times.format(ms),
  };
  known.set(timeZone, dates);
  return dates;
}
