import { KINDS, type KindId, usualCard } from "../kind";
import { type LoopId, learntFrom, loopsOf, wordingFor } from "../knobs";
import { USUAL_OPV } from "../pressure";
import { USUAL_SCHOOLS } from "../school";
import { type LogLine, type Reading, adjustEvents, changesIn, counted, figureOf, measured, runOf } from ".";

/** From the log to one figure: pooled within a gauge, weighed between gauges. */

const loop = (id: LoopId, kind: KindId = "K7", raises: "clockwise" | "anticlockwise" = "clockwise") =>
  loopsOf({
    kind: KINDS[kind],
    card: usualCard(KINDS[kind]),
    schools: USUAL_SCHOOLS,
    spec: [],
    opv: { ...USUAL_OPV, raises },
  }).find((l) => l.id === id)!;
const summarise = (rows: Reading[]) => figureOf(rows, loop("opv"), "vibratory");

const gauge = { lowest: 0, highest: 16, resolution: 0.1, repeatability: 0.1, dueOn: null };
const row = (indicated: number, id: string, limit: number) =>
  ({
    place: "group",
    toGroup: 0,
    toGroupU: 0,
    indicated,
    value: indicated,
    u: 0.1,
    uCommon: 0.05,
    detail: {},
    instrument: { ...gauge, id, error: { form: "limit", limit } },
  }) as unknown as Reading;

test("nothing read is nothing", () => expect(summarise([])).toBeNull());

test("one gauge: the mean, with the uncertainty of all readings together", () => {
  const s = summarise([row(9, "a", 0.1), row(9.2, "a", 0.1)])!;
  expect(s.value).toBeCloseTo(9.1, 9);
  expect(s.u).toBeCloseTo(Math.hypot(Math.sqrt((8 * 0.01 + 0.02) / 9 / 2), 0.1 / Math.sqrt(3), 0.05 / Math.sqrt(3)), 9);
  expect(s.readings).toEqual([9, 9.2]);
});

test("two gauges: the better one weighs more, and together they are surer than either", () => {
  const both = summarise([row(9, "fine", 0.05), row(9.6, "coarse", 0.8)])!;
  const fine = summarise([row(9, "fine", 0.05)])!;
  expect(both.value).toBeGreaterThan(9);
  expect(both.value).toBeLessThan(9.1);
  expect(both.u).toBeLessThan(fine.u);
});

test("two gauges on the pump side share what is not known of the drop to the group: no number of gauges lessens that", () => {
  const onPump = (indicated: number, id: string) =>
    ({ ...row(indicated, id, 0.1), place: "pump", toGroup: -1, toGroupU: 0.4 }) as Reading;
  const many = summarise(["a", "b", "c", "d"].map((id) => onPump(10, id)))!;
  expect(many.value).toBeCloseTo(9, 9);
  // GUM 5.2.2: the common 0.4 stays whole, what is each gauge's own falls with their number.
  expect(many.u).toBeGreaterThan(0.4);
  expect(many.u).toBeLessThan(summarise([onPump(10, "a")])!.u);
  // k goes with the degrees of freedom of all together, not with those of the best.
  expect(many.k).toBeLessThan(2.05);
});

test("a gauge whose scatter nobody has stated is not perfect, and its own readings tell", () => {
  const unknown = (indicated: number) =>
    ({ ...row(indicated, "x", 0.1), instrument: { ...row(9, "x", 0.1).instrument, repeatability: 0 } }) as Reading;
  expect(summarise([unknown(9)])!.u).toBeGreaterThan(0.15);
  const u = (values: number[]) => {
    const log = values.map((v): LogLine => ({
      kind: "reading",
      row: { ...unknown(v), u: 0.17, uCommon: 0.06 },
      stands: true,
    }));
    const [first] = adjustEvents(log, loop("opv"));
    return first!.kind === "reading" ? first!.u : 0;
  };
  expect(u([9, 9])).toBeLessThan(u([9]));
  expect(u([8.6, 9.4, 9])).toBeGreaterThan(u([9]));
  // One far off among many is a slip, and makes the rest no worse.
  expect(u([9, 9.05, 8.95, 9, 12])).toBeLessThan(u([9]));
});

test("figures are worded in the person's unit and the valve's direction", () => {
  const words = wordingFor(loop("opv", "K7", "anticlockwise"), "psi", 0.1, undefined);
  expect(words.value(9)).toBe("131 psi");
  expect(words.spread(0.2)).toBe("3 psi");
  expect(words.move(0.375)).toBe("Turn OPV ⅜ turn anticlockwise");
  expect(words.move(-1.25)).toBe("Turn OPV 1¼ turns clockwise");
  expect(words.range(8.5, 9.5)).toBe("123 to 138 psi");
});

test("an offset’s reading is the water less its set point, at whatever set point it was taken", () => {
  const offset = loop("offset", "K5");
  const at = (indicated: number, setPoint: number) =>
    ({ ...row(indicated, "a", 0.5), detail: { setPoint } }) as Reading;
  const thermometer = { lowest: 0, highest: 150 };
  const rows = [at(91.5, 93), at(93.5, 95)].map((r) => ({ ...r, instrument: { ...r.instrument, ...thermometer } }));
  expect(measured(rows, offset, "vibratory").value).toBeCloseTo(-1.5, 9);
});

test("a needle that swings is less sure than one that stands", () => {
  const still = measured([row(9, "a", 0.1)], loop("opv"), "vibratory");
  const swings = measured([{ ...row(9, "a", 0.1), detail: { low: 8.7, high: 9.3 } }], loop("opv"), "vibratory");
  expect(swings.value).toBe(still.value);
  // Half the half-swing as a rectangular half-width: 0.15/√3.
  expect(swings.u ** 2 - still.u ** 2).toBeCloseTo((0.15 / Math.sqrt(3)) ** 2, 9);
});

test("two gauges in one run are told apart, so that a disagreement can be seen", () => {
  expect(summarise([row(9, "a", 0.1), row(9.1, "a", 0.1)])!.parts).toEqual([]);
  const parts = summarise([row(9, "a", 0.1), row(10.4, "b", 0.1)])!.parts;
  expect(parts.map((p) => p.value)).toEqual([9, 10.4]);
});

const read = (value: number, minute: number, detail = {}): LogLine =>
  ({
    kind: "reading",
    stands: true,
    row: { ...row(value, "a", 0.1), at: new Date(60_000 * minute), detail },
  }) as LogLine;
const turned = (amount: number, minute: number): LogLine =>
  ({ kind: "move", stands: true, row: { amount, at: new Date(60_000 * minute) } }) as unknown as LogLine;

test("flowing readings are evidence beside the loop, not steps in it", () => {
  const log = [read(9, 0), read(7, 1, { flowing: true, bleed: 2 }), read(9.1, 2)];
  expect(counted(log)).toHaveLength(2);
  expect(adjustEvents(log, loop("opv"))).toHaveLength(2);
});

test("a reading counts as settled after the wait, or when somebody says so", () => {
  const offset = loop("offset", "K5");
  const settled = (log: LogLine[]) => adjustEvents(log, offset).map((e) => "settled" in e && e.settled === true);
  expect(settled([read(-2, 0), turned(2, 1), read(-2, 2), read(0, 7)])).toEqual([false, false, false, true]);
  expect(settled([read(-2, 0), turned(2, 1), read(0, 2, { settled: true })])).toEqual([false, false, true]);
});

const renewed = (minute: number): LogLine =>
  ({
    kind: "repair",
    stands: true,
    row: { text: "Valve renewed", at: new Date(60_000 * minute) },
  }) as unknown as LogLine;

test("after a repair the engine begins anew; what was found stays, what is left is read from there", () => {
  const log = [read(11.4, 0), turned(-1, 1), read(11.4, 2), renewed(3), read(9, 4), read(9.1, 5)];
  expect(adjustEvents(log, loop("opv")).map((e) => ("value" in e ? e.value : e.amount))).toEqual([9, 9.1]);
  expect(runOf(log, "as-found").map((r) => r.value)).toEqual([11.4]);
  expect(runOf(log, "as-left").map((r) => r.value)).toEqual([9, 9.1]);
  const corrected = log.map((line) => (line.kind === "repair" ? { ...line, stands: false } : line));
  expect(adjustEvents(corrected, loop("opv"))).toHaveLength(5);
});

test("moves reach the engine in the knob’s own sense", () => {
  const [, move] = adjustEvents([read(8, 0), turned(0.5, 1)], loop("opv", "K7", "anticlockwise"));
  expect(move).toEqual({ kind: "move", amount: -0.5 });
});

test("whom a response was learnt from is said in words", () => {
  expect(learntFrom({ machines: 11, own: 0 })).toBe("11 machines of this model");
  expect(learntFrom({ machines: 1, own: 2 })).toBe("1 machine of this model and 2 visits to this one");
  expect(learntFrom({ machines: 0, own: 1 })).toBe("1 visit to this one");
});

const line = (indicated: number, detail: Reading["detail"]): LogLine => ({
  kind: "reading",
  stands: true,
  row: { ...row(indicated, "a", 0.1), detail } as Reading,
});

test("read against the closed tap it is neither as found nor as left, and stays in the log", () => {
  const log = [line(9, {}), line(12.5, { tap: "closed" }), line(9.1, {})];
  expect(runOf(log, "as-found").map((r) => r.indicated)).toEqual([9, 9.1]);
  expect(counted(log)).toHaveLength(3);
});

test("a coarse gauge of the machine’s own sets the OPV against the closed tap; the group’s gauge judges", () => {
  const coarse = (indicated: number, detail: Reading["detail"]): LogLine => {
    const made = line(indicated, detail);
    return { ...made, row: { ...made.row, u: 0.5, uCommon: 0.48 } } as LogLine;
  };
  const events = adjustEvents([line(10.6, {}), coarse(9.2, { tap: "closed" })], loop("opv", "K8"));
  expect(events).toMatchObject([
    { kind: "reading", uCommon: 0.05 },
    { kind: "reading", uCommon: 0.48, u: expect.closeTo(Math.sqrt(0.5 ** 2 - 0.48 ** 2), 9) },
  ]);
});

describe("what went into the basket", () => {
  const figures = (log: LogLine[]) =>
    (["as-found", "as-left"] as const).map((run) => runOf(log, run).map((r) => r.indicated));

  test("doses are repeats only into the same basket, and whole: half a dose is none", () => {
    const log = [
      line(9.1, { basket: "single" }),
      line(17.6, { basket: "double" }),
      line(8.9, { basket: "double", half: 1 }),
      line(17.9, { basket: "double" }),
    ];
    expect(figures(log)[0]).toEqual([17.6, 17.9]);
  });

  test("two halves are their sum, known as well as both, and trimmed it is what was left of it", () => {
    const log = [line(9.8, { half: 1 }), line(9.4, { half: 2, trimmed: 17.8 })];
    expect(figures(log)).toEqual([[expect.closeTo(19.2, 9)], [17.8]]);
    const [whole] = counted(log);
    expect(whole!.kind === "reading" && whole!.row.uCommon).toBeCloseTo(2 * 0.05, 9);
    expect(changesIn(log)).toEqual(["reading", "move", "reading"]);
    // The engine learns from what the grinder gave.
    expect(adjustEvents(log, loop("basket", "K9"))).toMatchObject([
      { kind: "reading", value: expect.closeTo(19.2, 9) },
    ]);
  });

  test("trimmed whole: as found and as left both stand, and a dose after it is another one", () => {
    const log = [line(19.2, { trimmed: 17.8 })];
    expect(figures(log)).toEqual([[19.2], [17.8]]);
    expect(figures([...log, line(18.9, {})])).toEqual([[19.2], [18.9]]);
  });

  test("a timer runs for each half", () => {
    const log = [line(9, { half: 1, amount: 4.1, setting: 10 }), line(9.2, { half: 2, amount: 4.3, setting: 10 })];
    expect(counted(log)).toMatchObject([{ row: { value: 18.2, detail: { amount: expect.closeTo(8.4, 9) } } }]);
  });

  test("another grind draws a line, and so does an amount set otherwise: doses of the one before are no part of what is left", () => {
    const log = [
      line(16, { amount: 8, setting: 10 }),
      line(17, { amount: 8, setting: 12 }),
      line(18, { amount: 9, setting: 12 }),
    ];
    expect(figures(log)).toEqual([[16], [18]]);
    expect(changesIn(log)).toEqual(["reading", "move", "reading", "move", "reading"]);
  });
});
