import type { Route } from "./+types/dates";
import { byLink, privateFile } from "./by-link.server";
import { signedBehind } from "~db/queries/owner-card";
import { database } from "~server/database";
import { calendarOf } from "~server/handover/calendar";
import { asItself, notFound } from "~server/web";

/** The next dates as a file that every calendar takes. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  asItself(request);
  const { document, contact } = await byLink(params.token, context, () => signedBehind(database(), params.token));
  const text = calendarOf(document, contact);
  if (!text) throw notFound();
  return privateFile(text, "text/calendar; charset=utf-8", `attachment; filename="machine-dates.ics"`);
}
