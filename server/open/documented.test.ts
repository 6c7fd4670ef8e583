import { readFileSync } from "node:fs";
import { OPEN_TABLES } from "../../db/open/tables";
import { pages } from "./documented";

test.each(Object.entries(pages()))(
  "docs/%s says what the formats are: npm run formats writes it anew",
  (file, text) => {
    expect(readFileSync(`docs/${file}`, "utf8")).toBe(text);
  },
);

test("every column says what it means, with an example of its own type", () => {
  for (const { columns } of OPEN_TABLES)
    for (const { name, type, meaning, example } of columns) {
      expect([name, meaning.length > 2, example.length > 0]).toEqual([name, true, true]);
      if (type === "number" || type === "count") expect([name, Number.isFinite(Number(example))]).toEqual([name, true]);
      if (type === "yes") expect(["true", "false"]).toContain(example);
      if (type === "day") expect(example).toMatch(/^\d{4}-\d{2}-\d{2}$/);
      if (type === "moment") expect(new Date(example).toISOString()).toBe(example);
      if (type === "id") expect(example).toMatch(/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/);
    }
});
