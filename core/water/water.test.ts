import fc from "fast-check";
import { cartridgeDue, indexRange, judgeHardness, langelier, purgeStep, saturationPh, scaleWord } from ".";
import { parseRange, unitById } from "../quantity";

describe("saturation index: Langelier in Carrier's simplification (1965; check values from memory)", () => {
  const water = { tds: 320, calcium: 150, alkalinity: 34, ph: 7.5 };
  test("TDS 320, Ca 150, alkalinity 34, pH 7.5: −0.7 at 25 °C, +0.3 at 82 °C", () => {
    expect(langelier(water, 25)).toBeCloseTo(-0.73, 2);
    expect(langelier(water, 82)).toBeCloseTo(0.27, 2);
  });
  test("hotter always deposits more (property)", () => {
    const some = fc.double({ min: 5, max: 400, noNaN: true });
    fc.assert(
      fc.property(some, some, some, fc.double({ min: 6, max: 9, noNaN: true }), (tds, calcium, alkalinity, ph) =>
        expect(langelier({ tds, calcium, alkalinity, ph }, 93)).toBeGreaterThan(
          langelier({ tds, calcium, alkalinity, ph }, 60),
        ),
      ),
    );
  });
  test("what is not known is left open, what is known narrows it", () => {
    const open = indexRange({ hardness: [150, 150] }, 93);
    const known = indexRange({ hardness: [150, 150], alkalinity: 120, ph: 7.5, tds: 250 }, 93);
    expect(open.high - open.low).toBeGreaterThan(known.high - known.low);
    expect(known.low).toBeGreaterThan(open.low);
    expect(scaleWord({ low: 0.5, high: 1 })).toBe("deposits lime");
    expect(scaleWord({ low: -2, high: -0.5 })).toBe("dissolves lime");
    expect(scaleWord({ low: -0.2, high: 0.2 })).toBe("in balance");
    expect(scaleWord(open)).toBe("open");
  });
  test("refuses water that isn't", () => {
    expect(() => saturationPh({ tds: 0, calcium: 1, alkalinity: 1 }, 20)).toThrow(RangeError);
    expect(() => langelier(water, 200)).toThrow(RangeError);
  });
});

describe("hardness by school", () => {
  test("trade: below about 50 ppm at home; the published band goes to 85", () => {
    expect(judgeHardness(30, 30, "under-50").verdict).toBe("holds");
    expect(judgeHardness(70, 70, "under-50").verdict).toBe("off");
    expect(judgeHardness(70, 70, "published-band").verdict).toBe("holds");
    expect(judgeHardness(10, 10, "published-band").verdict).toBe("off");
  });
  test("a strip's step that straddles the limit is not decided by it", () => {
    expect(judgeHardness(40, 62, "under-50").verdict).toBe("can't tell");
    expect(judgeHardness(20, 45, "under-50").verdict).toBe("holds");
    expect(judgeHardness(55, 90, "under-50").verdict).toBe("off");
    expect(() => judgeHardness(5, 4, "under-50")).toThrow(RangeError);
  });
});

describe("a strip's reading as typed", () => {
  const mg = unitById("mg/L");
  test.each([
    ["between 3 and 4 °dH", 53.54, 71.39],
    ["3-4 °dH", 53.54, 71.39],
    ["3 – 4 dH", 53.54, 71.39],
    ["10 to 20 °fH", 100, 200],
    ["180 ppm", 180, 180],
    ["45", 45, 45],
  ])("“%s”", (typed, low, high) => {
    const parsed = parseRange(typed, "hardness", mg);
    expect(parsed.ok).toBe(true);
    if (!parsed.ok) return;
    expect(parsed.low).toBeCloseTo(low, 1);
    expect(parsed.high).toBeCloseTo(high, 1);
  });
  test.each([
    ["4 bar", "wrong-unit"],
    ["4 to 3", "not-a-number"],
    ["many", "not-a-number"],
    ["", "empty"],
    ["3 to many", "not-a-number"],
  ])("refuses “%s”", (typed, problem) =>
    expect(parseRange(typed, "hardness", mg)).toMatchObject({ ok: false, problem }),
  );
});

describe("cartridge", () => {
  test("trade: 15 L at least, and the counter never goes back", () => {
    expect(purgeStep(0, 9)).toEqual({ ok: true, left: 6, done: false });
    expect(purgeStep(9, 16)).toEqual({ ok: true, left: 0, done: true });
    expect(purgeStep(9, 7)).toMatchObject({ ok: false, message: expect.stringContaining("can’t go back") });
    expect(purgeStep(0, -1).ok).toBe(false);
    expect(purgeStep(0, 900).ok).toBe(false);
  });
  test("due by whichever comes first", () => {
    const from = new Date("2026-01-10T12:00:00Z");
    const at = (d: { on: Date; by: string }) => [d.on.toISOString().slice(0, 10), d.by];
    expect(at(cartridgeDue(from, { capacity: 2000, perDay: 20, months: 12 }))).toEqual(["2026-04-20", "litres"]);
    expect(at(cartridgeDue(from, { capacity: 20_000, perDay: 20, months: 12 }))).toEqual(["2027-01-10", "date"]);
    expect(at(cartridgeDue(from, { capacity: 2000, perDay: undefined, months: 6 }))).toEqual(["2026-07-10", "date"]);
  });
});
