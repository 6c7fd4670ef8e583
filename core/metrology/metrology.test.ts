import fc from "fast-check";
import jstat from "jstat";
import {
  AT_THE_GROUP,
  type BudgetLine,
  type Instrument,
  aim,
  checkTolerance,
  combine,
  compactBudget,
  correctionAt,
  coverageFactor,
  judge,
  maximumError,
  measure,
  outOfDate,
  pInside,
  phi,
  phiInverse,
  studentCdf,
  weightsFrom,
} from ".";

const line = (u: number, dof = Infinity, sensitivity = 1): BudgetLine => ({
  kind: "instrument",
  source: "input",
  type: "B",
  distribution: "normal",
  u,
  sensitivity,
  dof,
  common: false,
});

const TODAY = new Date("2026-11-28");

const gauge: Instrument = {
  lowest: 0,
  highest: 16,
  resolution: 0.1,
  error: { form: "class", percentOfSpan: 1.6 },
  repeatability: 0.1,
};

test("a budget is kept short: kind, its part of u, and degrees of freedom where they count; its parts still make u", () => {
  const { budget, u } = measure([8.9, 9.1], gauge, TODAY);
  const kept = compactBudget(budget);
  expect(kept).toEqual([
    ["repeatability", expect.any(Number), 9],
    ["instrument", 0.1478],
    ["resolution", 0.02887],
  ]);
  expect(Math.hypot(...kept.map(([, part]) => part))).toBeCloseTo(u, 4);
  expect(compactBudget([line(0.2, Infinity, -3)])).toEqual([["instrument", 0.6]]);
});

describe("distributions against an independent implementation (npm jstat) and printed tables", () => {
  test.each([-3, -1.2, 0, 0.5, 1.96, 4])("Φ(%p)", (z) =>
    expect(phi(z)).toBeCloseTo(jstat.jStat.normal.cdf(z, 0, 1), 10),
  );
  test.each([1, 2, 5, 16, 60])("t with %p degrees of freedom", (dof) => {
    expect(studentCdf(1.3, dof)).toBeCloseTo(jstat.jStat.studentt.cdf(1.3, dof), 8);
    expect(coverageFactor(0.95, dof)).toBeCloseTo(jstat.jStat.studentt.inv(0.975, dof), 5);
  });
  test("printed tables: z 0.975 and t 0.975 with 10 (values from memory)", () => {
    expect(phiInverse(0.975)).toBeCloseTo(1.959964, 6);
    expect(coverageFactor(0.95, 10)).toBeCloseTo(2.228139, 6);
    expect(coverageFactor(0.95, Infinity)).toBeCloseTo(1.959964, 6);
  });
});

test("however many degrees of freedom: k falls towards the normal’s, and never under it", () => {
  for (let power = 0; power <= 300; power++) {
    const k = coverageFactor(0.95, 10 ** power);
    expect(k).toBeGreaterThanOrEqual(1.959963984 - 1e-9);
    expect(k).toBeLessThanOrEqual(coverageFactor(0.95, 10 ** Math.max(0, power - 1)) + 1e-9);
  }
  expect(studentCdf(1.96, 1e200)).toBeCloseTo(studentCdf(1.96, Infinity), 12);
});

describe("JCGM 100:2008 (GUM)", () => {
  // Example H.1, end gauge calibration; contributions in nm with their degrees of freedom (values from memory; u_c and ν hold them).
  const endGauge = [line(25, 18), line(9.7, 25.6), line(2.9, 50), line(16.6, 2)];

  test("example H.1: u_c = 32 nm, ν_eff = 16, U_99 = 93 nm", () => {
    const result = combine(endGauge, 0.99);
    expect(Math.round(result.u)).toBe(32);
    expect(result.dof).toBe(16);
    expect(Math.round(result.U)).toBe(93);
  });

  test("sensitivity coefficients scale the inputs (5.1.2)", () => {
    expect(combine([line(2, Infinity, 3), line(8)]).u).toBeCloseTo(10, 12);
  });

  test("without uncertainty there is none, with infinite freedom k is normal", () => {
    expect(combine([])).toMatchObject({ u: 0, dof: Infinity, U: 0 });
    expect(combine([line(1)]).k).toBeCloseTo(1.96, 2);
  });

  test("refuses what is not an uncertainty", () => {
    expect(() => combine([line(-1)])).toThrow(RangeError);
    expect(() => combine([line(Number.NaN)])).toThrow(RangeError);
    expect(() => combine([line(1, 0)])).toThrow(RangeError);
  });

  test("adding an input never lowers u (property)", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 9, noNaN: true })),
        fc.double({ min: 0, max: 9, noNaN: true }),
        (us, more) => {
          const before = combine(us.map((u) => line(u))).u;
          expect(combine([...us, more].map((u) => line(u))).u).toBeGreaterThanOrEqual(before - 1e-12);
        },
      ),
    );
  });
});

describe("instruments", () => {
  test("EN 837-1: class 1.6 on 0–16 bar is ±0.256 bar (from memory)", () => {
    expect(maximumError({ form: "class", percentOfSpan: 1.6 }, 0, 16)).toBeCloseTo(0.256, 12);
    expect(maximumError({ form: "limit", limit: 0.3 }, 0, 16)).toBe(0.3);
    expect(maximumError({ form: "certificate", U: 0.05, k: 2 }, 0, 16)).toBe(0.05);
  });

  test("corrections interpolate and refuse to guess outside the table", () => {
    const table: Instrument = {
      ...gauge,
      corrections: [
        [0, 0],
        [8, 0.2],
        [10, 0.1],
      ],
    };
    expect(correctionAt(table, 0)).toBe(0);
    expect(correctionAt(table, 4)).toBeCloseTo(0.1, 12);
    expect(correctionAt(table, 9)).toBeCloseTo(0.15, 12);
    expect(() => correctionAt(table, 11)).toThrow(/0 to 10/);
    expect(correctionAt(gauge, 11)).toBe(0);
  });

  test("out of date the day after it is due", () => {
    expect(outOfDate({ dueOn: "2026-05-01" }, "2026-05-01")).toBe(false);
    expect(outOfDate({ dueOn: "2026-05-01" }, "2026-05-02")).toBe(true);
    expect(outOfDate({ dueOn: null }, "2026-05-02")).toBe(false);
  });
});

describe("a reading", () => {
  test("trade: 10 on a pump-side dial with 1 bar between is 9 at the group", () => {
    const m = measure([10, 10], gauge, TODAY, { place: "pump", toGroup: -1, u: 0.2 });
    expect(m.value).toBeCloseTo(9, 12);
    expect(m.indicated).toBe(10);
    expect(m.budget.map((b) => b.source)).toEqual([
      "repeatability (mean of 2 readings)",
      "accuracy class 1.6",
      "resolution",
      "pressure drop from gauge to group",
    ]);
  });

  test("budget by hand: class 1.6 of 16 bar, 0.1 bar steps, one reading with 0.1 bar repeatability", () => {
    const m = measure([9], gauge, TODAY);
    expect(m.u).toBeCloseTo(Math.hypot(0.1, 0.256 / Math.sqrt(3), 0.05 / Math.sqrt(3)), 9);
    expect(m.uCommon).toBeCloseTo(0.256 / Math.sqrt(3), 9);
    expect(m.U).toBeGreaterThan(1.96 * m.u);
  });

  test("more readings lessen the repeatability and leave the class", () => {
    const one = measure([9], gauge, TODAY);
    const many = measure([9, 9.1, 8.9, 9, 9], gauge, TODAY);
    expect(many.u).toBeLessThan(one.u);
    expect(many.u).toBeGreaterThan(many.uCommon);
  });

  test("certificate with corrections; instrument without known repeatability", () => {
    const certified: Instrument = {
      ...gauge,
      repeatability: 0,
      error: { form: "certificate", U: 0.06, k: 2 },
      corrections: [
        [0, -0.1],
        [16, -0.1],
      ],
    };
    const m = measure([9, 9.2], certified, TODAY);
    expect(m.value).toBeCloseTo(9, 12);
    expect(m.budget[0]).toMatchObject({ dof: 1, u: expect.closeTo(0.1, 9) });
    expect(m.budget[1]!.u).toBe(0.03);
  });

  test("drift since its calibration and hysteresis have a line each, a rectangle (GUM 4.3.7)", () => {
    const kinds = (m: { budget: BudgetLine[] }) => m.budget.map((l) => l.kind);
    const stated: Instrument = { ...gauge, driftPerYear: 0.1, hysteresis: 0.08, calibratedOn: "2024-11-28" };
    const plain = measure([9], gauge, TODAY);
    const m = measure([9], stated, TODAY);
    expect(kinds(plain)).toEqual(["repeatability", "instrument", "resolution"]);
    expect(kinds(m)).toEqual(["repeatability", "instrument", "drift", "hysteresis", "resolution"]);
    // Two years at ±0.1 a year, and half of a gap of 0.08, each over √3.
    expect(m.budget[2]!.u).toBeCloseTo(0.2 / Math.sqrt(3), 3);
    expect(m.budget[3]!.u).toBeCloseTo(0.04 / Math.sqrt(3), 12);
    expect(m.u ** 2 - plain.u ** 2).toBeCloseTo(0.04 / 3 + 0.0016 / 3, 4);
    // Both sit in every reading: repeating does not lessen them.
    expect(measure([9, 9, 9, 9], stated, TODAY).uCommon).toBeCloseTo(m.uCommon, 12);
    expect(m.uCommon).toBeGreaterThan(plain.uCommon);
    // On the day it was calibrated nothing has drifted; where nobody knows when, nothing can be said.
    expect(kinds(measure([9], stated, new Date("2024-11-28")))).not.toContain("drift");
    expect(kinds(measure([9], { ...stated, calibratedOn: null }, TODAY))).not.toContain("drift");
  });

  test("refuses nothing, and what the instrument can't show", () => {
    expect(() => measure([], gauge, TODAY)).toThrow(RangeError);
    expect(() => measure([17], gauge, TODAY)).toThrow(/span/);
    expect(() => measure([Number.NaN], gauge, TODAY)).toThrow(/span/);
  });

  test("the order of readings does not matter (property)", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 6, max: 12, noNaN: true }), { minLength: 2, maxLength: 6 }), (xs) => {
        const a = measure(xs, gauge, TODAY, AT_THE_GROUP);
        const b = measure([...xs].reverse(), gauge, TODAY, AT_THE_GROUP);
        expect(b.value).toBeCloseTo(a.value, 9);
        expect(b.u).toBeCloseTo(a.u, 9);
      }),
    );
  });
});

describe("conformity (JCGM 106:2012, closed forms with Φ)", () => {
  const tolerance = { lower: 8.5, target: 9, upper: 9.5 };

  test("on the limit it is a toss", () => {
    expect(pInside({ value: 9.5, u: 0.1 }, { upper: 9.5 })).toBeCloseTo(0.5, 12);
    expect(pInside({ value: 8.5, u: 0.1 }, { lower: 8.5 })).toBeCloseTo(0.5, 12);
  });

  test("two-sided closed form", () => {
    const p = phi((9.5 - 9.2) / 0.2) - phi((8.5 - 9.2) / 0.2);
    expect(pInside({ value: 9.2, u: 0.2 }, tolerance)).toBeCloseTo(p, 12);
    expect(pInside({ value: 9.2, u: 0.2, dof: 4 }, tolerance)).toBeLessThan(p);
    expect(pInside({ value: 9.2, u: 0 }, tolerance)).toBe(1);
    expect(pInside({ value: 9.6, u: 0 }, tolerance)).toBe(0);
  });

  const U = (value: number, U: number) => ({ value, u: U / 2, U });
  test.each([
    [9.0, 0.2, "guarded", "holds"],
    [9.3, 0.2, "guarded", "holds"],
    [9.4, 0.2, "guarded", "just holds"],
    [9.48, 0.2, "guarded", "can't tell"],
    [9.6, 0.2, "guarded", "can't tell"],
    [9.7, 0.2, "guarded", "off"],
    [8.2, 0.2, "guarded", "off"],
    [9.48, 0.2, "simple", "just holds"],
    [9.6, 0.2, "simple", "off"],
    [9.0, 0.2, "simple", "holds"],
    [9.0, 0.7, "guarded", "can't tell"],
    // Just over half the tolerance, in the middle with 0.95: no verdict of such an instrument is one.
    [9.0, 0.51, "guarded", "can't tell"],
    [9.0, 0.5, "guarded", "holds"],
    [9.0, 0.7, "simple", "can't tell"],
    [11.0, 0.7, "simple", "off"],
  ] as const)("%p ± %p bar, %s rule: %s", (value, expanded, rule, verdict) => {
    expect(judge(U(value, expanded), tolerance, rule).verdict).toBe(verdict);
  });

  test("a rectangle with a little normal about it: as the integral says, summed by hand", () => {
    const [half, rest] = [0.256, 0.05];
    const u = Math.hypot(half / Math.sqrt(3), rest);
    for (const value of [9, 9.3, 9.6, 9.75]) {
      const N = 4000;
      let sum = 0;
      for (let i = 0; i < N; i++) {
        const at = value - half + (2 * half * (i + 0.5)) / N;
        sum += (phi((9.5 - at) / rest) - phi((8.5 - at) / rest)) / N;
      }
      expect(pInside({ value, u, half }, tolerance)).toBeCloseTo(sum, 4);
    }
    // A class error reaches no further than its limit: a quarter of a bar out it is out, where a normal of the same u would still doubt.
    const out = { value: 9.75, u, U: 2 * u, half };
    expect(judge(out, tolerance, "guarded").verdict).toBe("off");
    expect(judge({ ...out, half: 0 }, tolerance, "guarded").verdict).toBe("can't tell");
  });

  test("one-sided has no ratio; two-sided has half the tolerance ÷ U", () => {
    expect(judge(U(5, 0.2), { upper: 6 }, "guarded")).toMatchObject({ verdict: "holds", ratio: undefined });
    expect(judge(U(9, 0.25), tolerance, "guarded").ratio).toBeCloseTo(2, 12);
  });

  test("refuses a tolerance that is none", () => {
    expect(() => checkTolerance({})).toThrow(RangeError);
    expect(() => checkTolerance({ lower: 9, upper: 8 })).toThrow(RangeError);
    expect(() => checkTolerance({ lower: 8, upper: 9, target: 10 })).toThrow(RangeError);
    expect(() => pInside({ value: 1, u: -1 }, tolerance)).toThrow(RangeError);
    expect(aim({ lower: 8, upper: 9 })).toBe(8.5);
    expect(aim({ lower: 8 })).toBe(8);
    expect(aim(tolerance)).toBe(9);
  });

  test("always a probability, whatever the shape, however far it lies from the limits (property)", () => {
    const limits = fc.constantFrom<Parameters<typeof pInside>[1]>(
      { lower: 8.5, upper: 9.5 },
      { lower: 92, upper: 94 },
      { lower: 88, upper: 96 },
      { lower: 0.001, upper: 0.002 },
      { lower: 8.5 },
      { upper: 9.5 },
    );
    fc.assert(
      fc.property(
        limits,
        fc.double({ min: -300, max: 300, noNaN: true }),
        fc.double({ min: 1e-4, max: 20, noNaN: true }),
        // A rectangle is never wider than what u is made of.
        fc.double({ min: 0, max: Math.sqrt(3), noNaN: true }),
        fc.constantFrom(1, 4, 50, Infinity),
        (tolerance, value, u, share, dof) => {
          const p = pInside({ value, u, half: share * u, dof }, tolerance);
          expect(p).toBeGreaterThanOrEqual(0);
          expect(p).toBeLessThanOrEqual(1);
        },
      ),
      { numRuns: 4000 },
    );
  });

  test("a thin probe far below its tolerance: nearly nothing, never less than nothing, and the same on either side", () => {
    const tolerance = { lower: 92, target: 93, upper: 94 };
    for (let value = 82; value <= 90; value += 0.1) {
      const u = 0.32;
      const half = 0.5;
      const p = pInside({ value, u, half }, tolerance);
      expect(p).toBeGreaterThanOrEqual(0);
      expect(p).toBeLessThan(1e-3);
      expect(pInside({ value: 186 - value, u, half }, tolerance)).toBeCloseTo(p, 15);
      // It falls the further it lies away.
      expect(p).toBeLessThanOrEqual(pInside({ value: value + 0.1, u, half }, tolerance));
    }
  });

  test("moving to the middle never lowers the probability (property)", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        (away, u) => {
          const far = pInside({ value: 9 + away, u }, tolerance);
          expect(pInside({ value: 9 + away / 2, u }, tolerance)).toBeGreaterThanOrEqual(far - 1e-12);
        },
      ),
    );
  });
});

test("weights from logarithms: their ratios stay, however small all of them are, and they sum to 1", () => {
  expect(weightsFrom([0, Math.log(3)])).toEqual([expect.closeTo(0.25, 12), expect.closeTo(0.75, 12)]);
  const far = weightsFrom([-5000, -5000 + Math.log(4), -Infinity]);
  expect(far[1]! / far[0]!).toBeCloseTo(4, 9);
  expect(far.reduce((sum, w) => sum + w, 0)).toBeCloseTo(1, 12);
  expect(far[2]).toBe(0);
});
