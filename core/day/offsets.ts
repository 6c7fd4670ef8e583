import { tzOffset, tzScan } from "@date-fns/tz";
import type { ZoneOffsets } from "./offsets-at";

const known = new Map<string, ZoneOffsets>();

/**
 * The offsets of a place from two years before the year of a moment to its end and one year more.
 *
 * @param zone IANA name
 * @param at ms since 1970
 * @throws RangeError when there is no such zone
 */
export function offsetsOf(zone: string, at: number): ZoneOffsets {
  const year = new Date(at).getUTCFullYear();
  const key = `${zone} ${year}`;
  const found = known.get(key);
  if (found) return found;
  const [start, end] = [new Date(Date.UTC(year - 2, 0)), new Date(Date.UTC(year + 2, 0))];
  const first = tzOffset(zone, start);
  if (Number.isNaN(first)) throw new RangeError(`No such time zone: ${zone}`);
  const changes = tzScan(zone, { start, end }).map(({ date, offset }) => [date.getTime(), offset] as const);
  const made = {
    zone,
    from: start.getTime(),
    to: end.getTime(),
    changes: [[start.getTime(), first] as const, ...changes],
  };
  known.set(key, made);
  return made;
}
