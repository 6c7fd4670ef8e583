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
