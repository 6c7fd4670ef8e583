import { readFileSync } from "node:fs";
import type { OpenColumn, OpenTable } from "../../db/open/table";
import { OPEN_TABLES } from "../../db/open/tables";
import { recordsSchema } from "./records-schema";
import { SECTIONS } from "./sections";

/** What docs/ says of the open formats, as it is made of them: page by page. */

const TYPES: Readonly<Record<OpenColumn["type"], string>> = {
  id: "UUID",
  word: "word",
  text: "text",
  number: "number",
  count: "whole number",
  yes: "true or false",
  day: "day",
  moment: "moment",
};

const cell = (text: string) => text.replaceAll("|", "\\|");

function tablePage({ name, plural, about, columns }: OpenTable): string {
  const rows = columns.map(
    (c) =>
      `| \`${c.name}\` | ${TYPES[c.type]}${c.empty ? ", may be empty" : ""} | ${cell(c.meaning)} | ${cell(c.example)} |`,
  );
  return [
    `### ${plural}`,
    "",
    `${about} SQL: \`records.${name}\`. CSV: \`${plural}.csv\`.`,
    "",
    "| Column | Type | Meaning | Example |",
    "| --- | --- | --- | --- |",
    ...rows,
  ].join("\n");
}

const sections = () =>
  [
    "| Section | Rows of | Told apart by |",
    "| --- | --- | --- |",
    ...SECTIONS.map((s) => `| \`${s.name}\` | ${s.about} | ${s.key.map((k) => `\`${k}\``).join(", ")} |`),
  ].join("\n");

const MADE: Readonly<Record<string, () => string>> = {
  tables: () => OPEN_TABLES.map(tablePage).join("\n\n"),
  sections,
};

/** A page with what stands between its marks made anew. */
function filled(page: string): string {
  return page.replace(
    /(<!-- made: (\w+) -->\n)[\s\S]*?(\n<!-- \/made -->)/g,
    (_all, before: string, what: string, after: string) => before + MADE[what]!() + after,
  );
}

export function pages(): Record<string, string> {
  const page = readFileSync(new URL("../../docs/formats.md", import.meta.url), "utf8");
  return { "formats.md": filled(page), "records.schema.json": `${JSON.stringify(recordsSchema(), null, 2)}\n` };
}
