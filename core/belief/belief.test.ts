import fc from "fast-check";
import { nextAction } from ".";
import type { AdjustEvent, Advice, Knob } from "../adjust";
import { KINDS } from "../kind";
import type { Tolerance } from "../metrology";
import { SAFE_BREW_PRESSURE, USUAL_OPV, opvKnob } from "../pressure";

const knob = opvKnob(USUAL_OPV, KINDS.K7);
const tolerance: Tolerance = { lower: 8.5, target: 9, upper: 9.5 };
const read = (value: number, u = 0.15, more = {}): AdjustEvent => ({ kind: "reading", value, u, ...more });
const own = (value: number) => read(value, 0.1, { uCommon: 0.25, instrument: "own" });
const fine = (value: number) => read(value, 0.07, { uCommon: 0.05, instrument: "fine" });
const move = (amount: number): AdjustEvent => ({ kind: "move", amount });
const ask = (events: AdjustEvent[], over: Partial<Knob> = {}, within = tolerance): Advice =>
  nextAction({ knob: { ...knob, ...over }, tolerance: within, events });

describe("what is known of a value, beside the closed form", () => {
  /** A knob of which nothing can be wrong and nothing is turned. */
  const plain = { faults: { stuck: 0, ceiling: 0, reversed: 0 }, backlash: 0 };

  test("one reading: that reading, with what it does not share and what it does", () => {
    const { belief } = ask([own(9.2)], plain);
    expect(belief!.value).toBeCloseTo(9.2, 2);
    expect(belief!.sd).toBeCloseTo(Math.hypot(0.1, 0.25), 1);
  });

  test("two instruments: weighed by their variances (GUM, H.2.4; the weighted mean)", () => {
    const { belief } = ask([own(9), fine(9.3)], plain);
    const [a, b] = [1 / (0.1 ** 2 + 0.25 ** 2), 1 / (0.07 ** 2 + 0.05 ** 2)];
    expect(belief!.value).toBeCloseTo((9 * a + 9.3 * b) / (a + b), 1);
    expect(belief!.sd).toBeCloseTo(Math.sqrt(1 / (a + b)), 1);
  });

  test("what an instrument shares with itself no number of readings takes away", () => {
    const { belief } = ask(
      Array.from({ length: 12 }, () => own(9)),
      plain,
    );
    expect(belief!.sd).toBeGreaterThan(0.23);
    expect(belief!.sd).toBeLessThan(0.3);
  });
});

describe("one step at a time", () => {
  test("nothing read yet: read; turned and not read: read", () => {
    expect(ask([])).toEqual({ action: { kind: "recheck", reason: "no-reading" }, belief: null });
    expect(ask([read(8), move(0.5)]).action).toMatchObject({ kind: "recheck", reason: "moved-not-read" });
  });

  test("trade: half a turn is about 1 bar", () => {
    expect(ask([read(8), read(8)]).action).toMatchObject({ kind: "move", amount: 0.5 });
  });

  test("well inside: accepted", () => {
    expect(ask([read(9), read(9.1)]).action).toEqual({ kind: "accept" });
  });

  test("on target by the machine’s own gauge nothing is turned; 1.5 bar over it is turned down, by about the right amount", () => {
    expect(ask([own(9), own(9)]).action.kind).not.toBe("move");
    const { action } = ask([own(10.5), own(10.5)]);
    if (action.kind !== "move") throw new Error("a move was due");
    expect(action.amount).toBeLessThanOrEqual(-0.5);
    expect(action.amount).toBeGreaterThanOrEqual(-1);
  });

  test("the own gauge first, then a fine one: the fine one decides", () => {
    expect(ask([own(9), own(9), fine(9.02), fine(9.0)]).action).toEqual({ kind: "accept" });
    expect(ask([own(9.2), fine(10.1), fine(10.1)]).action).toMatchObject({ kind: "move" });
  });

  test("a response far from what was learnt is believed when it is read often enough", () => {
    const learnt = { response: { mean: 1.4, sd: 0.1 } };
    const events = [read(12.85), read(12.8), move(-2.75), ...Array.from({ length: 8 }, () => read(5.2))];
    const { action, belief } = ask(events, learnt);
    expect(belief!.value).toBeCloseTo(5.2, 1);
    expect(belief!.pInside).toBeLessThan(0.02);
    expect(action).not.toMatchObject({ reason: "contradiction" });
    expect(belief!.response.mean).toBeGreaterThan(2.4);
  });

  test("one figure that contradicts the rest is read again", () => {
    const { action, belief } = ask([read(8.2), read(8.2), read(8.2), read(11)]);
    expect(action).toEqual({ kind: "recheck", reason: "contradiction" });
    expect(belief!.value).toBeCloseTo(8.2, 0);
  });

  test("what does not answer is named, what answers the wrong way too", () => {
    expect(ask([read(11), read(11), move(-1), read(11), read(11.05)]).action).toMatchObject({
      kind: "fault",
      fault: "stuck",
    });
    expect(ask([read(8), move(0.5), read(7.1), read(7.05)]).action).toMatchObject({ kind: "fault", fault: "reversed" });
  });

  test("an old reading is waited for", () => {
    const offset = { staleProbability: 0.33, step: 1, backlash: 0, response: { mean: 1, sd: 0.1 }, largestMove: 9 };
    const within = { lower: 92.5, target: 93.5, upper: 94.5 };
    const after = [read(90.5, 0.3), move(3), read(90.6, 0.3)];
    expect(ask(after, offset, within).action).toEqual({ kind: "recheck", reason: "unsettled" });
    expect(ask([...after, read(93.4, 0.3), read(93.5, 0.3)], offset, within).action).toEqual({ kind: "accept" });
  });
});

const value = fc.double({ min: 4, max: 14, noNaN: true });
const events = fc.array(
  fc.oneof(
    { weight: 3, arbitrary: value.map((v): AdjustEvent => read(Math.round(v * 10) / 10)) },
    { weight: 1, arbitrary: value.map((v): AdjustEvent => own(Math.round(v * 10) / 10)) },
    { weight: 2, arbitrary: fc.integer({ min: -12, max: 12 }).map((i) => move(i / 8)) },
  ),
  { minLength: 1, maxLength: 9 },
);

test("whatever was read and turned: finite, the same each time, and no move against the aim, past what is safe or less likely than standing still (property)", () => {
  fc.assert(
    fc.property(events, (log) => {
      const { action, belief } = ask(log);
      expect(ask(log)).toEqual({ action, belief });
      if (!belief) return;
      for (const figure of Object.values({
        ...belief,
        response: belief.response.mean,
        doubted: belief.doubted.length,
        biases: belief.biases.size,
      }))
        expect(figure).toEqual(expect.any(Number));
      expect(Number.isFinite(belief.value) && Number.isFinite(belief.sd)).toBe(true);
      expect(belief.pInside).toBeGreaterThanOrEqual(0);
      expect(belief.pInside).toBeLessThanOrEqual(1 + 1e-9);
      if (action.kind !== "move") return;
      expect(Math.sign(action.amount)).toBe(Math.sign(9 - belief.value));
      expect(action.expected.pInside).toBeGreaterThanOrEqual(belief.pInside);
      expect(belief.value + belief.response.mean * action.amount).toBeLessThan(SAFE_BREW_PRESSURE);
    }),
    { numRuns: 60 },
  );
});
