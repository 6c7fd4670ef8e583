import type { KitInstrument } from "../metrology";
import { documentOf, methodOf, standingOf } from ".";
import { aGauge, aJob, aPull, aReading, aShot } from "./job.fixture";

/** Whatever a figure was read with is on the report: readings, figures and rows of tasks, shots weighed. */

const probe: KitInstrument = { ...aGauge("Probe"), quantity: "temperature", highest: 150 };
const scale: KitInstrument = { ...aGauge("Scale"), quantity: "mass", highest: 500 };
const at = new Date("2026-05-04T09:00:00Z");
const entry = (task: string, value: object, column: string, instrument: KitInstrument) => ({
  id: task,
  by: "Ilka",
  at,
  supersedes: null,
  task,
  value: value as never,
  typed: "",
  unit: "",
  readBy: [{ column, instrument }],
});

const job = aJob("K7", "service", {
  readings: [aReading(1, 9)],
  entries: [
    entry(
      "water.hardness",
      { form: "figure", value: 80, instrument: "Strips", instrumentId: "Strips" },
      "",
      aGauge("Strips"),
    ),
    entry(
      "cycle.rows",
      { form: "row", cells: { light: { value: 93, instrument: "Probe", instrumentId: "Probe", outOfDate: true } } },
      "light",
      probe,
    ),
  ],
  shots: [{ ...aShot(1, aPull()), scale, scaleOutOfDate: false }],
});
const doc = documentOf(standingOf(job), { workshop: "Shop", name: "Ilka", remark: "", at });

test("each is named once, by its id, with what it read and whether it was past its date", () => {
  expect(doc.instruments.map((i) => [i.id, i.readFor, i.outOfDate])).toEqual([
    ["Gauge A", ["Brew pressure at the group"], false],
    ["Strips", [expect.any(String)], false],
    ["Probe", ["cycle.rows"], true],
    ["Scale", ["Shots"], false],
  ]);
});

test("the scale of a shot stands beside it", () => {
  expect(doc.shots).toMatchObject([{ number: 1, scale: "Scale", uDose: 0.1, taken: false, dose: 18, yield: 36 }]);
});

test("a shot added after the signature is no part of what was signed", () => {
  const later = { ...job, shots: [{ ...job.shots[0]!, amends: true }] };
  const signed = documentOf(standingOf(later), { workshop: "Shop", name: "Ilka", remark: "", at });
  expect(signed.shots).toEqual([]);
  expect(signed.instruments.map((i) => i.id)).not.toContain("Scale");
});

describe("how a figure was come by", () => {
  const read = (more: object) => [aReading(1, 9, {}, more as never)];
  test.each([
    ["opv", read({}), "gauge-group"],
    ["opv", read({ place: "pump" }), "gauge-pump"],
    ["pressurestat", read({ place: "boiler" }), "boiler-band"],
    ["line-regulator", read({ place: "line" }), "gauge-line"],
    ["button", read({}), "weighed"],
    ["offset", read({ detail: { by: "peak" } }), "probe-peak"],
    ["offset", read({ detail: { by: "plateau" } }), "probe-plateau"],
    ["temperature", read({}), "probe"],
    ["opv", [...read({}), aReading(2, 9, {}, { instrument: aGauge("Gauge B") })], "several"],
  ] as const)("%s", (knob, run, method) => expect(methodOf(run, knob)).toBe(method));
  test("nothing read", () => expect(methodOf([], "opv")).toBeNull());
});
