import { randomUUID } from "node:crypto";
import { instrumentSchema, valuesOf } from "./instrument-schema";

/** Papers of an instrument: what can’t be is refused beside its own field. */

const given = {
  commandId: randomUUID(),
  name: "Gauge C",
  quantity: "pressure",
  place: "group",
  lowest: "0",
  highest: "16",
  resolution: "0.1",
  form: "class",
  error: "1.6",
  k: "2",
  repeatability: "0.05",
  corrections: "",
  calibratedOn: "2026-01-10",
  dueOn: "2027-01-10",
  note: "",
};
const parse = (over: Record<string, string> = {}) => instrumentSchema.safeParse({ ...given, ...over });

test.each([
  [
    { form: "class", error: "1.6" },
    { form: "class", percentOfSpan: 1.6 },
  ],
  [
    { form: "limit", error: "0,5" },
    { form: "limit", limit: 0.5 },
  ],
  [
    { form: "certificate", error: "0.08", k: "2" },
    { form: "certificate", U: 0.08, k: 2 },
  ],
])("%j", (over, error) => expect(parse(over)).toMatchObject({ success: true, data: { input: { error } } }));

test("drift and hysteresis are what its papers state, and nothing where they are silent", () => {
  expect(parse()).toMatchObject({ data: { input: { driftPerYear: null, hysteresis: null } } });
  const stated = parse({ driftPerYear: "0,05", hysteresis: "0.1" });
  expect(stated).toMatchObject({ data: { input: { driftPerYear: 0.05, hysteresis: 0.1 } } });
  expect(valuesOf(stated.data!.input)).toMatchObject({ driftPerYear: "0.05", hysteresis: "0.1" });
});

test("a correction table, a line each; written back as it was read", () => {
  const result = parse({ corrections: "0 0\n9 +0.1\n16 −0.05" });
  expect(result).toMatchObject({
    data: {
      input: {
        corrections: [
          [0, 0],
          [9, 0.1],
          [16, -0.05],
        ],
      },
    },
  });
  if (!result.success) throw new Error("refused");
  expect(valuesOf(result.data.input).corrections).toBe("0 +0\n9 +0.1\n16 -0.05");
  expect(parse(valuesOf(result.data.input)).success).toBe(true);
});

test.each([
  [{ name: "" }, "name", "labelled"],
  [{ quantity: "colour" }, "quantity", "measures"],
  [{ highest: "0" }, "highest", "ends above"],
  [{ lowest: "low" }, "lowest", "begins"],
  [{ resolution: "0" }, "resolution", "above 0"],
  [{ resolution: "12" }, "resolution", "wider"],
  [{ error: "-0.1" }, "error", "0 or more"],
  [{ error: "0" }, "error", "without error"],
  [{ error: "40" }, "error", "over 10 %"],
  [{ form: "certificate", k: "0.5" }, "k", "between 1 and 4"],
  [{ repeatability: "-1" }, "repeatability", "0 or more"],
  [{ driftPerYear: "-0.1" }, "driftPerYear", "0 or more"],
  [{ driftPerYear: "a bit" }, "driftPerYear", "in a year"],
  [{ driftPerYear: "0.05", calibratedOn: "" }, "calibratedOn", "counts from"],
  [{ hysteresis: "9" }, "hysteresis", "half the span"],
  [{ corrections: "9 +0.1" }, "corrections", "two lines"],
  [{ corrections: "9 +0.1\n5 0" }, "corrections", "rise"],
  [{ corrections: "9 a bit\n10 0" }, "corrections", "not two numbers"],
  [{ dueOn: "2025-01-01" }, "dueOn", "after it was calibrated"],
  [{ dueOn: "soon" }, "dueOn", "A day of the calendar"],
])("%j is refused at %s", (over, path, why) => {
  const result = parse(over as Record<string, string>);
  expect(result.success).toBe(false);
  const issue = result.error!.issues.find((i) => i.path[0] === path);
  expect(issue?.message).toContain(why);
});

test.each([
  ["repeatability", "Infinity"],
  ["repeatability", "1e308"],
  ["repeatability", "1e200"],
  ["repeatability", "9"],
  ["driftPerYear", "1e308"],
  ["hysteresis", "Infinity"],
  ["error", "1e200"],
  ["error", "9"],
  ["lowest", "-1e9"],
  ["highest", "1e9"],
  ["resolution", "1e-300"],
  ["k", "1e9"],
  ["corrections", `2 ${"9".repeat(300)}`],
  ["corrections", "99 +0.1"],
  ["calibratedOn", "2026-02-31"],
])("%s of %s is no instrument’s, and is refused beside its field", (field, value) => {
  const { error } = parse({ form: "limit", error: "0.1", [field]: value });
  expect(error!.issues.map((i) => i.path[0])).toContain(field);
});
