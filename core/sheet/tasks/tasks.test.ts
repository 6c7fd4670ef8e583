import { USUAL_SCHOOLS } from "../../school";
import type { TaskValue } from "../records";
import { type About, type Task, sayTask } from ".";

/** What was recorded, as the sheet and the report say it. */

const schools = USUAL_SCHOOLS;
const sayValue = (task: Task, value: TaskValue, about: Partial<About>) =>
  sayTask(task, value, { schools, rule: "simple", typed: "", ...about });
const task = (over: object): Task => ({ id: "t", label: "T", kind: "tick", ...over }) as Task;
const line = task({
  kind: "figure",
  dimension: "pressure",
  possible: [0, 16],
  usual: [1, 8],
  resolution: 0.1,
  tolerance: { lower: 3, upper: 6 },
});

test.each([
  [4, "4.0 bar", "holds"],
  [6.8, "6.8 bar", "off"],
  [6, "6.0 bar", "just holds"],
  [3.04, "3.0 bar", "just holds"],
  [2.9, "2.9 bar", "off"],
])("a figure of %p with limits", (value, text, verdict) =>
  expect(sayValue(line, { form: "figure", value }, { schools })).toEqual({ text, verdict }),
);

test("a figure without limits has no verdict", () => {
  const grams = task({ kind: "figure", dimension: "mass", possible: [0, 60], usual: [6, 30], resolution: 0.1 });
  expect(sayValue(grams, { form: "figure", value: 18.04 }, { schools })).toEqual({ text: "18.0 g" });
});

test("hardness says what was typed where the unit was another", () => {
  const hardness = task({ kind: "hardness" });
  expect(sayValue(hardness, { form: "figure", value: 180 }, { schools, typed: "180 ppm" })).toEqual({
    text: "180 mg/L CaCO₃",
    verdict: "off",
  });
  expect(
    sayValue(hardness, { form: "figure", value: 44.6, low: 35.7, high: 53.5 }, { schools, typed: "2-3 °dH" }).text,
  ).toBe("35.7 to 53.5 mg/L CaCO₃ (2-3 °dH)");
  const wide = { ...schools, hardness: "published-band" as const };
  expect(sayValue(hardness, { form: "figure", value: 60 }, { schools: wide }).verdict).toBe("holds");
});

test("choices, words, litres and cartridges", () => {
  const choice = task({ kind: "choice", options: [{ value: "none", label: "None seen" }] });
  expect(sayValue(choice, { form: "choice", choice: "none" }, { schools }).text).toBe("None seen");
  expect(sayValue(task({ kind: "text" }), { form: "text", text: "Dent." }, { schools }).text).toBe("Dent.");
  expect(sayValue(task({ kind: "purge" }), { form: "figure", value: 16.25 }, { schools }).text).toBe("16.3 L");
  expect(
    sayValue(
      task({ kind: "cartridge" }),
      { form: "cartridge", fittedOn: "2026-01-10", dueOn: "2026-04-20", by: "litres" },
      { schools },
    ).text,
  ).toBe("fitted 10 Jan 2026, next change 20 Apr 2026 by litres");
  expect(sayValue(task({}), { form: "tick" }, { schools }).text).toBe("done");
});
