import fc from "fast-check";
import {
  BLEED,
  OPV_TOLERANCE,
  bleedProblem,
  clockWords,
  dialPressure,
  dialResolution,
  endsTheTest,
  flowingTest,
  parseClock,
  raising,
  springKnob,
  swing,
} from ".";
import { nextAction } from "../belief";
import { USUAL_DIAL, USUAL_SPRINGS } from "../kind";

describe("a dial without figures, read as a clock face", () => {
  test.each([
    ["half past twelve", 12.5],
    ["12:30", 12.5],
    ["12 o’clock", 12],
    ["twelve", 12],
    ["quarter to one", 12.75],
    ["a quarter past 12", 12.25],
    ["1 o'clock", 13],
    ["ten past nine", 9 + 10 / 60, "10 past nine"],
    ["5 to 12", 11 + 55 / 60],
  ])("%s", (said, hour, typed = said) => {
    const read = parseClock(typed as string);
    expect(read).toEqual({ ok: true, low: expect.closeTo(hour as number, 9), high: expect.closeTo(hour as number, 9) });
  });
  test("between two places; nonsense is refused with an example", () => {
    expect(parseClock("between 12 and 1")).toEqual({ ok: true, low: 12, high: 13 });
    expect(parseClock("twelve to one")).toEqual({ ok: true, low: 12, high: 13 });
    // “12 to 1” lies between two neighbours; “5 to 12” is a time.
    expect(parseClock("12 to 1")).toEqual({ ok: true, low: 12, high: 13 });
    expect(parseClock("5 to 12")).toMatchObject({ ok: true, low: 12 - 5 / 60 });
    for (const bad of ["", "noon-ish", "25:00", "12:75", "9 bar", "half past"]) expect(parseClock(bad).ok).toBe(false);
    expect(parseClock("up a bit")).toMatchObject({ message: expect.stringContaining("half past twelve") });
  });
  test("trade: 12 to 1 o’clock is about 9 bar", () => {
    expect(dialPressure(USUAL_DIAL, 12.5)).toBe(9);
    expect(dialPressure(USUAL_DIAL, 12)).toBeGreaterThanOrEqual(8);
    expect(dialPressure(USUAL_DIAL, 13)).toBeLessThanOrEqual(10.1);
  });
  test("outside the scale is refused by its ends; a quarter of an hour is worth half a bar", () => {
    expect(() => dialPressure(USUAL_DIAL, 16)).toThrow("8:00 to 3:00");
    expect(dialResolution(USUAL_DIAL, 12.4)).toBeCloseTo(0.5, 1);
    expect(clockWords(13.25)).toBe("1:15");
  });
  test("rises all the way (property)", () => {
    const hour = fc.double({ min: 8, max: 15, noNaN: true });
    fc.assert(
      fc.property(hour, hour, (a, b) =>
        expect(
          Math.sign(dialPressure(USUAL_DIAL, b) - dialPressure(USUAL_DIAL, a)) * Math.sign(b - a),
        ).toBeGreaterThanOrEqual(0),
      ),
    );
  });
});

describe("a needle that swings", () => {
  test("trade: ± 0.3 bar is normal on a vibratory pump, not on a rotary one", () => {
    expect(swing(8.7, 9.3, "vibratory")).toMatchObject({ middle: 9, unusual: false });
    expect(swing(8.7, 9.3, "rotary").unusual).toBe(true);
    expect(swing(8.5, 9.5, "vibratory").unusual).toBe(true);
  });
  test("the mean lies in the inner half of the swing: a rectangular distribution", () => {
    expect(swing(8.7, 9.3, "vibratory").line.u).toBeCloseTo(0.15 / Math.sqrt(3), 12);
    expect(swing(9, 9, "vibratory").line.u).toBe(0);
    expect(() => swing(9.3, 8.7, "vibratory")).toThrow("lower end");
  });
});

describe("static against flowing", () => {
  test("trade: a worn pump holds still water and sags with flow", () => {
    expect(flowingTest({ static: 9, flowing: 6.5, u: 0.15 }).verdict).toBe("sags");
    expect(flowingTest({ static: 9, flowing: 8.7, u: 0.15 }).verdict).toBe("holds under flow");
    expect(flowingTest({ static: 9, flowing: 8.05, u: 0.2 }).verdict).toBe("can't tell");
    expect(flowingTest({ static: 9, flowing: 7, u: 0 }).pSags).toBe(1);
  });
  test("trade: the bleed is 1.5 to 3 ml/s", () => {
    expect([BLEED.least, BLEED.most]).toEqual([1.5, 3]);
    expect([1.5, 2, 3].map(bleedProblem)).toEqual([null, null, null]);
    expect(bleedProblem(1)).toContain("too little");
    expect(bleedProblem(4)).toContain("more than a shot");
    expect(bleedProblem(Number.NaN)).toContain("flows");
  });
  test("no return and over the limit ends the test; under it, or seen, or not looked at, it does not", () => {
    const at = OPV_TOLERANCE.regulate;
    expect(endsTheTest(10.4, "none", at)).toBe(true);
    expect(endsTheTest(9.2, "none", at)).toBe(false);
    expect(endsTheTest(10.4, "seen", at)).toBe(false);
    expect(endsTheTest(10.4, "not-looked", at)).toBe(false);
  });
});

describe("a spring swap: discrete choices through the same engine", () => {
  const knob = springKnob(USUAL_SPRINGS);
  const read = (value: number) => ({ kind: "reading" as const, value, u: 0.1, uCommon: 0.05 });
  test("one step is one spring, learnt from the set", () => {
    expect(knob).toMatchObject({ step: 1, travel: { lowest: -3, highest: 3 } });
    expect(knob.response.mean).toBeCloseTo(5 / 3, 9);
    expect(() => springKnob([{ name: "only", bar: 9 }])).toThrow("at least two");
  });
  test("over the limit: a softer spring, by a whole one", () => {
    const { action } = nextAction({ knob, tolerance: OPV_TOLERANCE.regulate, events: [read(10.8), read(10.7)] });
    expect(action).toMatchObject({ kind: "move", amount: -1 });
  });
  test("a set that steps over the tolerance is named so", () => {
    const narrow = { lower: 8.9, target: 9, upper: 9.1 };
    const back = { kind: "move" as const, amount: -1 };
    const on = { kind: "move" as const, amount: 1 };
    const events = [read(10.2), back, read(8.4), on, read(10.2), back, read(8.4), read(8.4)];
    const { action } = nextAction({ knob: { ...knob, scatter: 0.02 }, tolerance: narrow, events });
    expect(action).toMatchObject({ kind: "fault" });
  });
});

test("clockwise and anticlockwise, each way round", () => {
  expect([raising("clockwise"), raising("anticlockwise")]).toEqual([1, -1]);
});
