import fc from "fast-check";
import { USUAL_SCHOOLS } from "../../school";
import { NOTHING_RECORDED, type SheetRecords, type TaskValue } from "../records";
import { type Column, type Task, type Typed, Unfit, isDone, readTask, remedyOf, rowOf, sayTask, waitsUntil } from ".";
import type { KitInstrument } from "../../metrology";
import { FILL, PRIME } from "../../startup";

/** From what is typed to what is kept, for every kind of task that takes something: understood, or refused at its field. */

const NOW = Date.parse("2026-05-04T10:00:00Z");
const typed = (words: string, more: Partial<Typed> = {}): Typed => ({
  typed: words,
  unit: "",
  sure: false,
  instrument: null,
  records: NOTHING_RECORDED,
  today: "2026-05-04",
  ...more,
});
const task = (over: object): Task => ({ id: "t", label: "T", kind: "tick", ...over }) as Task;
const recorded = (...values: TaskValue[]): SheetRecords => ({ ...NOTHING_RECORDED, values: new Map([["t", values]]) });
const moment = (records: SheetRecords) => ({ records, now: NOW, loops: [] });

const thermometer: KitInstrument = {
  id: "probe",
  name: "Thin probe",
  quantity: "temperature",
  place: "group",
  lowest: 0,
  highest: 150,
  resolution: 0.1,
  error: { form: "limit", limit: 0.5 },
  repeatability: 0.1,
  calibratedOn: null,
  dueOn: "2026-05-03",
};

const water = task({
  kind: "figure",
  dimension: "temperature",
  possible: [20, 130],
  usual: [80, 102],
  resolution: 0.1,
  instrument: "temperature",
  tolerance: { lower: 88, upper: 96 },
  mustHold: { below: "Hotter.", above: "Cooler." },
});

/** What went wrong, and where it belongs. */
function refusal(of: Task, given: Typed): [string, string] {
  try {
    readTask(of, given);
  } catch (error) {
    if (error instanceof Unfit) return [error.field, error.message];
    throw error;
  }
  return ["", "taken"];
}

describe("a figure", () => {
  test("is corrected by what it was read with, and says when that is past its date", () => {
    const value = readTask(water, typed("93.2", { instrument: thermometer }));
    expect(value).toMatchObject({ form: "figure", value: 93.2, instrument: "Thin probe", outOfDate: true });
    expect(value).toHaveProperty("U");
    const said = sayTask(water, value, { schools: USUAL_SCHOOLS, rule: "guarded", typed: "93.2" });
    expect(said.text).toMatch(/^93\.2 °C ± \d.*, Thin probe: calibration out of date$/);
    expect(said.verdict).toBe("holds");
  });
  test.each([
    ["", {}, "typed", "Type the number for “T”."],
    ["hot", {}, "typed", /not/],
    ["300", {}, "typed", "300.0 °C can’t be. Check number and unit."],
    ["70", {}, "sure", "70.0 °C is unusual. If it is really so, tick the box and save again."],
    ["93", { instrument: { ...thermometer, quantity: "mass" as const } }, "instrumentId", "measures something else"],
    ["93", { instrument: { ...thermometer, highest: 90 } }, "typed", "Thin probe goes from 0 to 90."],
  ])("%p is refused at its field", (words, more, field, message) => {
    const [at, said] = refusal(water, typed(words, more));
    expect(at).toBe(field);
    expect(said).toMatch(message);
  });
  test("unusual and meant so is taken", () =>
    expect(readTask(water, typed("70", { sure: true }))).toEqual({ form: "figure", value: 70 }));
  test("one that must hold and does not asks for what to do, on either side", () => {
    const at = (value: number) => recorded({ form: "figure", value });
    expect([at(80), at(92), at(99)].map((r) => remedyOf(water, r))).toEqual(["Hotter.", "", "Cooler."]);
    expect([at(80), at(92)].map((r) => isDone(water, moment(r)))).toEqual([false, true]);
    expect(remedyOf(water, NOTHING_RECORDED)).toBe("");
  });
});

describe("water", () => {
  const hardness = task({ kind: "hardness" });
  const purge = task({ kind: "purge" });
  const cartridge = task({ kind: "cartridge" });

  test("a strip’s step stays open, in whatever unit it was read", () => {
    expect(readTask(hardness, typed("3-4 °dH"))).toMatchObject({
      form: "figure",
      low: expect.closeTo(53.54, 2),
      high: expect.closeTo(71.39, 2),
    });
    expect(readTask(hardness, typed("60", { unit: "mg/L" }))).toEqual({ form: "figure", value: 60 });
    const tube = { ...thermometer, quantity: "hardness" as const, name: "Strips" };
    expect(readTask(hardness, typed("60", { instrument: tube }))).toMatchObject({
      instrument: "Strips",
      outOfDate: true,
    });
  });
  test.each([
    ["", "Type what the strip shows"],
    ["-3", /0 or more/],
    ["400 °dH", "no tap gives"],
  ])("%p is no hardness", (words, message) => expect(refusal(hardness, typed(words))[1]).toMatch(message));

  test("litres through a cartridge only go up, and say how many are missing", () => {
    const before = recorded({ form: "figure", value: 9 });
    expect(readTask(purge, typed("16 L", { records: before }))).toEqual({ form: "figure", value: 16 });
    expect(refusal(purge, typed("8", { records: before }))[1]).toContain("can’t go back to 8 L");
    expect(remedyOf(purge, before)).toBe("6.0 L more before the inlet opens.");
    expect(isDone(purge, moment(before))).toBe(false);
  });

  test("a cartridge is due by its litres or its date, whichever comes first", () => {
    const fitted = (more: Partial<Typed>) => readTask(cartridge, typed("2026-04-10", { months: "6", ...more }));
    expect(fitted({})).toEqual({ form: "cartridge", fittedOn: "2026-04-10", dueOn: "2026-10-10", by: "date" });
    expect(fitted({ capacity: "1000", perDay: "10" })).toMatchObject({ dueOn: "2026-07-19", by: "litres" });
  });
  test.each([
    ["", {}, "typed", "Say when this cartridge was fitted."],
    ["2026-02-30", {}, "typed", "Say when this cartridge was fitted."],
    ["1899-01-01", {}, "typed", "Check the year."],
    ["2026-06-01", {}, "typed", "a day still to come"],
    ["2026-04-10", { months: "" }, "months", "Say how many months"],
    ["2026-04-10", { months: "40" }, "months", "from 1 to 36"],
    ["2026-04-10", { capacity: "5" }, "capacity", "from 10 to 100000"],
    ["2026-04-10", { perDay: "a lot" }, "perDay", "from 0.1 to 5000"],
  ])("%p with %j is refused at %s", (words, more, field, message) => {
    const [at, said] = refusal(cartridge, typed(words, { months: "6", ...more }));
    expect([at, said]).toEqual([field, expect.stringContaining(message)]);
  });
});

describe("words, choices and ticks", () => {
  const text = task({ kind: "text" });
  const choice = task({ kind: "choice", options: [{ value: "go-on", label: "Go on" }] });
  test("blank, too long, or not among the answers is refused; a tick takes no words", () => {
    expect(refusal(text, typed("  "))[1]).toBe("Type something, even “nothing”.");
    expect(refusal(text, typed("x".repeat(2001)))[1]).toContain("2000");
    expect(readTask(text, typed(" Dent. "))).toEqual({ form: "text", text: "Dent." });
    expect(refusal(choice, typed("constructor"))[1]).toBe("Choose one.");
    expect(readTask(choice, typed("go-on"))).toEqual({ form: "choice", choice: "go-on" });
    expect(refusal(task({}), typed("x"))).toEqual(["", "Nothing is typed for that."]);
  });
});

describe("a row", () => {
  const columns: Column[] = [
    { name: "pulses", label: "Pulses", type: { kind: "count", possible: [1, 5000] } },
    {
      name: "grams",
      label: "Water",
      optional: true,
      type: { kind: "quantity", dimension: "mass", possible: [1, 2000], resolution: 0.1, instrument: "mass" },
    },
    { name: "how", label: "How", type: { kind: "choice", options: [{ value: "blank", label: "without coffee" }] } },
  ];
  const row = (cells: Record<string, string>) =>
    rowOf(columns, { cells, instruments: new Map(), pressureUnit: "bar", today: "2026-05-04" });
  test("is kept cell by cell, and said so", () => {
    const value = row({ pulses: "60", grams: "31,8 g", how: "blank" });
    expect(value).toEqual({
      form: "row",
      cells: { pulses: { value: 60 }, grams: { value: 31.8 }, how: { choice: "blank" } },
    });
    const table = task({ kind: "table", columns, analysis: "meter", least: 1 });
    const about = { schools: USUAL_SCHOOLS, rule: "simple" as const, typed: "" };
    expect(sayTask(table, value, about).text).toBe("pulses 60, water 31.8 g, how without coffee");
    expect(isDone(table, moment(recorded(value)))).toBe(true);
    expect(isDone(table, moment(NOTHING_RECORDED))).toBe(false);
  });
  test.each([
    [{ pulses: "", how: "blank" }, "cell.pulses", "nothing is typed"],
    [{ pulses: "1.5", how: "blank" }, "cell.pulses", "a whole number"],
    [{ pulses: "9000", how: "blank" }, "cell.pulses", "from 1 to 5000"],
    [{ pulses: "60", grams: "0.2", how: "blank" }, "cell.grams", "can’t be"],
    [{ pulses: "60", how: "with" }, "cell.how", "choose one"],
  ])("%j is refused at %s", (cells, field, message) => {
    expect(() => row(cells)).toThrow(expect.objectContaining({ field, message: expect.stringContaining(message) }));
  });
});

test("a clock that waits by itself says until when; hands are asked for everything else", () => {
  const one = (more: object) => ({
    ...NOTHING_RECORDED,
    timers: new Map([
      ["t", [{ task: "t", startedAt: NOW - 30_000, dueAt: NOW + 60_000, endedAt: null, outcome: null, ...more }]],
    ]),
  });
  const warm = task({ kind: "warm", level: "boiler-ready" });
  expect(waitsUntil(warm, moment(one({})))).toBe(NOW + 60_000);
  expect(waitsUntil(warm, moment(one({ dueAt: NOW - 1 })))).toBeUndefined();
  expect(waitsUntil(task({ kind: "timer", seconds: 10 }), moment(one({})))).toBeUndefined();
  const ended = one({ endedAt: NOW - 10_000, outcome: "done" });
  expect(waitsUntil(task({ kind: "bursts", rule: PRIME }), moment(ended))).toBe(NOW - 10_000 + 1000 * PRIME.restAfter);
  expect(waitsUntil(task({ kind: "bursts", rule: FILL }), moment(ended))).toBeUndefined();
});

const TAKING: Task[] = [
  water,
  task({ kind: "hardness" }),
  task({ kind: "purge" }),
  task({ kind: "cartridge" }),
  task({ kind: "text" }),
  task({ kind: "choice", options: [{ value: "a", label: "A" }] }),
];

test.each(TAKING.map((t) => [t.kind, t] as const))(
  "whatever is typed for a %s is kept as finite figures, or refused in words",
  (_, of) => {
    fc.assert(
      fc.property(
        fc.oneof(fc.string(), fc.double().map(String), fc.constantFrom("1e308", "∞", "9-8", "½", "2026-05-01", "a")),
        fc.string({ maxLength: 6 }),
        fc.boolean(),
        (words, unit, sure) => {
          try {
            const value = readTask(of, typed(words, { unit, sure, months: "6" }));
            for (const figure of Object.values(value))
              if (typeof figure === "number") expect(Number.isFinite(figure)).toBe(true);
          } catch (error) {
            expect(error).toBeInstanceOf(Unfit);
            expect((error as Unfit).message).toMatch(/\S/);
          }
        },
      ),
      { numRuns: 300, seed: 7 },
    );
  },
);
