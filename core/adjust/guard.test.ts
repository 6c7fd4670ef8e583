import fc from "fast-check";
import { type AdjustEvent, type Knob } from ".";
import { nextAction } from "../belief";
import { pressurestatKnob } from "../boiler";
import { amountDialKnob, stopKnob } from "../grinder";
import { KINDS } from "../kind";
import type { Tolerance } from "../metrology";
import { SAFE_BREW_PRESSURE, USUAL_OPV, lineRegulatorKnob, opvKnob, springKnob } from "../pressure";
import { offsetKnob } from "../temperature";
import { USUAL_METER, pulseKnob, teachKnob } from "../volume";

/** What no hand may be told, whatever engine stands behind it: over knobs, gauges and logs that nobody chose. */

const opv = opvKnob(USUAL_OPV, KINDS.K7);
const nine = { lower: 8.5, target: 9, upper: 9.5 };
const read = (value: number, u = 0.1, uCommon = 0): AdjustEvent => ({ kind: "reading", value, u, uCommon });
const ask = (events: AdjustEvent[], knob: Knob = opv, tolerance: Tolerance = nine, finer = false) =>
  nextAction({ knob, tolerance, events, finer, opens: finer });

const KNOBS: readonly { knob: Knob; tolerance: Required<Tolerance> }[] = [
  { knob: opv, tolerance: nine },
  { knob: opvKnob(USUAL_OPV, KINDS.K12), tolerance: { lower: 11, target: 11.5, upper: 12 } },
  { knob: opvKnob({ responseMean: 2.2, responseSd: 0.27, raises: "anticlockwise" }, KINDS.K5), tolerance: nine },
  { knob: springKnob([7, 8, 9, 10].map((bar) => ({ name: String(bar), bar }))), tolerance: nine },
  { knob: pressurestatKnob(), tolerance: { lower: 1.2, target: 1.3, upper: 1.4 } },
  { knob: lineRegulatorKnob(), tolerance: { lower: 3, target: 4.5, upper: 6 } },
  { knob: offsetKnob({ step: 1, raises: false }), tolerance: { lower: -1, target: 0, upper: 1 } },
  { knob: stopKnob("less", 6), tolerance: { lower: 17.5, target: 18, upper: 18.5 } },
  { knob: amountDialKnob(12), tolerance: { lower: 17.5, target: 18, upper: 18.5 } },
  { knob: pulseKnob(USUAL_METER), tolerance: { lower: 34, target: 36, upper: 38 } },
  { knob: teachKnob(), tolerance: { lower: 34, target: 36, upper: 38 } },
];

/** A visit in figures: where it was found, how the knob really answers, what the gauge adds and shares. */
const visit = fc.record({
  of: fc.integer({ min: 0, max: KNOBS.length - 1 }),
  /** Found so many half tolerances from the target. */
  found: fc.integer({ min: -60, max: 60 }).map((x) => x / 10),
  /** Of the response that is usual; 0 is stuck, below 0 it is built the other way. */
  answers: fc.integer({ min: -10, max: 25 }).map((x) => x / 10),
  /** Of half the tolerance. */
  noise: fc.integer({ min: 5, max: 60 }).map((x) => x / 100),
  shared: fc.integer({ min: 0, max: 60 }).map((x) => x / 100),
  errors: fc.array(
    fc.integer({ min: -20, max: 20 }).map((x) => x / 10),
    { minLength: 10, maxLength: 10 },
  ),
});

describe("whatever knob, gauge and log", () => {
  test("no move is told that leads away, that is less likely in spec than standing still, by luck only, or past the safe limit", () => {
    let moves = 0;
    fc.assert(
      fc.property(visit, ({ of, found, answers, noise, shared, errors }) => {
        const { knob, tolerance } = KNOBS[of]!;
        const half = (tolerance.upper - tolerance.lower) / 2;
        let value = tolerance.target + found * half;
        const events: AdjustEvent[] = [];
        for (const error of errors) {
          events.push(read(value + error * noise * half, noise * half, shared * half));
          const { action, belief } = ask(events, knob, tolerance);
          if (action.kind === "accept" || action.kind === "fault") return;
          if (action.kind !== "move") continue;
          moves++;
          const rises = action.amount * knob.direction > 0;
          expect(action.expected.pInside).toBeGreaterThanOrEqual(0.2);
          expect(action.expected.pInside).toBeGreaterThanOrEqual(belief!.pInside);
          if (belief!.value > tolerance.upper) expect(rises).toBe(false);
          if (belief!.value < tolerance.lower) expect(rises).toBe(true);
          if (rises && knob.safe !== undefined) {
            // One standard deviation lies under the 99th percentile of any response that has one peak.
            const { mean, sd } = belief!.response;
            expect(belief!.value + (mean + sd) * Math.abs(action.amount)).toBeLessThanOrEqual(knob.safe + 1e-9);
          }
          value += answers * knob.response.mean * knob.direction * action.amount;
          events.push({ kind: "move", amount: action.amount });
        }
      }),
      { numRuns: 300 },
    );
    expect(moves).toBeGreaterThan(100);
  });
});

describe("the machine’s own gauge, class 2.5 of 16 bar, as it was found", () => {
  const own = (value: number, knob = opv) => ask([read(value, 0.1, 0.25), read(value, 0.1, 0.25)], knob);

  test("1.5 bar over: anticlockwise and likely; 1.5 under: clockwise", () => {
    const down = own(10.5).action;
    expect(down.kind === "move" && down.amount).toBeLessThan(0);
    expect(down.kind === "move" && down.expected.pInside).toBeGreaterThan(0.3);
    const up = own(7.5).action;
    expect(up.kind === "move" && up.amount).toBeGreaterThan(0);
  });

  test("on target nothing is turned: the instrument is what cannot decide", () => {
    expect(own(9).action).toMatchObject({ kind: "fault", fault: "gauge-too-coarse" });
  });

  test.each([6.5, 6.8, 7.1, 7.4, 7.7, 7.9, 8.2])("low at %p bar with a learnt response: up, never down", (value) => {
    const { action } = own(value, opvKnob({ responseMean: 2.2, responseSd: 0.27, raises: "clockwise" }, KINDS.K5));
    expect(action.kind === "move" && action.amount).toBeGreaterThan(0);
  });

  test("far too low for a ceiling: looked at first, nothing turned by luck", () => {
    const ceiling = { lower: 11, target: 11.5, upper: 12 };
    const { action } = ask([read(5.5, 0.1, 0.25), read(5.5, 0.1, 0.25)], opvKnob(USUAL_OPV, KINDS.K12), ceiling);
    expect(action).toMatchObject({ kind: "fault", fault: "look-first" });
  });
});

test("with a finer instrument in the kit that one is asked for before anything is opened, and only then", () => {
  const found = [read(10.5, 0.1, 0.25), read(10.5, 0.1, 0.25)];
  expect(ask(found, opv, nine, true).action).toEqual({ kind: "recheck", reason: "finer-first" });
  expect(ask(found, opv, nine, false).action.kind).toBe("move");
  // Opened and turned already: it was asked then.
  const turned: AdjustEvent[] = [...found, { kind: "move", amount: -0.25 }, read(10, 0.1, 0.25), read(10, 0.1, 0.25)];
  expect(ask(turned, opv, nine, true).action).not.toEqual({ kind: "recheck", reason: "finer-first" });
});

test("on one reading nothing is opened; a second one that agrees opens it, and what is open is turned on each", () => {
  const opens = (events: AdjustEvent[]) => nextAction({ knob: opv, tolerance: nine, events, opens: true }).action;
  expect(opens([read(11)])).toEqual({ kind: "recheck", reason: "not-sure-yet" });
  expect(ask([read(11)]).action.kind).toBe("move");
  expect(opens([read(11), read(11)]).kind).toBe("move");
  expect(opens([read(11), read(11), { kind: "move", amount: -0.5 }, read(10.2)]).kind).toBe("move");
});

test("a long first turn stops short of where the strongest valve would pass the safe limit", () => {
  const { action, belief } = ask([read(5.6), read(5.6)]);
  const amount = action.kind === "move" ? action.amount : NaN;
  const { mean, sd } = belief!.response;
  expect(amount).toBeGreaterThan(0);
  expect(5.6 + amount * (mean + 2.33 * sd)).toBeLessThanOrEqual(SAFE_BREW_PRESSURE);
  const free = ask([read(5.6), read(5.6)], { ...opv, safe: Infinity }).action;
  expect(free.kind === "move" && free.amount).toBeGreaterThanOrEqual(amount);
});
