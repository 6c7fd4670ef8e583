import { PRESET_IDS } from "../sheet";
import { documentOf, causeOf, saySeconds, standingOf } from ".";
import { aGauge, aJob, aMove, aReading, aRepair, knobOf } from "./job.fixture";

/** From a job’s log to where it stands, what its readings say, and what a signature would freeze. */

const SIGNING = { workshop: "Shop", name: "Ilka", remark: "", at: new Date("2026-05-04T12:00:00Z") };
const ofKit = (name: string) => ({
  id: name,
  name,
  quantity: "pressure",
  calibratedOn: "2026-01-10",
  readFor: ["Brew pressure at the group"],
});
const freeze = (job: Parameters<typeof standingOf>[0]) => documentOf(standingOf(job), SIGNING);

test("the report names every instrument once, with its dates, and counts early readings", () => {
  const late = { instrument: aGauge("Gauge B"), instrumentOutOfDate: true, early: true };
  const doc = freeze(
    aJob("K7", "check", {
      readings: [aReading(1, 9), aReading(2, 9.1), aReading(3, 9, {}, late), aReading(4, 9, {}, late)],
    }),
  );
  expect(doc.instruments).toEqual([
    { ...ofKit("Gauge A"), outOfDate: false },
    { ...ofKit("Gauge B"), outOfDate: true },
  ]);
  expect(doc).toMatchObject({ version: 4, visit: "check", timeZone: "UTC" });
  const [brew] = doc.results;
  expect(brew).toMatchObject({ knob: "opv", moves: [], held: "OPV regulates what the group sees" });
  expect(brew!.asFound).toMatchObject({ verdict: "holds", early: 2, instruments: ["Gauge A", "Gauge B"] });
  expect(brew!.asFound!.method).toBe("several");
  // U is its own k times its own u, and no other’s.
  expect(brew!.asFound!.U).toBeCloseTo(brew!.asFound!.k * brew!.asFound!.u, 12);
  expect(doc.methods.map((m) => m.id)).toEqual(["several"]);
});

test.each([
  ["check", ["opv"]],
  [
    "handover",
    [
      "hardness",
      "warmUp",
      "teaching",
      "shotClock",
      "shotWindow",
      "ratio",
      "grindOrDose",
      "backFlush",
      "ownerDescaling",
    ],
  ],
  ["service", ["hardness", "warmUp", "opv", "teaching", "backFlush", "ownerDescaling"]],
] as const)("a %s names the schools that decide its verdicts", (preset, ids) => {
  const job = aJob("K1", preset);
  const named = freeze(job).schools!;
  expect(named).toHaveLength(ids.length);
  for (const { question, choice } of named) {
    expect(question).not.toBe("");
    expect(choice).not.toBe("");
  }
  expect(standingOf(job).plan.flatMap((s) => s.schools)).toEqual(ids);
});

describe("what readings say towards a cause", () => {
  const seen = (readings: ReturnType<typeof aReading>[]) =>
    standingOf(aJob("K7", "check", { readings })).loops.find((l) => l.loop.id === "opv")!.cause!.derived;
  const under = (value: number) => aReading(9, value, { flowing: true, bleed: 2 });

  test("too little read says nothing; other patterns are not its business", () => {
    expect(seen([aReading(1, 9.5)])).toEqual([]);
    const standing = standingOf(aJob("K7", "check", { readings: [aReading(1, 12), aReading(2, 12)] }));
    expect(
      causeOf({ id: "diagnosis.steam", label: "", kind: "diagnosis", pattern: "steam" }, standing).derived,
    ).toEqual([]);
  });
  test.each([
    [11.4, "high"],
    [6.2, "low"],
    [9, "inside"],
  ])("static at %p bar is %s", (value, outcome) =>
    expect(seen([aReading(1, value), aReading(2, value)])).toContainEqual({ check: "static", outcome }),
  );
  test("under flow it sags, or it holds: the way round matters", () => {
    const still = [aReading(1, 9), aReading(2, 9)];
    expect(seen([...still, under(5)])).toContainEqual({ check: "flowing", outcome: "sags" });
    expect(seen([...still, under(8.9)])).toContainEqual({ check: "flowing", outcome: "holds" });
  });
  test("water that came back, or none", () => {
    const looked = (returned: "seen" | "none") => seen([aReading(1, 11, { returned }), aReading(2, 11)]);
    expect(looked("seen")).toContainEqual({ check: "return", outcome: "some" });
    expect(looked("none")).toContainEqual({ check: "return", outcome: "none" });
  });
});

describe("a repair is an event of the log", () => {
  const stuck = [aReading(1, 11.4, { returned: "none" }), aReading(2, 11.4)];
  const finding = { id: "f", by: "Ilka", at: stuck[1]!.at, loop: "opv" as const, fault: "no-return", text: "Seized." };

  test("no water back over the limit ends the test by a rule of its own; the engine’s figures stay its own", () => {
    const { stop, advice, record } = knobOf(standingOf(aJob("K7", "check", { readings: stuck })), "opv");
    expect(stop!.headline).toMatch(/^Stop the pump\./);
    expect(record).toMatchObject({ stopped: true, accepted: false });
    expect(JSON.stringify(advice)).not.toContain("0.97");
  });

  test("it stands until a later reading shows the valve work: water back, or under the limit", () => {
    const later = (value: number, returned?: "seen" | "none") => {
      const readings = [...stuck, aReading(4, value, returned ? { returned } : {})];
      return knobOf(standingOf(aJob("K7", "check", { readings })), "opv").stop;
    };
    expect(later(11.4)).not.toBeNull();
    expect(later(11.2, "none")).not.toBeNull();
    expect(later(11.4, "seen")).toBeNull();
    expect(later(9.1)).toBeNull();
  });

  test("after it nothing blocks: neither the ended test nor the fault taken; as found stays, as left begins anew", () => {
    const repairs = [aRepair(3, "Valve renewed")];
    const readings = [...stuck, aReading(4, 9), aReading(5, 9.1)];
    const job = aJob("K7", "check", { readings, repairs, findings: [finding] });
    const { stop, advice, record } = knobOf(standingOf(job), "opv");
    expect(stop).toBeNull();
    expect(advice!.action.kind).toBe("accept");
    expect(record).toMatchObject({ faultTaken: false, stopped: false, accepted: true });
    const doc = freeze(job);
    expect(doc.results[0]!.asFound!.readings).toEqual([11.4, 11.4]);
    expect(doc.results[0]!.asLeft!.readings).toEqual([9, 9.1]);
    expect(doc.results[0]!.repairs).toEqual(["Valve renewed"]);
    // What was found wrong stays on the report.
    expect(doc.results[0]!.finding).toContain("Seized.");
  });

  test("the engine starts from the model’s prior, not from what this machine had shown", () => {
    const learnt = { opv: { mean: 3.5, sd: 0.1, machines: 4, own: 2, ofModel: { mean: 2.2, sd: 0.4 } } };
    const readings = [aReading(1, 11), aReading(2, 11), aReading(5, 10)];
    const moves = [aMove(3, -0.5)];
    const response = (repairs: ReturnType<typeof aRepair>[]) =>
      knobOf(standingOf(aJob("K7", "check", { readings, moves, repairs, learnt })), "opv").question!.knob.response;
    expect(response([])).toEqual({ mean: 3.5, sd: 0.1 });
    expect(response([aRepair(4, "Spring renewed")])).toEqual({ mean: 2.2, sd: 0.4 });
  });
});

test.each(PRESET_IDS)("a %s with nothing recorded is a document already", (preset) =>
  expect(() => JSON.stringify(freeze(aJob("K11", preset)))).not.toThrow(),
);

test.each([
  [48.4, "48 s"],
  [99.4, "99 s"],
  [121, "2 min"],
  [1860, "31 min"],
  [7320, "2 h 2 min"],
])("%p s is said as %s", (seconds, text) => expect(saySeconds(seconds)).toBe(text));

describe("the next service", () => {
  // Common practice: a machine on a tank yearly, one on a line twice a year; sooner while its water stays hard.
  const due = (kind: Parameters<typeof aJob>[0], visit: Parameters<typeof aJob>[1], decision?: string) =>
    freeze(
      aJob(kind, visit, {
        entries: decision
          ? [
              {
                id: "decided",
                by: "Ilka",
                at: new Date("2026-05-04T10:00:00Z"),
                readBy: [],
                supersedes: null,
                task: "water.decision",
                value: { form: "choice", choice: decision },
                typed: decision,
                unit: "",
              },
            ]
          : [],
      }),
    ).nextService?.on;

  test.each([
    ["K5", undefined, "2027-05-04"],
    ["K5", "filter", "2027-05-04"],
    ["K5", "interval", "2026-11-04"],
    ["K11", undefined, "2026-11-04"],
    ["K11", "interval", "2026-08-04"],
  ] as const)("%s, hardness decided as %s: by %s", (kind, decision, on) => {
    expect(due(kind, "service", decision)).toBe(on);
  });
  test("a reading of the pressure is no service", () => expect(due("K5", "check")).toBeUndefined());
});
