import { z } from "zod";

/** Where a page of a list in the order of time ended: what the next one begins after. */
export interface Mark {
  at: Date;
  id: string;
}

const marked = z.object({ after: z.iso.datetime(), id: z.uuid() });

/** The mark in an address; null on the first page, and where it makes no sense. */
export function markIn(asked: URLSearchParams): Mark | null {
  const found = marked.safeParse(Object.fromEntries(asked));
  return found.success ? { at: new Date(found.data.after), id: found.data.id } : null;
}

/** The address of the page after a mark, with what else was asked for. */
export function pageAfter({ at, id }: Mark, asked: Record<string, string> = {}): string {
  return new URLSearchParams({ ...asked, after: at.toISOString(), id }).toString();
}
