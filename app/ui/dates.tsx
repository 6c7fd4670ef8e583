import { createContext, use } from "react";
import type { ZoneOffsets } from "~core/day/offsets-at";
import { type Dates, datesOf } from "~core/day/said";

/** Days and hours are told in the workshop’s time zone, whatever zone server and phone are set to: both write the same. */

/** By its name, or, where a page says hours on a slow phone, with its offsets. */
const Zone = createContext<string | ZoneOffsets>("UTC");

export const TimeZone = Zone;

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
