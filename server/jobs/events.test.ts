import { type ReadingRow, summarise } from "./events";
import { wordingFor } from "./wording";
import { USUAL_OPV } from "../../core/pressure";

/** From the log to one figure: pooled within a gauge, weighed between gauges. */

const gauge = { lowest: 0, highest: 16, resolution: 0.1, repeatability: 0.1, corrections: null, dueOn: null };
const row = (indicated: number, id: string, limit: number) =>
  ({
    instrumentId: id,
    place: "group",
    toGroup: 0,
    toGroupU: 0,
    indicated,
    value: indicated,
    instrument: { ...gauge, error: { form: "limit", limit } },
  }) as unknown as ReadingRow;

test("nothing read is nothing", () => expect(summarise([])).toBeNull());

test("one gauge: the mean, with the uncertainty of all readings together", () => {
  const s = summarise([row(9, "a", 0.1), row(9.2, "a", 0.1)])!;
  expect(s.value).toBeCloseTo(9.1, 9);
  expect(s.u).toBeCloseTo(Math.hypot(Math.sqrt((8 * 0.01 + 0.02) / 9 / 2), 0.1 / Math.sqrt(3), 0.05 / Math.sqrt(3)), 9);
  expect(s.readings).toEqual([9, 9.2]);
});

test("two gauges: the better one weighs more, and together they are surer than either", () => {
  const both = summarise([row(9, "fine", 0.05), row(9.6, "coarse", 0.8)])!;
  const fine = summarise([row(9, "fine", 0.05)])!;
  expect(both.value).toBeGreaterThan(9);
  expect(both.value).toBeLessThan(9.1);
  expect(both.u).toBeLessThan(fine.u);
});

test("figures are worded in the person's unit and the valve's direction", () => {
  const words = wordingFor("psi", 0.1, { ...USUAL_OPV, raises: "anticlockwise" });
  expect(words.value(9)).toBe("131 psi");
  expect(words.spread(0.2)).toBe("3");
  expect(words.amount(0.375)).toBe("⅜ turn anticlockwise");
  expect(words.amount(-1.25)).toBe("1¼ turns clockwise");
});
