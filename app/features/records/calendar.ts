import { data } from "react-router";
import type { Route } from "./+types/calendar";
import { addressContext } from "~server/context";
import { calendarBehind } from "~server/handover/due-calendar";
import { TooManyTries } from "~server/handover/owner-link";
import { asItself, notFound, reading } from "~server/web";

/** What is due, for calendars that ask again and again. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  asItself(request);
  const token = params.token.replace(/\.ics$/, "");
  try {
    const text = await reading(() => calendarBehind(token, context.get(addressContext)));
    if (text === null) throw notFound();
    return new Response(text, {
      headers: {
        "Content-Type": "text/calendar; charset=utf-8",
        "Content-Disposition": `inline; filename="services-due.ics"`,
        "Cache-Control": "private, max-age=900",
        "Referrer-Policy": "no-referrer",
        "X-Robots-Tag": "noindex",
        "X-Content-Type-Options": "nosniff",
      },
    });
  } catch (error) {
    if (!(error instanceof TooManyTries)) throw error;
    throw data(null, { status: 429, headers: { "Retry-After": String(error.wait) } });
  }
}
