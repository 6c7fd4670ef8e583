import { dayIn, isZone, noonOf, startOf } from ".";
import { offsetsOf } from "./offsets";
import { offsetAt } from "./offsets-at";
import { datesOf } from "./said";

/** Days by the place’s own calendar. Offsets: IANA time zone database (New Zealand UTC+13 in summer, India UTC+5:30), from memory. */

test.each([
  // Nine in the morning in Auckland is still the evening before in UTC.
  ["Pacific/Auckland", "2026-11-27T20:00:00Z", "2026-11-28"],
  ["UTC", "2026-11-27T20:00:00Z", "2026-11-27"],
  ["America/New_York", "2026-11-28T04:59:00Z", "2026-11-27"],
  ["America/New_York", "2026-11-28T05:00:00Z", "2026-11-28"],
  ["Asia/Kolkata", "2026-11-27T18:29:00Z", "2026-11-27"],
  ["Asia/Kolkata", "2026-11-27T18:30:00Z", "2026-11-28"],
  // Summer time has just begun: the last hour of the day is an hour sooner.
  ["Europe/London", "2026-03-29T22:59:00Z", "2026-03-29"],
  ["Europe/London", "2026-03-29T23:00:00Z", "2026-03-30"],
])("in %s %s is on %s", (zone, at, day) => expect(dayIn(zone, Date.parse(at))).toBe(day));

test("a day begins at its midnight there", () => {
  expect(startOf("Pacific/Auckland", "2026-11-28").toISOString()).toBe("2026-11-27T11:00:00.000Z");
  expect(startOf("America/New_York", "2026-11-28").toISOString()).toBe("2026-11-28T05:00:00.000Z");
});

test("zones are known by their names, and nothing else is one", () => {
  expect(["UTC", "Europe/London", "Pacific/Auckland"].map(isZone)).toEqual([true, true, true]);
  expect(["", "Moon/Base", "GMT+25", "Europe"].map(isZone)).toEqual([false, false, false, false]);
});

test.each([
  ["2026-02-28", true],
  ["2028-02-29", true],
  ["2026-02-29", false],
  ["2026-02-30", false],
  ["26-2-3", false],
  ["", false],
])("whether %p is a day: %p", (day, is) => expect(noonOf(day) !== null).toBe(is));

describe("days and hours in words", () => {
  const NOW = Date.parse("2026-11-28T12:00:00Z");
  const ZONES = ["UTC", "Europe/London", "America/New_York", "Asia/Kolkata", "Pacific/Auckland", "Pacific/Chatham"];

  // The other side is the platform’s own “en-GB” with its time zone database (CLDR, IANA).
  test.each(ZONES)(
    "in %s they are what the platform writes, with offsets and without, in every month and hour",
    (zone) => {
      const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric", timeZone: zone });
      const time = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone });
      const offsets = offsetsOf(zone, NOW);
      const around = offsets.changes.flatMap(([at]) => [at - 60_000, at, at + 60_000]);
      // From before what is known to after it, at odd steps.
      const through = Array.from({ length: 4000 }, (_, i) => Date.parse("2022-06-01T00:00:00Z") + i * 46_127_000);
      for (const place of [zone, offsets]) {
        const said = datesOf(place);
        const others = [...around, offsets.from, offsets.to, ...through]
          .map((at) => [new Date(at).toISOString(), day.format(at), time.format(at)] as const)
          .filter(([iso, theDay, theTime]) => said.day(iso) !== theDay || said.timeOfDay(Date.parse(iso)) !== theTime);
        expect(others).toEqual([]);
      }
    },
  );

  test("a bare day is that day everywhere, and of nothing nothing is said", () => {
    for (const zone of ZONES) {
      const { day } = datesOf(offsetsOf(zone, NOW));
      expect([day("2026-09-01"), day("2019-02-28"), day("")]).toEqual(["1 Sept 2026", "28 Feb 2019", ""]);
    }
  });

  test("offsets are those of four years: none before, none after, and none of a place that is not there", () => {
    const london = offsetsOf("Europe/London", NOW);
    expect(offsetAt(london, Date.parse("2024-01-01T00:00:00Z"))).toBe(0);
    // Summer time began on the last Sunday of March at one in the morning, UTC (from memory).
    expect(offsetAt(london, Date.parse("2026-03-29T00:59:59Z"))).toBe(0);
    expect(offsetAt(london, Date.parse("2026-03-29T01:00:00Z"))).toBe(60);
    expect(offsetAt(london, Date.parse("2023-12-31T23:59:59Z"))).toBeNull();
    expect(offsetAt(london, Date.parse("2028-01-01T00:00:00Z"))).toBeNull();
    expect(() => offsetsOf("Moon/Base", NOW)).toThrow(RangeError);
  });
});
