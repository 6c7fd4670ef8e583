import { type DateArray, type EventAttributes, createEvents } from "ics";
import type { SignedDocument } from "../../core/job";
import { cardIn } from "../../core/job";

/** The next dates of a machine as a calendar that any phone reads (RFC 5545). */

/** @returns null where no date is set */
export function calendarOf(document: SignedDocument, contact: string): string | null {
  const card = cardIn(document);
  const { maker, model, serial, site } = document.machine;
  const machine = `${maker} ${model}`;
  const description = `${machine}, serial ${serial}.${contact ? `\n${contact}` : ""}`;
  const own = (what: string) => `${what.toLowerCase().replace(/[^a-z]+/g, "-")}-${document.job}@nimble-gauge`;
  const event = (what: string, iso: string, more: Partial<EventAttributes> = {}): EventAttributes => ({
    uid: own(what),
    title: `${what}: ${machine}`,
    start: dayOf(iso),
    duration: { days: 1 },
    location: site,
    description,
    busyStatus: "FREE",
    productId: "nimble-gauge/calendar",
    ...more,
  });
  const dates = card.dates.map(({ what, on, why }) =>
    event(what, on, {
      description: `${description}\n${why}`,
      alarms: [{ action: "display", description: what, trigger: { days: 7, before: true } }],
    }),
  );
  const flush = card.routine.find((c) => c.when === "week" && c.what.startsWith("Back-flush"));
  const weekly = flush
    ? [event("Back-flush with cleaner", nextDay(document.signedAt, 7), { recurrenceRule: "FREQ=WEEKLY;COUNT=104" })]
    : [];
  const all = [...dates, ...weekly];
  if (all.length === 0) return null;
  const { error, value } = createEvents(all, { calName: machine, productId: "nimble-gauge/calendar" });
  if (error) throw error;
  return value!;
}

/** A day as the package takes it. */
export function dayOf(iso: string): DateArray {
  const [year, month, day] = iso.slice(0, 10).split("-").map(Number);
  return [year!, month!, day!];
}

const nextDay = (iso: string, days: number) => new Date(Date.parse(iso) + days * 86_400_000).toISOString();
