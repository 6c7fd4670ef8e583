import fc from "fast-check";
import { heatUpBound, predictWarmUp, shortestHeatUp, tooFast } from ".";

describe("no heat-up beats the energy the water needs (IAPWS region 1 enthalpies)", () => {
  test("agrees with Q = m·c·ΔT within half a percent where c hardly changes", () => {
    const rough = (1.0 * 0.999 * 4186 * 80) / 1000;
    expect(shortestHeatUp({ watts: 1000, litres: 1, to: 95 }, 15) / rough).toBeCloseTo(1, 2);
  });
  test("hot already takes no time; nonsense is refused", () => {
    expect(shortestHeatUp({ watts: 1000, litres: 1, to: 95 }, 96)).toBe(0);
    expect(() => shortestHeatUp({ watts: 0, litres: 1, to: 95 }, 15)).toThrow(RangeError);
  });
  test("more power, less water or warmer water is faster (property)", () => {
    const watts = fc.double({ min: 300, max: 6000, noNaN: true });
    const litres = fc.double({ min: 0.05, max: 15, noNaN: true });
    fc.assert(
      fc.property(watts, litres, fc.double({ min: 5, max: 60, noNaN: true }), (w, l, from) => {
        const time = shortestHeatUp({ watts: w, litres: l, to: 120 }, from);
        expect(shortestHeatUp({ watts: w * 1.5, litres: l, to: 120 }, from)).toBeLessThan(time);
        expect(shortestHeatUp({ watts: w, litres: l / 2, to: 120 }, from)).toBeLessThan(time);
        expect(shortestHeatUp({ watts: w, litres: l, to: 120 }, from + 10)).toBeLessThan(time);
      }),
    );
  });
  test("a bound is one: no site from 5 to 30 °C, mains within 10 %, and no usual fill is faster", () => {
    const within = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(within(5, 30), within(0.9, 1.1), within(0.65, 1), (from, mains, fill) => {
        const steams = { watts: 1400 * mains ** 2, litres: 1.2 * fill, to: 125 };
        expect(shortestHeatUp(steams, from)).toBeGreaterThanOrEqual(
          heatUpBound({ watts: 1400, litres: 1.2, to: 125 }, true) - 1e-9,
        );
        const full = { watts: 1000 * mains ** 2, litres: 0.3, to: 95 };
        expect(shortestHeatUp(full, from)).toBeGreaterThanOrEqual(
          heatUpBound({ watts: 1000, litres: 0.3, to: 95 }, false) - 1e-9,
        );
      }),
    );
  });
  test("a time under the bound is called out", () => {
    expect(tooFast(100, 300)).toBe(true);
    expect(tooFast(299, 300)).toBe(false);
  });
});

describe("prediction", () => {
  test("the kind's usual time until the machine has shown its own", () => {
    const first = predictWarmUp(1800, []);
    expect(first.seconds).toBeCloseTo(1800, 6);
    expect(first.from).toBe(0);
    const later = predictWarmUp(1800, [2400, 2500, 2450]);
    expect(later.seconds).toBeGreaterThan(2300);
    expect(later.seconds).toBeLessThan(2500);
    expect(later.high - later.low).toBeLessThan(first.high - first.low);
  });
  test("never under the physical bound", () => {
    const p = predictWarmUp(60, [], 300);
    expect(p).toMatchObject({ seconds: 300, bound: true });
    expect(p.low).toBe(300);
  });
  test("lies between the prior and what was seen, whatever that is (property)", () => {
    const seconds = fc.double({ min: 30, max: 9000, noNaN: true });
    fc.assert(
      fc.property(seconds, fc.array(seconds, { minLength: 1, maxLength: 10 }), (usual, earlier) => {
        const { seconds: s } = predictWarmUp(usual, earlier);
        expect(s).toBeGreaterThanOrEqual(Math.min(usual, ...earlier) * 0.999);
        expect(s).toBeLessThanOrEqual(Math.max(usual, ...earlier) * 1.001);
      }),
    );
  });
  test("refuses times that aren't", () => expect(() => predictWarmUp(100, [0])).toThrow(RangeError));
});
