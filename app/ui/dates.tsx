import { format } from "date-fns/format";
import { parseISO } from "date-fns/parseISO";

/** "12 May 2026", in the zone of whoever runs it. In text use {@link Day}. */
export function day(iso: string): string {
  return iso ? format(parseISO(iso), "d MMM yyyy") : "";
}

/** A day in text. Server and browser may sit in different zones: what the server wrote stands. */
export function Day({ iso }: { iso: string }) {
  return (
    <time dateTime={iso} suppressHydrationWarning>
      {day(iso)}
    </time>
  );
}

/** A time of day in text, "14:05". */
export function Clock({ iso }: { iso: string }) {
  return (
    <time dateTime={iso} suppressHydrationWarning>
      {format(parseISO(iso), "HH:mm")}
    </time>
  );
}
