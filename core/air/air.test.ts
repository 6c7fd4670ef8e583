import { airPressure } from ".";
import { saturationTemperature } from "../steam";

describe("ISO 2533 standard atmosphere (values from memory)", () => {
  test.each([
    [0, 101325],
    [1000, 89874],
    [2000, 79495],
  ])("%p m: %p Pa", (metres, pascal) => expect(Math.abs(airPressure(metres) * 1e5 - pascal)).toBeLessThan(2));

  test("water boils a good 3 °C lower at 1000 m", () => {
    expect(saturationTemperature(airPressure(0)) - saturationTemperature(airPressure(1000))).toBeCloseTo(3.4, 0);
  });

  test("an altitude no site has is refused", () => expect(() => airPressure(9000)).toThrow(RangeError));
});
