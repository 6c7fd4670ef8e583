import ICAL from "ical.js";
import type { SignedCard, SignedDocument } from "../../core/job";
import { calendarOf } from "./calendar";

/** The owner’s dates, read back by a parser of RFC 5545 that is not the one that wrote them. */

const CARD: SignedCard = {
  recipe: null,
  routine: [{ when: "week", what: "Back-flush with cleaner, then five times with plain water." }],
  normal: [],
  found: "",
  given: "",
  dates: [
    { what: "Change the filter cartridge", on: "2027-02-28", why: "By litres." },
    { what: "Next service", on: "2027-11-30", why: "Every 12 months." },
  ],
};
const document = (card: Partial<SignedCard> = {}) =>
  ({
    job: "0d4f",
    machine: { maker: "Brandvik", model: "Skerry; two", serial: "BV-1", site: "Kitchen, first floor", town: "" },
    signedAt: "2026-12-28T09:30:00.000Z",
    card: { ...CARD, ...card },
  }) as unknown as SignedDocument;

const eventsIn = (text: string) =>
  new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents("vevent").map((c) => new ICAL.Event(c));

test("filter, service and the weekly back-flush, each with a name of its own that stays the same", () => {
  const text = calendarOf(document(), "Call 5.\nAsk for Ilka; or Tobin, both.")!;
  const events = eventsIn(text);
  expect(events.map((e) => [e.summary, e.startDate.toString()])).toEqual([
    ["Change the filter cartridge: Brandvik Skerry; two", "2027-02-28"],
    ["Next service: Brandvik Skerry; two", "2027-11-30"],
    ["Back-flush with cleaner: Brandvik Skerry; two", "2027-01-04"],
  ]);
  expect(events.every((e) => e.startDate.isDate)).toBe(true);
  expect(events[1]!.description).toContain("Ask for Ilka; or Tobin, both.");
  expect(events[1]!.location).toBe("Kitchen, first floor");
  expect(new Set(events.map((e) => e.uid)).size).toBe(3);
  expect(eventsIn(calendarOf(document(), "")!).map((e) => e.uid)).toEqual(events.map((e) => e.uid));
  const flush = events[2]!.iterator();
  flush.next();
  expect(flush.next().toString()).toBe("2027-01-11");
  // RFC 5545, 3.1: no line is longer than 75 octets, and each ends with CR LF.
  for (const line of text.split("\r\n")) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
  expect(text).toMatch(/\r\nEND:VCALENDAR\r\n$/);
});

test("no date, no calendar", () => {
  expect(calendarOf(document({ dates: [], routine: [] }), "")).toBeNull();
});
