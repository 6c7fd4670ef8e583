import { dayIn, isZone, noonOf, startOf } from ".";

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
