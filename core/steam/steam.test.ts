import fc from "fast-check";
import { densityOfWater, liquidWater, saturationPressure, saturationTemperature } from ".";

describe("IAPWS R7-97(2012), verification tables (values from memory)", () => {
  test.each([
    [300, 0.353658941e-2],
    [500, 0.263889776e1],
    [600, 0.123443146e2],
  ])("table 35: p_s(%p K) = %p MPa", (kelvin, mpa) =>
    expect(saturationPressure(kelvin - 273.15) / 10 / mpa).toBeCloseTo(1, 8),
  );
  test.each([
    [0.1, 372.755919],
    [1, 453.035632],
    [10, 584.149488],
  ])("table 36: T_s(%p MPa) = %p K", (mpa, kelvin) =>
    expect(saturationTemperature(10 * mpa) + 273.15).toBeCloseTo(kelvin, 6),
  );
  test.each([
    [300, 3, 0.100215168e-2, 115.331273, 4.17301218],
    [300, 80, 0.971180894e-3, 184.142828, 4.01008987],
    [500, 3, 0.1202418e-2, 975.542239, 4.65580682],
  ])("table 5: region 1 at %p K, %p MPa", (kelvin, mpa, v, h, cp) => {
    const water = liquidWater(kelvin - 273.15, 10 * mpa);
    expect(water.v / v).toBeCloseTo(1, 8);
    expect(water.h / h).toBeCloseTo(1, 8);
    expect(water.cp / cp).toBeCloseTo(1, 8);
  });
});

/**
 * IAPWS SR1-86(1992), saturation line and density of the liquid on it: another formulation than the one in use, fitted to the same
 * measurements. Coefficients from memory; two formulations that agree to a few parts in 10,000 hold each other.
 */
describe("IAPWS SR1-86(1992), recomputed beside it", () => {
  const CRITICAL = { kelvin: 647.096, mpa: 22.064, density: 322 };
  const sum = (terms: [number, number][], tau: number) => terms.reduce((s, [a, power]) => s + a * tau ** power, 0);
  const pressure = (kelvin: number) => {
    const terms: [number, number][] = [
      [-7.85951783, 1],
      [1.84408259, 1.5],
      [-11.7866497, 3],
      [22.6807411, 3.5],
      [-15.9618719, 4],
      [1.80122502, 7.5],
    ];
    return CRITICAL.mpa * Math.exp((CRITICAL.kelvin / kelvin) * sum(terms, 1 - kelvin / CRITICAL.kelvin));
  };
  const density = (kelvin: number) => {
    const terms: [number, number][] = [
      [1.99274064, 1 / 3],
      [1.09965342, 2 / 3],
      [-0.510839303, 5 / 3],
      [-1.75493479, 16 / 3],
      [-45.5170352, 43 / 3],
      [-6.7469445e5, 110 / 3],
    ];
    return CRITICAL.density * (1 + sum(terms, 1 - kelvin / CRITICAL.kelvin));
  };

  test.each([10, 50, 93, 120, 150, 200])("at %p °C pressure and density agree", (celsius) => {
    const p = saturationPressure(celsius);
    expect(Math.abs(p / 10 / pressure(celsius + 273.15) - 1)).toBeLessThan(5e-4);
    expect(Math.abs(1 / liquidWater(celsius, p).v / density(celsius + 273.15) - 1)).toBeLessThan(1e-4);
  });
});

test("cp is what h gains a degree (region 1 against itself)", () => {
  for (const [celsius, bar] of [
    [20, 1],
    [93, 9],
    [140, 12],
  ] as const) {
    const slope = (liquidWater(celsius + 0.01, bar).h - liquidWater(celsius - 0.01, bar).h) / 0.02;
    expect(slope / liquidWater(celsius, bar).cp).toBeCloseTo(1, 6);
  }
});

test("the two directions of the saturation line undo each other (property)", () => {
  fc.assert(
    fc.property(fc.double({ min: 1, max: 370, noNaN: true }), (celsius) =>
      expect(saturationTemperature(saturationPressure(celsius))).toBeCloseTo(celsius, 5),
    ),
  );
});

test("water is about a kilogram a litre and lighter hot; outside the region it is refused", () => {
  expect(densityOfWater(4)).toBeCloseTo(1, 3);
  expect(densityOfWater(93)).toBeLessThan(densityOfWater(20));
  expect(() => liquidWater(-1, 1)).toThrow(RangeError);
  expect(() => saturationPressure(400)).toThrow(RangeError);
  expect(() => saturationTemperature(0)).toThrow(RangeError);
});
