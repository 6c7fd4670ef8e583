import { z } from "zod";
import type { Mark } from "../db/queries/mark";

/** Pages of lists in the order of time, by address. */

const marked = z.object({ after: z.iso.datetime(), id: z.uuid() });

/** The mark in an address; null on the first page, and where it makes no sense. */
export function markIn(asked: URLSearchParams): Mark | null {
  const found = marked.safeParse(Object.fromEntries(asked));
  if (!found.success) return null;
  const at = new Date(found.data.after);
  // No record is older than the count of time: the database would not know the year.
  return at.getTime() >= 0 ? { at, id: found.data.id } : null;
}

/** The address of the page after a mark, with what else was asked for. */
export function pageAfter({ at, id }: Mark, asked: Record<string, string> = {}): string {
  return new URLSearchParams({ ...asked, after: at.toISOString(), id }).toString();
}
