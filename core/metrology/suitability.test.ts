import { type Instrument, compare, isUsable, suitability } from ".";

const gauge = (limit: number, resolution = 0.1): Instrument => ({
  lowest: 0,
  highest: 16,
  resolution,
  error: { form: "limit", limit },
  repeatability: 0.05,
});
const TODAY = new Date("2026-11-28");
const NINE = { lower: 8.5, target: 9, upper: 9.5 };

test("fine, coarse, too coarse: half the tolerance against U, said before it is used", () => {
  expect(suitability(gauge(0.1), NINE, TODAY).fineness).toBe("fine");
  expect(suitability(gauge(0.256), NINE, TODAY).fineness).toBe("coarse");
  const bad = suitability(gauge(1), NINE, TODAY);
  expect(bad.fineness).toBe("too-coarse");
  expect(bad.ratio!).toBeLessThan(1);
});

test("what would do, does; a little more would not", () => {
  const { wouldDo } = suitability(gauge(1), NINE, TODAY);
  expect(suitability(gauge(wouldDo!.limit * 0.99), NINE, TODAY).fineness).toBe("fine");
  expect(suitability(gauge(wouldDo!.limit * 1.05), NINE, TODAY).fineness).toBe("coarse");
  // EN 837-1 classes on a span of 16 bar: 1.0 is ± 0.16, a little too much; 0.6 is ± 0.096.
  expect(wouldDo!.limit).toBeLessThan(0.16);
  expect(wouldDo!.percentOfSpan).toBe(0.6);
});

test("what would do is asked with the k that the finer instrument has: its class is fine, whatever is known of its scatter", () => {
  for (const repeatability of [0.03, 0.06, 0.09])
    for (const repeatabilityDof of [1, 2, 4, 8]) {
      const one = { ...gauge(1), repeatability, repeatabilityDof };
      const { wouldDo } = suitability(one, NINE, TODAY);
      if (!wouldDo) continue;
      const better = { ...one, error: { form: "limit", limit: wouldDo.limit } } as const;
      const asked = [3, 2, 1.25].find((least) => suitability(better, NINE, TODAY).ratio! >= least - 1e-6);
      expect(asked).toBeDefined();
      if (wouldDo.percentOfSpan === null) continue;
      const bought = { ...one, error: { form: "class", percentOfSpan: wouldDo.percentOfSpan } } as const;
      expect(suitability(bought, NINE, TODAY).ratio!).toBeGreaterThanOrEqual(asked! - 1e-6);
    }
});

test("where its own scatter leaves no room for 3 : 1, what would at least decide is named", () => {
  const wild = { ...gauge(1), repeatability: 0.25 };
  const { wouldDo } = suitability(wild, NINE, TODAY);
  expect(wouldDo).not.toBeNull();
  expect(suitability({ ...wild, error: { form: "limit", limit: wouldDo!.limit } }, NINE, TODAY).ratio!).toBeGreaterThan(
    1.1,
  );
  expect(suitability({ ...gauge(0.2), resolution: 2 }, NINE, TODAY).wouldDo).toBeNull();
});

test("what would do is never coarser than what it is compared with, whatever the span", () => {
  const scale: Instrument = { ...gauge(0.2), highest: 2000, repeatability: 0.1 };
  const { wouldDo } = suitability(scale, { lower: 17.5, target: 18, upper: 18.5 }, TODAY);
  expect(wouldDo!.limit).toBeLessThan(0.2);
});

test("a one-sided tolerance asks nothing; a certificate’s table does not stand in the way", () => {
  expect(suitability(gauge(0.2), { upper: 6 }, TODAY)).toMatchObject({ fineness: "open", ratio: undefined });
  expect(
    suitability(
      {
        ...gauge(0.1),
        corrections: [
          [0, 0],
          [4, 0.1],
        ],
      },
      NINE,
      TODAY,
    ).fineness,
  ).toBe("fine");
});

test("two instruments: agree inside both uncertainties (E_n of ISO 13528), disagree beyond", () => {
  expect(compare({ value: 9, U: 0.2 }, { value: 9.2, U: 0.2 })).toMatchObject({
    agree: true,
    difference: expect.closeTo(0.2, 9),
  });
  const apart = compare({ value: 9, U: 0.2 }, { value: 9.6, U: 0.2 });
  expect(apart.agree).toBe(false);
  expect(apart.En).toBeCloseTo(0.6 / Math.hypot(0.2, 0.2), 9);
  expect(compare({ value: 9, U: 0 }, { value: 9, U: 0 }).agree).toBe(true);
});

describe("figures that can’t be an instrument’s", () => {
  const fine = {
    lowest: 0,
    highest: 16,
    resolution: 0.1,
    error: { form: "limit", limit: 0.1 },
    repeatability: 0.05,
  } as const;

  test.each([
    [{}, true],
    [{ corrections: null }, true],
    [{ corrections: [[0, 0.1]] }, true],
    [{ repeatability: Infinity }, false],
    [{ repeatability: 1e200 }, false],
    [{ repeatability: -1 }, false],
    [{ resolution: 0 }, false],
    [{ resolution: Number.NaN }, false],
    [{ lowest: 16 }, false],
    [{ highest: Infinity }, false],
    [{ error: { form: "limit", limit: null } }, false],
    [{ error: { form: "certificate", U: 0.1, k: 0 } }, false],
    [{ corrections: [[0, null]] }, false],
  ])("%j", (change, usable) => {
    expect(isUsable({ ...fine, ...(change as object) })).toBe(usable);
  });
});
