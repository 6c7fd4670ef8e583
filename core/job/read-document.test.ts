import { readFileSync } from "node:fs";
import { keyOf } from "../knobs";
import { type EarlierDocument, documentOf, keptResults, readDocument, standingOf } from ".";
import { aGauge, aJob, aMove, aReading } from "./job.fixture";

/** Documents as the application stored them in its first three versions (demo data), read as one of today: every figure exact, nothing made up. */

const stored = (version: number) =>
  JSON.parse(readFileSync(new URL(`documents/version-${version}.json`, import.meta.url), "utf8")) as EarlierDocument;

const opv = { knob: "opv", group: null, button: null } as const;

describe.each([1, 2])("version %d", (version) => {
  const before = stored(version);
  const doc = readDocument(before);

  test("brew pressure is one result among the others, with its own k and limits", () => {
    expect(doc.results).toHaveLength(1);
    const { asFound, asLeft, ...brew } = doc.results[0]!;
    expect(brew).toEqual({
      ...opv,
      title: "Brew pressure at the group",
      judged: "pressure",
      tolerance: before.tolerance,
      held: "OPV regulates what the group sees",
      moves: [expect.stringMatching(/turns? (anti)?clockwise/)],
      repairs: [],
      finding: null,
    });
    for (const [point, was] of [
      [asFound!, before.asFound!],
      [asLeft!, before.asLeft!],
    ] as const) {
      const { u, dof, early, instruments, method, ...kept } = point;
      expect(kept).toEqual(was);
      expect(u * was.k).toBeCloseTo(was.U, 12);
      // Not kept for each figure then: unknown, not nothing.
      expect([dof, early, instruments, method]).toEqual([null, null, null, null]);
    }
  });

  test("what was said of the visit stays; what was not kept then is empty", () => {
    const { job, workshop, machine, complaint, condition, rule, remark, technician, startedAt, signedAt } = before;
    const same = { job, workshop, machine, complaint, condition, rule, remark, technician, startedAt, signedAt };
    expect(doc).toMatchObject({
      version: 4,
      visit: before.type,
      spec: null,
      shots: [],
      methods: [],
      timeZone: "",
      ...same,
    });
    expect(doc.instruments).toEqual(before.instruments.map((i) => ({ id: null, quantity: null, readFor: [], ...i })));
    expect(doc.steps).toEqual(before.stations ?? []);
    expect(doc.schools.map((s) => s.choice)).toEqual((before.schools ?? []).map((s) => s.choice));
  });
});

test("version 3: every other knob is a result, at its group and button; brew pressure only where there was some", () => {
  const before = stored(3);
  const doc = readDocument(before);
  expect(doc.results.map(keyOf)).toEqual(before.loops!.map((l) => l.loop));
  expect(doc.results[0]).toMatchObject({ knob: "button", group: 1, button: "double", judged: "mass" });
  doc.results.forEach((r, i) => {
    const was = before.loops![i]!;
    expect(r).toMatchObject({ title: was.title, tolerance: was.tolerance, moves: was.moves, repairs: was.repairs });
    expect(r.asLeft).toMatchObject(was.asLeft!);
  });
  expect(doc.scopes).toEqual(before.scopes);
  expect(doc.steps).toEqual(before.stations);
});

test("readings not warmed up were counted for the whole job: they stay said", () => {
  const early = (n: number) => readDocument({ ...stored(2), early: n }).steps.at(-1)!;
  expect(early(2)).toEqual({
    title: "Warm-up",
    lines: [{ label: "Before the machine was warm", text: "2 readings were taken" }],
  });
  expect(early(1).lines[0]!.text).toBe("1 reading was taken");
});

test("a fault of brew pressure that was given up unread is a result with no figures", () => {
  const given = readDocument({ ...stored(1), asFound: null, asLeft: null, turns: [], finding: "Seized." });
  expect(given.results).toMatchObject([{ ...opv, asFound: null, asLeft: null, finding: "Seized." }]);
  expect(readDocument({ ...stored(1), asFound: null, asLeft: null, turns: [] }).results).toEqual([]);
});

test("today’s document is read as it is", () => {
  const doc = documentOf(standingOf(aJob("K7", "check", { readings: [aReading(1, 9)] })), {
    workshop: "Shop",
    name: "Ilka",
    remark: "",
    at: new Date("2026-05-04T12:00:00Z"),
  });
  expect(readDocument(doc)).toBe(doc);
});

describe("figures of a signed job, as rows", () => {
  const late = { instrument: aGauge("Gauge B"), instrumentOutOfDate: true, early: true };
  const readings = [aReading(1, 8), aReading(2, 8), aReading(4, 9, {}, late), aReading(5, 9, {}, late)];
  const job = aJob("K7", "check", { readings, moves: [aMove(3, 0.5)] });
  const doc = documentOf(standingOf(job), { workshop: "Shop", name: "Ilka", remark: "", at: new Date(0) });

  test("one a knob and phase, with what it was read with", () => {
    const rows = keptResults(doc, job);
    expect(rows.map((r) => [r.knob, r.phase, r.point.value, r.readAt])).toEqual([
      ["opv", "as-found", 8, readings[1]!.at],
      ["opv", "as-left", 9, readings[3]!.at],
    ]);
    expect(rows.map((r) => [r.point.instruments, r.point.early, r.outOfDate, r.point.method])).toEqual([
      [["Gauge A"], 0, false, "gauge-group"],
      [["Gauge B"], 2, true, "gauge-group"],
    ]);
  });

  test("of an earlier document the figures are as signed, the rest is read off the log", () => {
    const signed = readDocument({ ...stored(1), tolerance: { lower: 8.5, upper: 9.5 } });
    const [found, left] = keptResults(signed, job);
    expect(found!.point).toMatchObject({
      value: stored(1).asFound!.value,
      U: stored(1).asFound!.U,
      instruments: ["Gauge A"],
      early: 0,
      method: "gauge-group",
    });
    expect(left).toMatchObject({ outOfDate: true, point: { instruments: ["Gauge B"], early: 2 } });
  });
});
