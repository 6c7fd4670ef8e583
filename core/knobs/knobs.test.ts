import { randomLcg, randomNormal } from "d3-random";
import {
  KNOB_IDS,
  LOOP_IDS,
  type LearntKnob,
  type LoopId,
  atOf,
  faultWords,
  keyOf,
  loopsOf,
  moduleOf,
  moveWords,
} from ".";
import { type AdjustEvent, type FaultKind, type Knob } from "../adjust";
import { nextAction } from "../belief";
import { fitRate } from "../grinder";
import { KINDS, KIND_IDS, type KindId, usualCard } from "../kind";
import { type Tolerance, checkTolerance } from "../metrology";
import { USUAL_OPV } from "../pressure";
import { formatTurns } from "../quantity";
import { USUAL_SCHOOLS } from "../school";
import { STARTING_CARDS } from "../spec";

const loops = (id: KindId, over: Partial<Parameters<typeof loopsOf>[0]> = {}) =>
  loopsOf({
    kind: KINDS[id],
    card: { ...usualCard(KINDS[id]), stopThreads: "less" },
    schools: USUAL_SCHOOLS,
    spec: STARTING_CARDS.trade.lines,
    opv: USUAL_OPV,
    ...over,
  });
const told = (mean: number, sd: number): LearntKnob => ({ mean, sd, machines: 1, own: 0 });
const ids = (id: KindId) => loops(id).map((l) => l.id);
const loop = (id: KindId, of: LoopId) => loops(id).find((l) => l.id === of)!;

describe.each(KIND_IDS)("loops of a %s", (id) => {
  test("each once, with limits that are limits, a knob that moves, ranges that hold the target", () => {
    expect(new Set(ids(id)).size).toBe(ids(id).length);
    for (const l of loops(id)) {
      expect(() => checkTolerance(l.tolerance)).not.toThrow();
      expect(l.knob === null).toBe(l.hand === null);
      if (l.knob) expect(l.knob.step).toBeGreaterThan(0);
      const { usual, possible } = moduleOf(l.at.knob).reads;
      expect(usual[0]).toBeGreaterThanOrEqual(possible[0]);
      expect(usual[1]).toBeLessThanOrEqual(possible[1]);
    }
  });
});

describe("the kinds differ where their knobs do", () => {
  test.each<[KindId, LoopId[]]>([
    ["K1", ["opv", "temperature", "basket", "dose-1", "single-1"]],
    ["K5", ["opv", "offset", "basket"]],
    ["K10", ["line-regulator", "pre-infusion", "pressurestat", "temperature", "basket"]],
    [
      "K11",
      ["opv", "line-regulator", "pressurestat", "temperature", "basket", "dose-1", "single-1", "dose-2", "single-2"],
    ],
    ["K13", ["opv", "temperature", "dose-1", "single-1"]],
    ["K14", ["basket"]],
  ])("%s: %j", (id, expected) => expect(ids(id)).toEqual(expected));

  test("a screw, a spring, or nothing to turn", () => {
    expect(loop("K7", "opv").hand!.act).toBe("Turn OPV");
    expect(loop("K13", "opv").hand!.act).toBe("Fit a spring");
    const none = loops("K7", { kind: { ...KINDS.K7, opv: "none" } }).find((l) => l.id === "opv")!;
    expect(none.knob).toBeNull();
  });
  test("a boiler with a gauge but no wheel is read only", () => {
    expect(loop("K8", "pressurestat").knob).toBeNull();
    expect(loop("K10", "pressurestat").knob).not.toBeNull();
  });
  test("a valve that is raised anticlockwise, and an offset that cools when it grows", () => {
    const anti = loops("K7", { opv: { ...USUAL_OPV, raises: "anticlockwise" } })[0]!;
    expect(anti.hand!.sign).toBe(-1);
    const cools = loops("K5", { card: { ...usualCard(KINDS.K5), offset: { step: 1, raises: false } } });
    expect(cools.find((l) => l.id === "offset")!.knob!.direction).toBe(-1);
  });
  test("what was learnt takes the place of what the trade starts with; a fitted meter makes the pulse", () => {
    expect(loops("K7", { learnt: { opv: told(2.6, 0.2) } })[0]!.knob!.response).toEqual({ mean: 2.6, sd: 0.2 });
    const meters = [{ K: 1.9, u: 0.02 }, null];
    const [one, two] = loops("K11", { meters }).filter((l) => l.id.startsWith("dose"));
    expect(one!.knob!.response.mean).toBeCloseTo(1 / 1.9, 9);
    expect(two!.knob!.response.mean).toBeCloseTo(1 / 2, 9);
  });
});

describe("coffee in the basket, and the buttons", () => {
  test("a dose stop turns the way its model does: not known, nothing is turned; no thread that is not there", () => {
    const card = usualCard(KINDS.K6);
    const stop = (more: object) => loops("K6", { card, ...more }).find((l) => l.id === "basket")!.knob;
    expect(card.stopThreads).toBe("unknown");
    expect(stop({})).toBeNull();
    expect(stop({ stopThreads: "less", amountStart: 5.5 })).toMatchObject({
      direction: -1,
      travel: { lowest: -5.5, highest: 19.5 },
    });
    expect(stop({ card: { ...card, stopThreads: "more" } })!.direction).toBe(1);
  });

  test.each<[KindId, string | null, string | undefined]>([
    ["K1", "Turn amount dial", "clock"],
    ["K6", "Turn dose stop", "threads"],
    ["K14", "Set timer", "seconds"],
    ["K7", null, undefined],
  ])("%s: the dose is changed by %s", (kind, act, place) => {
    const { hand, with: beside } = loop(kind, "basket");
    expect(hand?.act ?? null).toBe(act);
    expect(beside.amount?.kind).toBe(place);
  });

  test("four buttons of two groups are eight loops; single, double and long ones have targets of their own", () => {
    const card = { ...usualCard(KINDS.K11), doseButtons: 4 };
    const all = loops("K11", { card, targets: { single: 22 } }).filter((l) => l.at.button);
    expect(all).toHaveLength(8);
    const target = (id: LoopId) => all.find((l) => l.id === id)!.tolerance.target;
    expect([target("dose-1"), target("single-1"), target("double-long-1"), target("single-2")]).toEqual([
      36, 22, 54, 22,
    ]);
  });

  test.each([1, 2, 3, 4])("a machine of %p groups has its buttons on each, none to six a group", (groups) => {
    for (let doseButtons = 0; doseButtons <= 6; doseButtons++) {
      const card = { ...usualCard(KINDS.K11), groups, doseButtons };
      const all = loops("K11", { kind: { ...KINDS.K11, groups }, card }).filter((l) => l.at.knob === "button");
      expect(all.map((l) => l.at.group)).toEqual(
        [1, 2, 3, 4].slice(0, groups).flatMap((g) => Array(doseButtons).fill(g)),
      );
      for (const l of all) expect(atOf(l.id)).toEqual(l.at);
    }
  });

  test("a name stands for one knob, and what is no name for none", () => {
    for (const id of LOOP_IDS) expect(keyOf(atOf(id)!)).toBe(id);
    expect(atOf("single-long-2")).toEqual({ knob: "button", group: 2, button: "single-long" });
    expect(atOf("opv")).toEqual({ knob: "opv", group: null, button: null });
    for (const none of ["", "dose-0", "dose-5", "button", "constructor"]) expect(atOf(none)).toBeNull();
  });

  test("a timer moves by the rate of its grind, whatever earlier jobs had learnt", () => {
    const rate = fitRate([{ seconds: 8, grams: 12, setting: 10 }], { finer: -1, step: 1 });
    const timed = loops("K14", { timed: { rate, setting: 10 }, learnt: { basket: told(5, 0.1) } })[0]!;
    expect(timed.knob!.response.mean).toBeCloseTo(1.5, 1);
    expect(
      loops("K6", { learnt: { basket: told(0.8, 0.1) } }).find((l) => l.id === "basket")!.knob!.response.mean,
    ).toBe(0.8);
  });
});

describe("moves in words", () => {
  test.each<[KindId, LoopId, number, string]>([
    ["K7", "opv", 0.375, "⅜ turn clockwise"],
    ["K7", "opv", -1.25, "1¼ turns anticlockwise"],
    ["K13", "opv", -1, "1 step softer"],
    ["K10", "pressurestat", 3, "3 notches up"],
    ["K10", "pressurestat", -1, "1 notch down"],
    ["K11", "dose-1", -16, "16 pulses fewer"],
    ["K1", "dose-1", 2.5, "2.5 g later"],
    ["K5", "offset", 1, "1 °C up"],
    ["K6", "basket", -1.5, "1.5 threads in (fewer showing)"],
    ["K1", "basket", 1, "1 hour later, more coffee"],
    ["K14", "basket", 0.4, "0.4 s longer"],
  ])("%s %s %p: %s", (kind, id, amount, words) => {
    const { hand } = loop(kind, id);
    expect(moveWords(hand!, amount, hand!.fractions ? formatTurns : String)).toBe(words);
  });
});

const FAULTS: FaultKind[] = ["stuck", "ceiling", "reversed", "step-too-coarse", "gauge-too-coarse", "end-of-travel"];

test("every fault of every knob says something and has a check; what sticks has a line for the parts", () => {
  for (const knob of KNOB_IDS)
    for (const fault of FAULTS) {
      const words = faultWords(knob, fault);
      expect(words.says).toMatch(/\.$/);
      expect(words.checks.length).toBeGreaterThan(0);
      if (fault === "stuck") expect(words.part).not.toBe("");
      expect(words.part).not.toBe("None");
    }
});

/** Machines of a knob that the engine has not seen: how many moves, how often wrong. */
function simulate(
  knob: Knob,
  tolerance: Tolerance,
  n: number,
  make: (random: () => number) => { start: number; response: number; noise: number; stale: number },
) {
  const random = randomLcg(0.63);
  const normal = randomNormal.source(random)(0, 1);
  const tally = { moves: 0, wrong: 0, faults: 0 };
  for (let i = 0; i < n; i++) {
    const { start, response, noise, stale } = make(random);
    let value = start;
    let before = start;
    let fresh = false;
    const events: AdjustEvent[] = [];
    const read = () => {
      const shown = fresh && random() < stale ? before : value;
      fresh = false;
      events.push({ kind: "reading", value: shown + noise * normal(), u: noise });
    };
    read();
    for (let step = 0; step < 25; step++) {
      const { action } = nextAction({ knob, tolerance, events });
      if (action.kind === "fault") {
        tally.faults++;
        break;
      }
      if (action.kind === "accept") {
        if (value < (tolerance.lower ?? -Infinity) || value > (tolerance.upper ?? Infinity)) tally.wrong++;
        break;
      }
      if (action.kind === "move") {
        before = value;
        value += response * action.amount;
        events.push(action);
        fresh = true;
        tally.moves++;
      }
      read();
    }
  }
  return { moves: tally.moves / n, wrong: tally.wrong / n, faults: tally.faults / n };
}

const between = (random: () => number, a: number, b: number) => a + (b - a) * random();

describe("every knob through the one engine, on machines it has not seen", () => {
  test("whole-degree offsets with a third of first readings stale: about one move, hardly a wrong yes", () => {
    const { knob, tolerance } = loop("K5", "offset");
    const made = simulate(knob!, tolerance, 150, (r) => ({
      start: between(r, -5, 5),
      response: between(r, 0.9, 1.1),
      noise: 0.25,
      stale: 1 / 3,
    }));
    expect(made.moves).toBeLessThan(1.15);
    expect(made.wrong).toBeLessThanOrEqual(0.02);
    expect(made.faults).toBeLessThanOrEqual(0.02);
  });
  test("pressurestats in notches", () => {
    const { knob, tolerance } = loop("K10", "pressurestat");
    const made = simulate(knob!, tolerance, 120, (r) => ({
      start: between(r, 0.7, 1.7),
      response: between(r, 0.06, 0.14),
      noise: 0.02,
      stale: 0.05,
    }));
    expect(made.moves).toBeLessThan(2);
    expect(made.wrong).toBeLessThanOrEqual(0.02);
    expect(made.faults).toBeLessThanOrEqual(0.03);
  });
  test("pulses to grams with a fitted meter, shots that scatter", () => {
    const { knob, tolerance } = loops("K11", { meters: [{ K: 2, u: 0.04 }, null] }).find((l) => l.id === "dose-1")!;
    const made = simulate(knob!, tolerance, 120, (r) => ({
      start: between(r, 25, 60),
      response: 1 / between(r, 1.93, 2.07),
      noise: 1.2,
      stale: 0,
    }));
    expect(made.moves).toBeLessThan(1.6);
    expect(made.wrong).toBeLessThanOrEqual(0.03);
  });
  test("a prior learnt from the model saves moves over the trade’s", () => {
    const of = (learnt?: LearntKnob) => {
      const { knob, tolerance } = loops("K7", learnt ? { learnt: { opv: learnt } } : {})[0]!;
      return simulate(knob!, tolerance, 80, (r) => ({
        start: between(r, 7, 11),
        response: between(r, 2.9, 3.1),
        noise: 0.1,
        stale: 0.01,
      }));
    };
    const usual = of();
    const learnt = of(told(3, 0.15));
    expect(learnt.moves).toBeLessThan(usual.moves);
    expect(learnt.moves).toBeLessThan(1);
    expect(learnt.wrong).toBeLessThanOrEqual(0.025);
  });
  test("an offset that does nothing, and one with the other sign, are named", () => {
    const { knob, tolerance } = loop("K5", "offset");
    const off = (response: number) =>
      simulate(knob!, tolerance, 40, (r) => ({
        start: between(r, 2, 5) * (r() < 0.5 ? -1 : 1),
        response,
        noise: 0.25,
        stale: 1 / 3,
      }));
    expect(off(0).faults).toBeGreaterThan(0.95);
    expect(off(-1).faults).toBeGreaterThan(0.95);
  });
});
