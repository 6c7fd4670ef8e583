import fc from "fast-check";
import { nextAction } from "../belief";
import {
  BASKETS,
  HOPPER,
  type TimedDose,
  amountDialKnob,
  depthCheck,
  doseTolerance,
  fitRate,
  halfDoses,
  overUnder,
  rateAt,
  secondsFor,
  stopKnob,
  timerKnob,
} from ".";

const SCALE = { finer: -1, step: 1 } as const;
const dose = (seconds: number, grams: number, setting = 10): TimedDose => ({ seconds, grams, setting });

describe("baskets", () => {
  test("trade: 18 g double is the usual centre, 14 to 20", () => {
    expect(BASKETS.double).toMatchObject({ usual: 18, least: 14, most: 20 });
    expect(doseTolerance(18)).toEqual({ lower: 17.5, target: 18, upper: 18.5 });
  });

  test("over and under say by how much and what to do; inside says nothing", () => {
    expect(overUnder(18.9, doseTolerance(18))).toMatch(/^0\.9 g over: spoon/);
    expect(overUnder(16.8, doseTolerance(18))).toMatch(/^1\.2 g under: grind/);
    expect(overUnder(18.5, doseTolerance(18))).toBeNull();
  });

  test("trade: without a scale, level with the collar line; beans over 2.5 cm", () => {
    expect(depthCheck("below")).toContain("too little");
    expect(depthCheck("level")).toContain("within a gram");
    expect(depthCheck("above")).toContain("too much");
    expect(HOPPER.enough).toContain("2.5 cm");
    expect(HOPPER.low).toContain("filled up first");
  });

  test("two half doses make up the whole, whatever the first one weighed", () => {
    expect(halfDoses(18)).toEqual({ first: 9, second: 9 });
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 17.9, noNaN: true }), (first) => {
        const halves = halfDoses(18, first);
        expect(halves.first + halves.second).toBeCloseTo(18, 9);
      }),
    );
    expect(() => halfDoses(18, 18)).toThrow("whole dose");
    expect(() => halfDoses(18, 0)).toThrow(RangeError);
  });
});

describe("timed grinders: g = rate × s", () => {
  test("one weighed dose gives the rate, more make it surer", () => {
    const one = rateAt(fitRate([dose(8, 16)], SCALE), 10);
    expect(one.mean).toBeCloseTo(2, 2);
    const three = rateAt(fitRate([dose(8, 16), dose(9, 18.1), dose(9, 17.9)], SCALE), 10);
    expect(three.u).toBeLessThan(one.u);
  });

  test("seconds for a dose in tenths, with what to expect and how surely", () => {
    const rate = fitRate([dose(8, 16), dose(8, 16.1)], SCALE);
    const to = secondsFor(doseTolerance(18), rate, 10);
    expect(to.seconds).toBeCloseTo(9, 1);
    expect(to.grams).toBeCloseTo(18, 0);
    expect(to.pInside).toBeGreaterThan(0.5);
    expect(to.pInside).toBeLessThan(1);
  });

  test("trade: coarser grinds faster, so it takes fewer seconds; how much is learnt", () => {
    const rate = fitRate([dose(9, 18, 10)], SCALE);
    const [same, coarser, finer] = [10, 13, 7].map((s) => secondsFor(doseTolerance(18), rate, s));
    expect(coarser!.seconds).toBeLessThan(same!.seconds);
    expect(finer!.seconds).toBeGreaterThan(same!.seconds);
    // Further from what was weighed it is less sure.
    expect(coarser!.uSeconds).toBeGreaterThan(same!.uSeconds);
    const steep = fitRate([dose(9, 18, 10), dose(9, 22, 13)], SCALE);
    expect(steep.perStep).toBeGreaterThan(rate.perStep);
    // A scale that runs the other way.
    const other = fitRate([dose(9, 18, 10)], { finer: 1, step: 1 });
    expect(secondsFor(doseTolerance(18), other, 13).seconds).toBeGreaterThan(same!.seconds);
  });

  test("where the scale begins and how it is divided does not matter", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            seconds: fc.double({ min: 2, max: 20, noNaN: true }),
            grams: fc.double({ min: 5, max: 30, noNaN: true }),
            setting: fc.integer({ min: 0, max: 20 }),
          }),
          { minLength: 1, maxLength: 5 },
        ),
        fc.integer({ min: -30, max: 30 }),
        (doses, shift) => {
          const one = secondsFor(doseTolerance(18), fitRate(doses, SCALE), 8);
          const moved = doses.map((d) => ({ ...d, setting: (d.setting + shift) / 4 }));
          const other = secondsFor(doseTolerance(18), fitRate(moved, { finer: -1, step: 0.25 }), (8 + shift) / 4);
          expect(other.seconds).toBeCloseTo(one.seconds, 6);
          expect(other.u).toBeCloseTo(one.u, 6);
        },
      ),
    );
  });

  test("a dose without seconds or grams is refused", () => {
    expect(() => fitRate([dose(0, 18)], SCALE)).toThrow(RangeError);
    expect(() => fitRate([dose(9, 0)], SCALE)).toThrow(RangeError);
  });
});

describe("amounts through the one engine", () => {
  const ask = (knob: ReturnType<typeof stopKnob>, grams: number) =>
    nextAction({ knob, tolerance: doseTolerance(18), events: [{ kind: "reading", value: grams, u: 0.05 }] }).action;

  test("trade: a thread is about a gram to begin with", () => {
    expect(stopKnob("more").response.mean).toBe(1);
    const action = ask(stopKnob("more"), 16);
    expect(action.kind === "move" && action.amount).toBeCloseTo(2, 0);
  });

  test("where more threads showing give less coffee it is turned the other way, and never to threads that are not there", () => {
    const less = ask(stopKnob("less", 5.5), 16);
    expect(less.kind === "move" && less.amount).toBeCloseTo(-2, 0);
    // A gram and a half short with one thread showing: there is no more than that one to turn in.
    const short = ask(stopKnob("less", 1), 16.5);
    expect(short.kind === "move" ? short.amount : 0).toBeGreaterThanOrEqual(-1);
  });

  test("a clock-hour dial and a timer move the right way", () => {
    const dial = ask(amountDialKnob(), 20.4);
    expect(dial.kind === "move" && dial.amount).toBeLessThan(-1);
    const timer = ask(timerKnob(fitRate([dose(8, 15.2)], SCALE), 10), 15.2);
    // 2.8 g short at 1.9 g/s.
    expect(timer.kind === "move" && timer.amount).toBeCloseTo(1.5, 0);
  });
});
