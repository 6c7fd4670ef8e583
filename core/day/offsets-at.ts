/** How far a place is from UTC, over the years that pages mostly speak of: with it a page writes its hours without a time zone database. */
export interface ZoneOffsets {
  /** IANA name. */
  readonly zone: string;
  /** What is said holds from here, ms since 1970, */
  readonly from: number;
  /** up to here. */
  readonly to: number;
  /** Minutes ahead of UTC from a moment on, ms since 1970, oldest first; the first stands at `from`. */
  readonly changes: readonly (readonly [at: number, minutes: number])[];
}

/**
 * Minutes ahead of UTC at a moment; null outside of what is known.
 *
 * @param at ms since 1970
 */
export function offsetAt({ from, to, changes }: ZoneOffsets, at: number): number | null {
  if (!(at >= from && at < to)) return null;
  return changes.findLast(([since]) => since <= at)![1];
}
