import fc from "fast-check";
import { bandProblem, bandTolerance, cutOutTolerance, pressurestatKnob, steamCheck, steamPower } from ".";
import { nextAction } from "../belief";
import { airPressure } from "../air";
import { saturationTemperature } from "../steam";

describe("pressurestat", () => {
  const lever = { lower: 1, upper: 1.2 };
  test("trade: one notch about 0.1 bar; a lever cuts in at 1.0 and out at 1.2", () => {
    expect(pressurestatKnob().response.mean).toBe(0.1);
    expect(cutOutTolerance(lever)).toEqual({
      lower: expect.closeTo(1.1, 9),
      target: 1.2,
      upper: expect.closeTo(1.3, 9),
    });
    expect(bandTolerance(lever).target).toBeCloseTo(0.2, 9);
    expect(bandTolerance({ lower: 1.2, upper: 1.25 }).lower).toBe(0.05);
  });
  test("cut-in above cut-out is refused, and so is no band at all", () => {
    expect(bandProblem({ cutIn: 1.2, cutOut: 1.4 })).toBeNull();
    expect(bandProblem({ cutIn: 1.4, cutOut: 1.2 })).toContain("lower of the two");
    expect(bandProblem({ cutIn: 1.2, cutOut: 1.2 })).toContain("same");
  });
  test("0.9 at cut-out, 1.2 wanted: three notches up, whole ones", () => {
    const read = (value: number) => ({ kind: "reading" as const, value, u: 0.02, uCommon: 0.02 });
    const { action } = nextAction({
      knob: pressurestatKnob(),
      tolerance: cutOutTolerance(lever),
      events: [read(0.9), read(0.9)],
    });
    expect(action).toMatchObject({ kind: "move", amount: expect.any(Number) });
    expect(action.kind === "move" && [2, 3, 4].includes(action.amount)).toBe(true);
  });
});

describe("gauge against thermometer", () => {
  const read = { gauge: 1.2, uGauge: 0.03, uCelsius: 0.3 };
  test("on the saturation line of IAPWS R7-97 they agree, at the sea and at 1500 m, at different temperatures", () => {
    for (const metres of [0, 1500]) {
      const air = airPressure(metres);
      const celsius = saturationTemperature(1.2 + air);
      const check = steamCheck({ ...read, celsius, air });
      expect(check.agree).toBe(true);
      expect(check.difference).toBeCloseTo(0, 9);
      expect(check.gaugeFor).toBeCloseTo(1.2, 6);
    }
    // 1.2 bar on the gauge: about 123.3 °C at the sea, two degrees and more less at 1500 m.
    const cooler = saturationTemperature(1.2 + airPressure(0)) - saturationTemperature(1.2 + airPressure(1500));
    expect(cooler).toBeGreaterThan(2);
    expect(cooler).toBeLessThan(3.5);
  });
  test("a sea-level table at 1500 m would call a sound boiler wrong", () => {
    const air = airPressure(1500);
    const celsius = saturationTemperature(1.2 + air);
    expect(steamCheck({ ...read, celsius, air: airPressure(0) }).agree).toBe(false);
  });
  test("cooler than its pressure: air first. Hotter: gauge or thermometer, since steam over water can’t be", () => {
    const air = airPressure(0);
    const at = saturationTemperature(1.2 + air);
    expect(steamCheck({ ...read, celsius: at - 4, air }).explanations[0]!.cause).toContain("Air");
    expect(
      steamCheck({ ...read, celsius: at + 4, air })
        .explanations.map((e) => e.cause)
        .join(),
    ).toContain("gauge reads low");
  });
  test("a wider uncertainty never turns agreement into disagreement (property)", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 110, max: 130, noNaN: true }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        (celsius, uCelsius, more) => {
          const narrow = steamCheck({ ...read, celsius, uCelsius, air: 1.013 });
          const wide = steamCheck({ ...read, celsius, uCelsius: uCelsius + more, air: 1.013 });
          expect(narrow.agree && !wide.agree).toBe(false);
        },
      ),
    );
  });
});

describe("steam power", () => {
  const test_ = { mass: 150, uMass: 0.5, uTemperature: 0.3, uSeconds: 0.3 };
  test("Q = m·c·ΔT: 1 kg of water by 60 °C in 251 s is about a kilowatt", () => {
    const { watts } = steamPower({ ...test_, liquid: "water", mass: 1000, from: 10, to: 70, seconds: 251 });
    expect(watts / 1000).toBeCloseTo(1, 2);
  });
  test("trade: a jug takes about 40 s on a small boiler, about 10 on a commercial one", () => {
    const milk = { ...test_, liquid: "milk" as const, from: 5, to: 60 };
    const home = steamPower({ ...milk, seconds: 40 });
    expect(home.jug).toBeCloseTo(40, 6);
    expect(steamPower({ ...milk, seconds: 10 }).watts).toBeCloseTo(4 * home.watts, 6);
    expect(home.u / home.watts).toBeLessThan(0.02);
  });
  test("nothing heated, no time, nothing weighed: refused", () => {
    const ok = { ...test_, liquid: "milk" as const, from: 5, to: 60, seconds: 40 };
    expect(() => steamPower({ ...ok, to: 5 })).toThrow("hotter");
    expect(() => steamPower({ ...ok, seconds: 0 })).toThrow("time");
    expect(() => steamPower({ ...ok, mass: 0 })).toThrow("Weigh");
  });
});
