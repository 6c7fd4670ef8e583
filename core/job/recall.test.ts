import type { KitInstrument } from "../metrology";
import { documentOf, recallOf, shifted, standingOf } from ".";
import { aGauge, aJob, aPull, aReading, aShot } from "./job.fixture";

/** Had the gauge been what its new certificate says: figures and verdicts beside those on record, which stay. */

const gauge = aGauge("Gauge A");
const read = (sequence: number, value: number, more = {}) => aReading(sequence, value, {}, more);
const job = aJob("K7", "check", { readings: [read(1, 9.3), read(2, 9.3)] });
const known = (add: number) => (id: string) => (id === "Gauge A" ? shifted(gauge, add) : null);

test("a gauge that showed 0.4 bar too little: its figures move by so much, and a verdict changes", () => {
  const { points, changes } = recallOf(job, new Set(["Gauge A"]), known(0.4));
  expect(points.map((p) => [p.what, p.title])).toEqual([
    ["as found", "Brew pressure at the group"],
    ["as left", "Brew pressure at the group"],
  ]);
  const [found] = points;
  expect(found!.after!.value - found!.before.value).toBeCloseTo(0.4, 9);
  expect(found!.verdict).toEqual({ before: "holds", after: "off" });
  expect(changes).toBe(true);
});

test("a certificate that says the same changes nothing", () => {
  const { points, lines, changes } = recallOf(job, new Set(["Gauge A"]), known(0));
  expect(points.every((p) => p.after!.value === p.before.value && !p.changes)).toBe(true);
  expect([lines, changes]).toEqual([[], false]);
});

test("another instrument’s figures are not asked about, and do not move", () => {
  const mixed = aJob("K7", "check", { readings: [read(1, 9), read(2, 9, { instrument: aGauge("Gauge B") })] });
  expect(recallOf(mixed, new Set(["Gauge C"]), known(1)).points).toEqual([]);
  // Two gauges weighed alike: moving one by 0.4 moves what they say together by about half of it.
  const { points } = recallOf(mixed, new Set(["Gauge A"]), known(0.4));
  expect(points[0]!.after!.value - points[0]!.before.value).toBeCloseTo(0.2, 2);
});

test("what was signed stands before what would be worked out today", () => {
  const document = documentOf(standingOf(job), { workshop: "Shop", name: "Ilka", remark: "", at: new Date(0) });
  const [result] = document.results;
  const asLeft = { ...result!.asLeft!, value: 8.8, verdict: "just holds" as const };
  const signed = { ...document, results: [{ ...result!, asLeft }] };
  const signature = { name: "Ilka", at: new Date(0), hash: "", remark: "", document: signed };
  const left = recallOf({ ...job, state: "signed", signature }, new Set(["Gauge A"]), known(0)).points[1]!;
  expect(left.before).toMatchObject({ value: 8.8, verdict: "just holds" });
  expect(left.after!.value).toBeCloseTo(9.3, 1);
});

test("outside its new table the certificate says nothing: no figure is made up, and the verdict does not stand", () => {
  const narrow = (): KitInstrument => ({
    ...gauge,
    corrections: [
      [2, 0],
      [6, 0],
    ],
  });
  const { points, changes } = recallOf(job, new Set(["Gauge A"]), narrow);
  expect(points.map((p) => p.after)).toEqual([null, null]);
  expect(changes).toBe(true);
});

test("figures, rows and shots read with it move too", () => {
  const scale: KitInstrument = { ...aGauge("Scale"), quantity: "mass", highest: 500 };
  const line: KitInstrument = { ...aGauge("Line gauge"), place: "line" };
  const at = new Date("2026-05-04T09:00:00Z");
  const handover = aJob("K11", "install", {
    entries: [
      {
        id: "idle",
        by: "Ilka",
        at,
        supersedes: null,
        task: "line.idle",
        value: { form: "figure", value: 4, u: 0.1, U: 0.2, instrument: line.name, instrumentId: line.id },
        typed: "4",
        unit: "bar",
        readBy: [{ column: "", instrument: line }],
      },
    ],
    shots: [{ ...aShot(1, aPull({ yield: 36 })), scale }],
  });
  const now = (id: string) => (id === "Scale" ? shifted(scale, 3) : id === "Line gauge" ? shifted(line, 1) : null);
  const { lines, others } = recallOf(handover, new Set(["Scale", "Line gauge"]), now);
  expect(others).toBe(2);
  expect(lines.some((l) => l.before.includes("4.0 bar") && l.after.includes("5.0 bar"))).toBe(true);
  expect(lines.some((l) => l.before.includes("36.0 g") && l.after.includes("39.0 g"))).toBe(true);
});

test("a shift is added to the table there is, or is one by itself", () => {
  expect(shifted(gauge, 0.2).corrections).toEqual([
    [0, 0.2],
    [16, 0.2],
  ]);
  expect(
    shifted(
      {
        ...gauge,
        corrections: [
          [2, 0.1],
          [12, -0.1],
        ],
      },
      0.2,
    ).corrections!.map(([, c]) => c),
  ).toEqual([expect.closeTo(0.3), expect.closeTo(0.1)]);
});
