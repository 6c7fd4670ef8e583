import { z } from "zod";
import { misfitOf } from "./form-fields";

const schema = z
  .object({
    text: z.string().trim().max(10).default(""),
    sure: z.string().optional(),
    when: z.union([z.literal(""), z.iso.date()]).optional(),
    cell: z.record(z.string().max(40), z.string().default("")).default({}),
    deep: z.object({ inner: z.string() }).optional(),
    many: z.array(z.string()).default([]),
  })
  .transform((x) => x);

function form(...fields: [string, string][]): FormData {
  const made = new FormData();
  for (const [name, value] of fields) made.append(name, value);
  return made;
}

test.each([
  [form(["text", "a"], ["sure", "yes"], ["when", ""], ["intent", "x"], ["commandId", "y"])],
  [form(["cell.pulses", "1"], ["cell.water-in", "2"], ["deep.inner", "3"])],
  [form(["many", "1"], ["many", "2"])],
])("fields the schema knows pass", (given) => {
  expect(misfitOf(given, schema)).toBeNull();
});

test.each([
  ["a[99999999]"],
  ["text[0]"],
  ["text.more"],
  ["cell[5]"],
  ["cell."],
  ["cell.a.b"],
  ["cell.__proto__"],
  ["cell.constructor"],
  ["cell.toString"],
  ["__proto__"],
  ["constructor"],
  ["deep"],
  ["deep.other"],
  ["many[99999999]"],
  ["unknown"],
  [""],
])("%s never reaches the form library", (name) => {
  expect(misfitOf(form([name, "1"]), schema)).toMatchObject({
    field: "",
    message: expect.stringContaining("does not know"),
  });
});

test("a field twice, and more cells than a row can have, are refused", () => {
  expect(misfitOf(form(["text", "a"], ["text", "b"]), schema)).not.toBeNull();
  const cells = Array.from({ length: 41 }, (_, i): [string, string] => [`cell.c${i}`, "1"]);
  expect(misfitOf(form(...cells.slice(1)), schema)).toBeNull();
  expect(misfitOf(form(...cells), schema)).not.toBeNull();
});

test("a code 0 is refused beside its field", () => {
  expect(misfitOf(form(["text", "a\0b"]), schema)).toMatchObject({ field: "text" });
});
