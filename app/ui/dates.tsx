// The platform's own formats: a date library would weigh more than all that is said with it here.
const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const TIME = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

/** A bare day is that day wherever it is read; only a moment belongs to a zone. */
function momentOf(iso: string): Date {
  return new Date(iso.length === 10 ? `${iso}T00:00` : iso);
}

/** "12 May 2026", in the zone of whoever runs it. In text use {@link Day}. */
export function day(iso: string): string {
  return iso ? DAY.format(momentOf(iso)) : "";
}

/** "14:05", of a moment in ms. */
export function timeOfDay(ms: number): string {
  return TIME.format(ms);
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
      {timeOfDay(momentOf(iso).getTime())}
    </time>
  );
}
