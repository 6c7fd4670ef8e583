import { type AdjustEvent, explain } from "../adjust";
import { nextAction } from "../belief";
import { KINDS, KIND_IDS, usualCard } from "../kind";
import { aim } from "../metrology";
import { USUAL_OPV } from "../pressure";
import { USUAL_SCHOOLS } from "../school";
import { STARTING_CARDS } from "../spec";
import { FORBIDDEN } from "./forbidden-words";
import { faultWords, loopsOf, moveDone, moveSentence, wordingFor } from ".";

/** Every advice of every knob, over a table of logs: in the glossary's words, with a range and a chance where there is one. */

const read = (value: number): AdjustEvent => ({ kind: "reading", value, u: 0.05, uCommon: 0.02 });
const move = (amount: number): AdjustEvent => ({ kind: "move", amount });

const loops = KIND_IDS.flatMap((id) => {
  const kind = KINDS[id];
  return loopsOf({
    kind,
    card: { ...usualCard(kind), stopThreads: "less" },
    schools: USUAL_SCHOOLS,
    spec: STARTING_CARDS.trade.lines,
    opv: USUAL_OPV,
  })
    .filter((l) => l.knob && l.hand)
    .map((loop) => ({ id, loop }));
});

const logs = (target: number, width: number, step: number): AdjustEvent[][] => [
  [],
  [read(target), read(target)],
  [read(target - 3 * width), read(target - 3 * width)],
  [read(target + 3 * width), read(target + 3 * width)],
  [read(target - 3 * width), move(step)],
  [
    read(target - 3 * width),
    read(target - 3 * width),
    move(step),
    read(target - 3 * width),
    move(step),
    read(target - 3 * width),
  ],
  [read(target + 3 * width), read(target + 3 * width), move(-step), read(target + 4 * width), read(target + 4 * width)],
  [read(target), read(target), read(target), read(target + 6 * width)],
];

test.each(loops)("$id $loop.id: every advice is in the glossary’s words", ({ loop }) => {
  const knob = loop.knob!;
  const target = aim(loop.tolerance);
  const { lower = target - 1, upper = target + 1 } = loop.tolerance;
  const words = wordingFor(loop, "bar", 0.1, undefined, 3);
  for (const events of logs(target, (upper - lower) / 2, 2 * knob.step)) {
    const question = { knob, tolerance: loop.tolerance, events };
    const advice = nextAction(question);
    const { headline, expect: expected, why } = explain(advice, question, words);
    const said = [headline, expected, ...why];
    if (advice.action.kind === "fault") {
      const fault = faultWords(loop.at.knob, advice.action.fault);
      said.push(fault.says, fault.part, ...fault.checks);
    }
    for (const phrase of FORBIDDEN) expect(said.join(" · ")).not.toMatch(phrase);
    expect(headline).toMatch(/\.$/);
    if (advice.action.kind === "move") {
      // What to do, what comes after, a range, the target, the chance; never ±.
      expect(headline).toMatch(/read again\.$/i);
      expect(expected).toMatch(/^Expect .+ to .+ \(target .+\)\. (Very likely|Likely|About even|First try), \d+ %/);
      expect(expected).not.toContain("±");
      // Under even it is a first try, and says so.
      expect(expected.includes("First try")).toBe(advice.action.expected.pInside < 0.5);
    }
  }
});

test("what the hand does and did, as one would say it", () => {
  const hand = (id: string) => loops.find((l) => l.loop.id === id)!.loop.hand!;
  const plain = (x: number) => String(x);
  expect(moveSentence(hand("opv"), 0.375, () => "⅜")).toBe("Turn OPV ⅜ turn clockwise");
  expect(moveSentence(hand("offset"), 5, plain)).toBe("Raise offset by 5 °C");
  expect(moveDone(hand("offset"), -2, plain)).toBe("Offset lowered by 2 °C");
  expect(moveDone(hand("pressurestat"), 3, plain)).toBe("Pressurestat wheel turned 3 notches up");
});

test("the new value stands beside the change, where it is known", () => {
  const { loop } = loops.find((l) => l.loop.id === "offset")!;
  expect(wordingFor(loop, "bar", 0.1, undefined, 0).move(5)).toBe("Raise offset by 5 °C, to +5 °C");
  expect(wordingFor(loop, "bar", 0.1, undefined, null).move(5)).toBe("Raise offset by 5 °C");
});

test("a dial’s ends are known from where it stands: no place that does not exist is advised", () => {
  const kind = KINDS.K1;
  const [basket] = loopsOf({
    kind,
    card: usualCard(kind),
    schools: USUAL_SCHOOLS,
    spec: STARTING_CARDS.trade.lines,
    opv: USUAL_OPV,
    amountStart: 16,
  }).filter((l) => l.id === "basket");
  const knob = basket!.knob!;
  expect(knob.travel).toEqual({ lowest: -9, highest: 1 });
  const { action } = nextAction({ knob, tolerance: basket!.tolerance, events: [read(8), read(8)] });
  expect(action.kind === "move" ? action.amount : 0).toBeLessThanOrEqual(1);
});
