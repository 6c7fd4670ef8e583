import { createContext, use } from "react";

/** Days and hours are told in the workshop’s time zone, whatever zone server and phone are set to: both write the same. */

const Zone = createContext("UTC");

export const TimeZone = Zone;

interface Dates {
  /** "12 May 2026", of a bare day or a moment, ISO; "" of nothing. */
  day(iso: string): string;
  /** "14:05", of a moment in ms. */
  timeOfDay(ms: number): string;
}

const known = new Map<string, Dates>();

// The platform's own formats: a date library would weigh more than all that is said with it here.
function datesOf(timeZone: string): Dates {
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

export function useDates(): Dates {
  return datesOf(use(Zone));
}

/** A day in text. */
export function Day({ iso }: { iso: string }) {
  return <time dateTime={iso}>{useDates().day(iso)}</time>;
}

/** A time of day in text, "14:05". */
export function Clock({ iso }: { iso: string }) {
  return <time dateTime={iso}>{useDates().timeOfDay(new Date(iso).getTime())}</time>;
}
