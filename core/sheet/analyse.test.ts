import { type AnalysisId, type Cell, NOTHING_RECORDED, type SheetRecords, analyse, metersOf, planOf } from ".";
import { NOTHING_READ } from "./records";
import { KINDS, type KindId, usualCard } from "../kind";
import { planSeconds } from "../temperature";
import { USUAL_SCHOOLS } from "../school";
import { recipeOf } from "../shot";
import { STARTING_CARDS } from "../spec";
import { saturationTemperature } from "../steam";
import { airPressure } from "../air";

/** From rows on the sheet to what they come to, in words and verdicts. */

const RECIPE = recipeOf({ schools: USUAL_SCHOOLS, spec: STARTING_CARDS.trade.lines, basket: "double" });

type Given = Record<string, number | string>;
const cells = (given: Given): Record<string, Cell> =>
  Object.fromEntries(Object.entries(given).map(([k, v]) => [k, typeof v === "number" ? { value: v } : { choice: v }]));
const withRows = (tables: Record<string, Given[]>, more: Partial<SheetRecords> = {}): SheetRecords => ({
  ...NOTHING_RECORDED,
  values: new Map(
    Object.entries(tables).map(([task, rows]) => [task, rows.map((r) => ({ form: "row" as const, cells: cells(r) }))]),
  ),
  ...more,
});
const ask = (of: AnalysisId | 1 | 2, id: string, records: SheetRecords, kind: KindId = "K11", altitude = 0) =>
  analyse(typeof of === "number" ? { id, analysis: "meter", group: of } : { id, analysis: of }, {
    kind: KINDS[kind],
    card: usualCard(KINDS[kind]),
    schools: USUAL_SCHOOLS,
    spec: STARTING_CARDS.trade.lines,
    altitude,
    recipe: RECIPE,
    records,
  });
const said = (a: ReturnType<typeof ask>) => a.lines.map((l) => l.text).join(" ");

const meterRows = (K: number) =>
  [60, 120, 200, 120].map((pulses, i) => ({ pulses, grams: pulses / K + [0.1, -0.1, 0.1, 0][i]! }));

test("nothing noted says nothing; too little says what is missing", () => {
  expect(ask(1, "volumes.meter.1", NOTHING_RECORDED)).toEqual({ lines: [] });
  expect(said(ask(1, "volumes.meter.1", withRows({ "volumes.meter.1": meterRows(2).slice(0, 2) })))).toContain(
    "Three blank runs",
  );
  expect(
    said(ask("wait", "temperature.wait", withRows({ "temperature.wait": [{ wait: 10, taste: "sour" }] }))),
  ).toContain("one cycle");
});

test("meters: factor, repeatability, and the worn group by its number", () => {
  const records = withRows({ "volumes.meter.1": meterRows(2), "volumes.meter.2": meterRows(1.8) });
  const one = ask(1, "volumes.meter.1", records);
  expect(said(one)).toMatch(/(1\.9|2\.0)\d\d ± 0\.\d{3} pulses per ml/);
  expect(one.lines[1]!.verdict).toBe("holds");
  expect(one.meter!.points).toHaveLength(4);
  const two = ask(2, "volumes.meter.2", records);
  expect(said(two)).toContain("the meter of group 2 gives fewer pulses");
  expect(two.lines.at(-1)!.verdict).toBe("off");
  expect(metersOf(records).map((m) => m && Math.round(10 * m.K) / 10)).toEqual([2, 1.8, null, null]);
  expect(metersOf(NOTHING_RECORDED)).toEqual([null, null, null, null]);
});

test("kept water: the programme of each group by its own meter, ml where there is none", () => {
  const kept = [{ dose: 18, water: 58, cup: 36 }];
  const records = withRows({ "volumes.kept": kept, "volumes.meter.1": meterRows(2) });
  const text = said(ask("kept", "volumes.kept", records));
  expect(text).toMatch(/Kept: .* ml per g/);
  expect(text).toMatch(/Programme group 1: 11\d pulses for 36 g/);
  expect(text).toMatch(/Programme group 2: 5\d\.\d ml for 36 g/);
  const dosed = {
    ...records,
    loops: new Map([["basket", { ...NOTHING_READ, last: { value: 20, setPoint: null, u: 0.05 } }]]),
  };
  expect(said(ask("kept", "volumes.kept", dosed))).toContain("at 20.0 g");
  expect(said(ask("kept", "volumes.kept", withRows({ "volumes.kept": [{ dose: 18, water: 30, cup: 36 }] })))).toContain(
    "More came out",
  );
});

test("storage: what the card says is where it starts, the runs decide", () => {
  const rows: Given[] = [
    { coffee: "blank", seconds: 25, cup: 160 },
    { coffee: "coffee", seconds: 25.2, cup: 34, dose: 18 },
  ];
  expect(said(ask("storage", "s", withRows({ s: rows }), "K1"))).toMatch(/^It stores seconds/);
  expect(said(ask("storage", "s", withRows({ s: rows.slice(0, 1) }), "K1"))).toMatch(
    /Volume 70 %, seconds 30 %.*with coffee/,
  );
  expect(said(ask("storage", "s", withRows({ s: rows.slice(0, 1) }), "K6"))).toMatch(/Volume 90 %/);
});

test("drip: where to stop when teaching", () => {
  const rows = [
    { atStop: 32, cup: 35 },
    { atStop: 33, cup: 36.1 },
    { atStop: 33, cup: 36 },
  ];
  expect(said(ask("drip", "d", withRows({ d: rows }), "K1"))).toMatch(
    /About 3\.0 ± .* g still fall.*stopping at 33\.0 g/,
  );
});

test("the light’s cycle and the wait; a wandering one says so", () => {
  const steady = {
    "temperature.cycle": [
      { on: 15, off: 60 },
      { on: 16, off: 62 },
    ],
  };
  expect(ask("light-cycle", "temperature.cycle", withRows(steady), "K2").lines[0]!.verdict).toBe("holds");
  const wild = {
    "temperature.cycle": [
      { on: 15, off: 20 },
      { on: 16, off: 90 },
    ],
  };
  expect(said(ask("light-cycle", "temperature.cycle", withRows(wild), "K2"))).toContain("wanders");
  const tasted = withRows({ ...steady, "temperature.wait": [{ wait: 10, taste: "bitter" }] });
  expect(said(ask("wait", "temperature.wait", tasted, "K2"))).toContain("wait 14 s");
});

test("the cooling flush aims at the card’s temperature", () =>
  expect(said(ask("flush", "f", withRows({ f: [{ seconds: 3, celsius: 95.5 }] }), "K7"))).toMatch(
    /^Flush 5\.0 s for 93\.5 °C/,
  ));

describe("second set point", () => {
  const loops = (value: number) =>
    new Map([
      [
        "offset",
        {
          events: ["reading", "move", "reading"] as const,
          accepted: true,
          faultTaken: false,
          early: false,
          stopped: false,
          turns: false,
          asks: false,
          regrind: null,
          finer: "",
          last: { value, setPoint: 93, u: 0.15 },
        },
      ],
    ]);
  const at = (set: number, water: number) =>
    ask(
      "second-set-point",
      "temperature.second",
      withRows({ "temperature.second": [{ set, water }] }, { loops: loops(0.1) }),
      "K5",
    );
  test("holds at both, or is no offset; too near to tell", () => {
    expect(at(95, 95.2).lines[0]).toMatchObject({
      verdict: "holds",
      text: expect.stringContaining("The same error at both"),
    });
    expect(at(95, 97.9).lines[0]).toMatchObject({ verdict: "off", text: expect.stringContaining("Suspect the probe") });
    expect(said(at(93.5, 93.6))).toContain("too near to tell");
  });
  test("without a first one it waits", () =>
    expect(
      said(ask("second-set-point", "temperature.second", withRows({ "temperature.second": [{ set: 95, water: 95 }] }))),
    ).toContain("first set point"));
});

test("steam check at the site’s altitude; power beside what is usual for the size", () => {
  const celsius = saturationTemperature(1.2 + airPressure(1500));
  const rows = { s: [{ gauge: 1.2, celsius }] };
  expect(ask("steam-check", "s", withRows(rows), "K10", 1500).lines[0]!.verdict).toBe("holds");
  const sea = ask("steam-check", "s", withRows(rows), "K10", 0);
  expect(sea.lines[0]!.verdict).toBe("off");
  expect(said(sea)).toContain("Air trapped");
  const power = { p: [{ liquid: "milk", mass: 150, from: 5, to: 60, seconds: 10 }] };
  expect(said(ask("steam-power", "p", withRows(power), "K11"))).toMatch(/3\d{3} ± \d+ W.*about 3240 W are usual/);
  expect(said(ask("steam-power", "p", withRows(power), "K3"))).toContain("about 810 W are usual");
  // Four times as long for the same jug: a quarter of the power, and said so; nothing is said of milk that ends where it should.
  const slow = { p: [{ liquid: "milk", mass: 150, from: 5, to: 60, seconds: 160 }] };
  expect(said(ask("steam-power", "p", withRows(slow), "K3"))).toMatch(/Weak steam: clean the tip/);
  expect(said(ask("steam-power", "p", withRows(slow), "K3"))).not.toMatch(/Milk ends/);
  const hot = { p: [{ liquid: "milk", mass: 150, from: 5, to: 72, seconds: 45 }] };
  expect(said(ask("steam-power", "p", withRows(hot), "K3"))).toMatch(/Milk ends at 55 to 60 °C: this one ended at 72/);
  expect(said(ask("steam-power", "p", withRows({ p: [{ ...hot.p[0]!, liquid: "water" }] }), "K3"))).not.toMatch(/Milk/);
});

test("plans follow what was timed on this machine, and say what is missing", () => {
  const of = (plan: Parameters<typeof planOf>[0], records: SheetRecords) =>
    planOf(plan, {
      kind: KINDS.K2,
      card: usualCard(KINDS.K2),
      schools: USUAL_SCHOOLS,
      spec: STARTING_CARDS.trade.lines,
      altitude: 0,
      recipe: RECIPE,
      records,
    });
  expect(of("light-cycle", NOTHING_RECORDED)).toEqual({ missing: expect.stringContaining("one cycle") });
  const cycles = withRows({
    "temperature.cycle": [
      { on: 15, off: 60 },
      { on: 17, off: 62 },
    ],
  });
  expect(of("light-cycle", cycles)).toMatchObject({
    steps: expect.arrayContaining([expect.objectContaining({ seconds: 16 })]),
  });
  const timed = {
    ...NOTHING_RECORDED,
    values: new Map([["steam.heat-up", [{ form: "figure" as const, value: 120 }]]]),
  };
  const [usual, own] = [of("steam", NOTHING_RECORDED), of("steam", timed)];
  if ("missing" in usual || "missing" in own) throw new Error("A steam plan needs nothing.");
  expect(planSeconds(own.steps) - planSeconds(usual.steps)).toBe(40);
  expect(of("flush", NOTHING_RECORDED)).toMatchObject({ steps: expect.any(Array) });
});
