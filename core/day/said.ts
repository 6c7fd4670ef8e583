import { type ZoneOffsets, offsetAt } from "./offsets-at";

/** Days and hours in words, in a workshop’s time zone, whatever zone server and phone are set to: all papers and pages write the same. */

export interface Dates {
  /** "12 May 2026", of a bare day or a moment, ISO; "" of nothing. */
  day(iso: string): string;
  /** "14:05", of a moment in ms. */
  timeOfDay(ms: number): string;
}

const known = new Map<string, Dates>();

/** As the platform’s own “en-GB” writes them. */
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sept", "Oct", "Nov", "Dec"];
const two = (n: number) => String(n).padStart(2, "0");
/** Of a moment shifted so that what it says in UTC is what the clocks of the place say. */
const dayOf = (shifted: Date) => `${shifted.getUTCDate()} ${MONTHS[shifted.getUTCMonth()]} ${shifted.getUTCFullYear()}`;

/**
 * Written without the platform’s own formats where the offset is known: the first of those costs a slow phone a fifth of a second, in
 * which it takes no tap. Outside of what is known they are used, and made then.
 *
 * @param place IANA name, or with it how far it is from UTC
 * @throws RangeError when there is no such zone: by what it returns
 */
export function datesOf(place: string | ZoneOffsets): Dates {
  const zone = typeof place === "string" ? place : place.zone;
  const key = typeof place === "string" ? zone : `${zone} ${place.from}`;
  const found = known.get(key);
  if (found) return found;
  const shifted = (ms: number): Date | null => {
    const minutes = typeof place === "string" ? null : offsetAt(place, ms);
    return minutes === null ? null : new Date(ms + minutes * 60_000);
  };
  let moments: Intl.DateTimeFormat | undefined;
  let times: Intl.DateTimeFormat | undefined;
  const shape = { day: "numeric", month: "short", year: "numeric", timeZone: zone } as const;
  const dates: Dates = {
    day: (iso) => {
      if (!iso) return "";
      const at = new Date(iso);
      // A bare day is that day wherever it is read; only a moment belongs to a zone.
      const there = iso.length === 10 ? at : shifted(at.getTime());
      return there ? dayOf(there) : (moments ??= new Intl.DateTimeFormat("en-GB", shape)).format(at);
    },
    timeOfDay: (ms) => {
      const there = shifted(ms);
      if (there) return `${two(there.getUTCHours())}:${two(there.getUTCMinutes())}`;
      return (times ??= new Intl.DateTimeFormat("en-GB", {
        hour: "2-digit",
        minute: "2-digit",
        timeZone: zone,
      })).format(ms);
    },
  };
  known.set(key, dates);
  return dates;
}
