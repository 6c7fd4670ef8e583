import fc from "fast-check";
import {
  NOTHING_RECORDED,
  PRESET_IDS,
  type Preset,
  type SheetQuestion,
  type SheetRecords,
  type Station,
  type Task,
  type TaskValue,
  type TimerRecord,
  areasOf,
  isDone as isDoneOf,
  isEarly,
  isEarlyEntry,
  loopRecord,
  presetScopes,
  progress as progressOf,
  readingRuns,
  remedyFor,
  sheetFor,
  stationInHand,
  tasksNow,
  toolsFor,
} from ".";
import { type Loop, loopsOf } from "../knobs";
import { USUAL_OPV } from "../pressure";
import { KINDS, KIND_IDS, type KindId, usualCard } from "../kind";
import { USUAL_SCHOOLS } from "../school";
import { STARTING_CARDS } from "../spec";

const question = (preset: Preset, id: KindId, over: Partial<SheetQuestion> = {}): SheetQuestion => {
  const { kind, card, schools, spec } = {
    kind: KINDS[id],
    card: usualCard(over.kind ?? KINDS[id]),
    schools: USUAL_SCHOOLS,
    spec: STARTING_CARDS.trade.lines,
    ...over,
  };
  const loops = loopsOf({ kind, card, schools, spec, opv: USUAL_OPV });
  return { scopes: presetScopes(preset, kind, card), level: "machine-warm", loops, ...over, kind, card, schools, spec };
};
/** Every loop there is, as the kinds have them. */
const LOOPS: readonly Loop[] = [
  ...new Map(KIND_IDS.flatMap((id) => question("service", id).loops).map((loop) => [loop.id, loop])).values(),
];
const progress = (stations: readonly Station[], records: SheetRecords, now: number) =>
  progressOf(stations, records, now, LOOPS);
const isDone = (task: Task, records: SheetRecords, now: number) => isDoneOf(task, { records, now, loops: LOOPS });
const sheet = (type: Preset, id: KindId, over: Partial<SheetQuestion> = {}) => sheetFor(question(type, id, over));
const ids = (stations: readonly Station[]) => stations.map((s) => s.id);

const ALL = PRESET_IDS.flatMap((type) =>
  KIND_IDS.filter((id) => question(type, id).scopes.length > 0).map((id) => [type, id] as const),
);

/** What a person would record for a task, in the good case. */
function record(records: SheetRecords, task: Task, now: number): SheetRecords {
  const value = (v: TaskValue): SheetRecords => ({
    ...records,
    values: new Map(records.values).set(task.id, [...(records.values.get(task.id) ?? []), v]),
  });
  const timer = (seconds: number): SheetRecords => {
    const one: TimerRecord = {
      task: task.id,
      startedAt: now - 1000 * seconds,
      dueAt: now,
      endedAt: now,
      outcome: "done",
    };
    return { ...records, timers: new Map(records.timers).set(task.id, [one]) };
  };
  switch (task.kind) {
    case "condition":
      return { ...records, notes: records.notes + 1 };
    case "tick":
    case "heat":
      return value({ form: "tick" });
    case "text":
    case "work":
      return value({ form: "text", text: "so it is" });
    case "choice":
      return value({ form: "choice", choice: task.options[0]!.value });
    case "figure": {
      const { lower = task.usual[0], upper = task.usual[1] } = task.tolerance ?? {};
      return value({ form: "figure", value: (lower + upper) / 2 });
    }
    case "hardness":
      return value({ form: "figure", value: 40 });
    case "purge":
      return value({ form: "figure", value: 16 });
    case "cartridge":
      return value({ form: "cartridge", fittedOn: "2026-01-01", dueOn: "2027-01-01", by: "date" });
    case "bursts":
      // Long enough ago that the pump has had its rest.
      return {
        ...records,
        timers: new Map(records.timers).set(task.id, [
          { task: task.id, startedAt: now - 900e3, dueAt: now - 840e3, endedAt: now - 860e3, outcome: "done" },
        ]),
      };
    case "timer":
      return timer(task.seconds);
    case "warm":
      return timer(600);
    case "readings":
      return looped(records, task.loop, ["reading"]);
    case "adjust":
      return looped(records, task.loop, ["move"], true);
    case "loop":
      return looped(records, task.loop, ["reading", "reading", "reading"], true);
    case "shots":
      return { ...records, shotAccepted: true };
    case "table":
      return value({ form: "row", cells: {} });
    case "plan":
    case "diagnosis":
    case "left":
      return records;
    case "sign":
      return { ...records, signed: true };
  }
}

function looped(
  records: SheetRecords,
  loop: string,
  events: ("reading" | "move")[],
  accepted = loopRecord(records, loop).accepted,
): SheetRecords {
  const before = loopRecord(records, loop);
  return {
    ...records,
    loops: new Map(records.loops).set(loop, {
      ...before,
      accepted,
      turns: !accepted,
      events: [...before.events, ...events],
    }),
  };
}

/** Works a sheet by what it says is ready, until nothing is. Returns the order in which stations were worked. */
function work(
  stations: readonly Station[],
  pick: (ready: Station[]) => Station,
): { order: string[]; records: SheetRecords } {
  let records = NOTHING_RECORDED;
  const order: string[] = [];
  for (let now = 1e12, guard = 0; guard < 200; guard++, now += 60_000) {
    const ready = progress(stations, records, now).filter((p) => p.state === "ready");
    if (ready.length === 0) break;
    const station = pick(ready.map((p) => p.station));
    order.push(station.id);
    for (const task of tasksNow(station, records))
      if (!isDone(task, records, now)) records = record(records, task, now);
  }
  return { order, records };
}

describe.each(ALL)("%s of a %s", (type, id) => {
  const stations = sheet(type, id);

  test("is complete: looked over first, signed last, each station once, each task once", () => {
    expect(stations[0]!.id).toBe("look-over");
    expect(stations.at(-1)!.id).toBe("sign");
    expect(new Set(ids(stations)).size).toBe(stations.length);
    const tasks = stations.flatMap((s) => s.tasks);
    const named = tasks.map((t) => t.id).filter((task) => task !== "diagnosis.brew-pressure");
    expect(new Set(named).size).toBe(named.length);
    expect(stations.every((s) => s.tasks.length > 0 && s.needs !== "" && s.title !== "")).toBe(true);
    expect(toolsFor(question(type, id)).length).toBeGreaterThan(0);
    expect(areasOf(KINDS[id]).length).toBeGreaterThan(5);
  });

  test("one cause is looked for in one place at a time", () => {
    const sought = (r: SheetRecords) =>
      stations.flatMap((s) => tasksNow(s, r)).filter((t) => t.id === "diagnosis.brew-pressure").length;
    for (const events of [[], ["reading"], ["reading", "move", "reading"]] as const)
      for (const turns of [true, false])
        for (const opened of [true, false]) {
          const tick = [{ form: "tick" as const }];
          const values = opened
            ? new Map([
                ["covers", tick],
                ["adjust.zero", tick],
              ])
            : NOTHING_RECORDED.values;
          const loops = new Map([["opv", { ...loopRecord(NOTHING_RECORDED, "opv"), events, turns }]]);
          expect(sought({ ...NOTHING_RECORDED, values, loops })).toBeLessThanOrEqual(1);
        }
  });

  test("is in a possible order: worked as it stands, nothing is ever blocked for good", () => {
    const { order, records } = work(stations, (ready) => ready[0]!);
    // The pressurestat is in spec as it was read here: nothing is opened for it, and nothing is to be closed.
    expect(order).toEqual(ids(stations).filter((id) => id !== "steam-refit"));
    expect(records.signed).toBe(true);
  });

  test("what a station requires stands before it", () => {
    for (const [i, s] of stations.entries())
      for (const r of s.requires) {
        const at = stations.findIndex((o) => o.id === r.station);
        if (at !== -1) expect(at).toBeLessThan(i);
        expect(r.because).toMatch(/\.$/);
      }
  });

  test("shows its cautions", () => {
    const shown = new Set(stations.flatMap((s) => s.cautions));
    const due = KINDS[id].cautions.filter(
      (c) =>
        DUE_ON[c]?.includes(type) &&
        !(c === "live-parts" && !ids(stations).some((x) => x === "covers" || x === "parts")),
    );
    expect(due.filter((c) => !shown.has(c))).toEqual([]);
  });
});

/** On which jobs a kind's caution must stand. */
const DUE_ON: Partial<Record<string, readonly Preset[]>> = {
  "live-parts": ["service"],
  hot: ["install", "service", "handover"],
  "trapped-pressure": ["install", "service", "check"],
  "pressure-vessel": ["service"],
  acid: ["service"],
  "carbon-fines": ["install", "service"],
  "dry-element": ["install", "service", "handover"],
  lift: ["install"],
  water: ["install", "service"],
  supply: ["install"],
  "back-flow": ["install"],
  burrs: ["install", "service"],
  gas: ["install", "service"],
};

describe("different where the work is different", () => {
  test("no two kinds' installs are the same sheet", () => {
    const prints = KIND_IDS.map((id) =>
      JSON.stringify([
        sheet("install", id).map((s) => [s.id, s.needs, s.tasks.map((t) => [t.id, t.label, t.hint])]),
        KINDS[id].special,
      ]),
    );
    expect(new Set(prints).size).toBe(KIND_IDS.length);
  });

  test("plumbed: filter, then line, then fill; a tank has neither", () => {
    const k11 = ids(sheet("install", "K11"));
    expect(k11.indexOf("filter")).toBeLessThan(k11.indexOf("line"));
    expect(k11.indexOf("line")).toBeLessThan(k11.indexOf("fill"));
    expect(ids(sheet("install", "K7"))).not.toContain("line");
  });

  test("a dry home boiler is primed through the wand; a commercial one fills by its main switch; both groups are purged", () => {
    expect(ids(sheet("install", "K3"))).toContain("prime");
    const purge = sheet("install", "K11").find((s) => s.id === "purge")!;
    expect(purge.tasks).toHaveLength(2);
    expect(sheet("install", "K11").find((s) => s.id === "heat")!.tasks[0]!.label).toContain("position 2");
  });

  test("a K9 service mends first and starts from dry; a K7 service reads as found before parts", () => {
    const k9 = ids(sheet("service", "K9"));
    expect(k9.indexOf("parts")).toBeLessThan(k9.indexOf("fill"));
    const k7 = ids(sheet("service", "K7"));
    expect(k7.indexOf("as-found")).toBeLessThan(k7.indexOf("parts"));
    expect(k7).not.toContain("fill");
  });

  test("a lever has no valve to check, a grinder no water", () => {
    expect(ids(sheet("service", "K10"))).not.toContain("as-found");
    expect(ids(sheet("check", "K10"))).toEqual(["look-over", "tools", "pre-infusion", "sign"]);
    expect(question("check", "K14").scopes).toEqual([]);
    expect(ids(sheet("install", "K14"))).toEqual([
      "look-over",
      "place",
      "tools",
      "power",
      "grinder",
      "clean",
      "hand-over",
      "sign",
    ]);
  });

  test("the pressure check keeps its order: as found, covers, adjust, as left, refit; trapped pressure where no three-way valve is", () => {
    expect(ids(sheet("check", "K7"))).toEqual([
      "look-over",
      "tools",
      "as-found",
      "covers",
      "adjust",
      "as-left",
      "refit",
      "sign",
    ]);
    expect(ids(sheet("check", "K13"))).toEqual([
      "look-over",
      "tools",
      "as-found",
      "adjust",
      "as-left",
      "release",
      "sign",
    ]);
    expect(
      sheet("check", "K13")
        .find((s) => s.id === "release")!
        .hardStop!.lines.join(" "),
    ).toContain("Local codes");
  });

  test("schools change the sheet: blank shots warm it, descaling by nobody but the workshop", () => {
    const blank = sheet("install", "K4", { schools: { ...USUAL_SCHOOLS, warmUp: "blank-shots" } });
    expect(blank.find((s) => s.id === "warm")!.tasks[0]!.label).toContain("blank shots");
    const never = sheet("handover", "K3", { schools: { ...USUAL_SCHOOLS, ownerDescaling: "never" } });
    expect(JSON.stringify(never.find((s) => s.id === "clean"))).toContain("by the workshop only");
    expect(JSON.stringify(sheet("handover", "K8").find((s) => s.id === "clean"))).toContain(
      "never acid through the tank",
    );
  });

  test("heat-soaked counts only where the kind has it", () => {
    const timed = (id: KindId) =>
      sheet("install", id, { level: "heat-soaked" }).find((s) => s.id === "warm")!.tasks[0]!.id;
    expect(timed("K11")).toBe("warm.heat-soaked");
    expect(timed("K3")).toBe("warm.machine-warm");
  });
});

describe("preconditions", () => {
  const state = (stations: readonly Station[], records: SheetRecords, id: string) =>
    progress(stations, records, 2e12).find((p) => p.station.id === id)!;

  test("nothing but looking over is ready at first, and each says why", () => {
    for (const p of progress(sheet("install", "K11"), NOTHING_RECORDED, 0))
      expect(p.state).toBe(p.station.id === "look-over" ? "ready" : "blocked");
    expect(state(sheet("install", "K11"), NOTHING_RECORDED, "fill").why).toContain("look over");
  });

  test("trade: line pressure 6.8 bar holds everything up until a regulator brings it under 6", () => {
    const line = sheet("install", "K11").find((s) => s.id === "line")!;
    const idle = line.tasks.find((t) => t.id === "line.idle") as Extract<Task, { kind: "figure" }>;
    expect(remedyFor(idle, 6.8)).toContain("regulator");
    expect(remedyFor(idle, 2.4)).toContain("starved inlet");
    expect(remedyFor(idle, 4)).toBeNull();
    const read = (...values: number[]): SheetRecords => ({
      ...NOTHING_RECORDED,
      values: new Map([["line.idle", values.map((value) => ({ form: "figure", value }) as const)]]),
    });
    expect(isDone(idle, read(6.8), 0)).toBe(false);
    expect(tasksNow(line, read(6.8)).map((t) => t.id)).toContain("line.regulator");
    expect(isDone(idle, read(6.8, 4.1), 0)).toBe(true);
    expect(tasksNow(line, read(4.1)).map((t) => t.id)).not.toContain("line.regulator");
    expect(tasksNow(line, read(6.8, 4.1)).map((t) => t.id)).toContain("line.regulator");
  });

  test("transport damage stops an install until it is decided; sent back, only the signature is left", () => {
    const stations = sheet("install", "K4");
    const said = (choices: Record<string, string>): SheetRecords => ({
      ...NOTHING_RECORDED,
      notes: 1,
      values: new Map<string, TaskValue[]>([
        ["look-over.accessories", [{ form: "text", text: "all" }]],
        ...Object.entries(choices).map(([k, choice]): [string, TaskValue[]] => [k, [{ form: "choice", choice }]]),
      ]),
    });
    expect(state(stations, said({ "look-over.damage": "found" }), "place").state).toBe("blocked");
    expect(state(stations, said({ "look-over.damage": "found", "look-over.decision": "go-on" }), "place").state).toBe(
      "ready",
    );
    const back = progress(stations, said({ "look-over.damage": "found", "look-over.decision": "return" }), 0);
    expect(back.filter((p) => p.state === "ready").map((p) => p.station.id)).toEqual(["sign"]);
    expect(back.find((p) => p.station.id === "place")).toMatchObject({
      state: "skipped",
      why: expect.stringContaining("goes back"),
    });
  });

  test("left out with a reason; what others rest on can't be", () => {
    const stations = sheet("handover", "K4");
    const skipped: SheetRecords = {
      ...NOTHING_RECORDED,
      notes: 1,
      skipped: new Map([
        ["milk", "No milk in the house."],
        ["heat", "no"],
      ]),
    };
    expect(state(stations, skipped, "milk")).toMatchObject({ state: "skipped", why: "No milk in the house." });
    expect(state(stations, skipped, "heat").state).not.toBe("skipped");
  });

  test("what waits by itself is running until it is due, then asks for hands", () => {
    const stations = sheet("handover", "K4");
    const clock = (dueAt: number): TimerRecord => ({
      task: "warm.boiler-ready",
      startedAt: 1e12,
      dueAt,
      endedAt: null,
      outcome: null,
    });
    const records: SheetRecords = {
      ...NOTHING_RECORDED,
      notes: 1,
      values: new Map([
        ["look-over.accessories", [{ form: "text", text: "all" }]],
        ["tools", [{ form: "tick" }]],
        ["water.hardness", [{ form: "figure", value: 30 }]],
        ["heat.on", [{ form: "tick" }]],
      ]),
      timers: new Map([["warm.boiler-ready", [clock(1e12 + 300e3)]]]),
    };
    const during = progress(stations, records, 1e12 + 60e3);
    expect(during.find((p) => p.station.id === "boiler-ready")).toMatchObject({
      state: "running",
      until: 1e12 + 300e3,
    });
    expect(stationInHand(during)!.state).toBe("ready");
    expect(stationInHand(during, "boiler-ready")!.station.id).toBe("boiler-ready");
    expect(progress(stations, records, 1e12 + 301e3).find((p) => p.station.id === "boiler-ready")!.state).toBe("ready");
  });

  test("early is before the chosen level, when heat was switched on here", () => {
    const timers = new Map<string, TimerRecord[]>([
      [
        "warm.boiler-ready",
        [{ task: "warm.boiler-ready", startedAt: 1000, dueAt: 2000, endedAt: 2000, outcome: "done" }],
      ],
      [
        "warm.machine-warm",
        [{ task: "warm.machine-warm", startedAt: 1000, dueAt: 9000, endedAt: 8000, outcome: "done" }],
      ],
    ]);
    const task = (station: string, id: string) =>
      sheet("install", "K5")
        .find((s) => s.id === station)!
        .tasks.find((t) => t.id === id)!;
    expect(isEarly({ timers }, "machine-warm", 5000)).toBe(true);
    expect(isEarly({ timers }, "machine-warm", 8000)).toBe(false);
    expect(isEarly({ timers }, "boiler-ready", 5000)).toBe(false);
    expect(isEarly({ timers: new Map() }, "machine-warm", 5000)).toBe(false);
    expect(isEarlyEntry({ timers }, "machine-warm", task("temperature", "temperature.second"), 5000)).toBe(true);
    expect(isEarlyEntry({ timers }, "machine-warm", task("grinder", "grinder.target"), 5000)).toBe(false);
  });

  test("readings before the first move and after the last; with no move they are the same", () => {
    expect(readingRuns(["reading", "reading", "move", "reading"])).toEqual({
      asFound: 2,
      asLeft: 1,
      moves: 1,
      touched: true,
    });
    expect(readingRuns(["reading", "repair", "reading"])).toEqual({ asFound: 1, asLeft: 1, moves: 0, touched: true });
    expect(readingRuns(["reading", "reading"])).toEqual({
      asFound: 2,
      asLeft: 2,
      moves: 0,
      touched: false,
    });
  });
});

describe("properties", () => {
  test("worked in any order that is offered, no station is reached before what it requires, and the end is always reached", () => {
    fc.assert(
      fc.property(fc.constantFrom(...ALL), fc.infiniteStream(fc.nat(1000)), ([type, id], picks) => {
        const stations = sheet(type, id);
        const { order, records } = work(stations, (ready) => ready[picks.next().value! % ready.length]!);
        expect(records.signed).toBe(true);
        expect(order.at(-1)).toBe("sign");
        for (const s of stations)
          for (const r of s.requires)
            if (order.includes(r.station) && order.includes(s.id))
              expect(order.indexOf(r.station)).toBeLessThan(order.indexOf(s.id));
      }),
      { numRuns: 150 },
    );
  });

  test("recording more never takes a station back, but for a figure that must hold", () => {
    fc.assert(
      fc.property(fc.constantFrom(...ALL), fc.array(fc.nat(500), { maxLength: 40 }), ([type, id], picks) => {
        const stations = sheet(type, id);
        let records = NOTHING_RECORDED;
        const now = 1e12;
        for (const pick of picks) {
          const before = progress(stations, records, now);
          const ready = before.filter((p) => p.state === "ready");
          if (ready.length === 0) return;
          const tasks = ready.flatMap((p) => tasksNow(p.station, records)).filter((t) => !isDone(t, records, now));
          if (tasks.length === 0) return;
          records = record(records, tasks[pick % tasks.length]!, now);
          const after = progress(stations, records, now);
          for (const [i, p] of before.entries()) if (p.state === "done") expect(after[i]!.state).toBe("done");
        }
      }),
      { numRuns: 120 },
    );
  });
});
