import { format, parseISO } from "date-fns";

/** "12 May 2026". Days are the workshop's own, times are shown where work was done. */
export function day(iso: string): string {
  return iso ? format(parseISO(iso), "d MMM yyyy") : "";
}

/** "14:05". */
export function clock(iso: string): string {
  return format(parseISO(iso), "HH:mm");
}
