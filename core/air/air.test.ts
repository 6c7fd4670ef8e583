import { airPressure } from ".";
import { saturationTemperature } from "../steam";

describe("ISO 2533 standard atmosphere (values from memory)", () => {
  test.each([
    [0, 101325],
    [1000, 89874],
    [2000, 79495],
  ])("%p m: %p Pa", (metres, pascal) => expect(Math.abs(airPressure(metres) * 1e5 - pascal)).toBeLessThan(2));

  test("the same by the hydrostatic equation, layer by layer (ISO 2533, 2.1: constants from memory)", () => {
    const [gravity, gas] = [9.80665, 287.05287];
    let pascal = 101325;
    for (let metre = 0; metre < 2000; metre++) {
      const kelvin = 288.15 - 0.0065 * (metre + 0.5);
      pascal *= Math.exp(-gravity / (gas * kelvin));
    }
    expect((airPressure(2000) * 1e5) / pascal).toBeCloseTo(1, 5);
  });

  test("water boils a good 3 °C lower at 1000 m", () => {
    expect(saturationTemperature(airPressure(0)) - saturationTemperature(airPressure(1000))).toBeCloseTo(3.4, 0);
  });

  test("an altitude no site has is refused", () => expect(() => airPressure(9000)).toThrow(RangeError));
});
