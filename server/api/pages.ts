import { createHash } from "node:crypto";
import type { QueryArrayConfig } from "pg";
import { poolOf } from "../../db/client";
import type { OpenColumn, OpenTable } from "../../db/open/table";
import { database } from "../database";
import { momentText } from "../open/tables-out";
import { cursorOf, keyIn, keyOf } from "./cursor";

/** Open tables page by page, each row as one JSON object. Nothing here knows a column by name. */

/** Rows of a page: asked for, and at most. Our choice: what a program shows at once, and what it copies with. */
export const PAGE_ROWS = 100;
export const MOST_ROWS = 1000;

export interface Asked {
  /** Of this machine or this visit alone. */
  readonly machineId?: string | undefined;
  readonly visitId?: string | undefined;
  readonly after?: string | undefined;
  readonly limit: number;
}

export interface Answer {
  /** JSON */
  readonly text: string;
  readonly etag: string;
  /** Where the next page begins; null: this was the last. */
  readonly after: string | null;
}

/** How a moment is spelt as in the tables; anything else as the database spells it. */
const field = ({ name, type }: OpenColumn) => (type === "moment" ? `${momentText(name)} as ${name}` : name);

/** A cell as it came over the line, as JSON: a number is one already, as the database spells it. */
function json(type: OpenColumn["type"], cell: string | null): string {
  if (cell === null) return "null";
  if (type === "number" || type === "count") return cell;
  return type === "yes" ? String(cell === "t") : JSON.stringify(cell);
}

/** The heads of a row, ready to be written between its cells. */
const headsOf = ({ columns }: OpenTable) =>
  columns.map(({ name, type }, i) => ({ before: `${i === 0 ? "{" : ","}${JSON.stringify(name)}:`, type }));

function rowsText(table: OpenTable, rows: readonly Cells[]): string {
  const heads = headsOf(table);
  return rows
    .map((cells) => `${heads.map(({ before, type }, i) => before + json(type, cells[i]!)).join("")}}`)
    .join(",");
}

type Cells = readonly (string | null)[];

// Cells are wanted as they come: reading them as numbers and days would only be undone.
const AS_IT_COMES = { getTypeParser: () => (cell: string) => cell };

/** Asks for rows as they come over the line. What is the same but for its values is planned once for each connection. */
async function rowsWhere(table: OpenTable, where: string, values: readonly unknown[]): Promise<Cells[]> {
  const text = `select ${table.columns.map(field).join(", ")} from records.${table.name} where ${where}`;
  const { rows } = await poolOf(database()).query<Cells>({
    ...{ text, values: [...values], rowMode: "array", types: AS_IT_COMES },
    name: `page_${createHash("sha256").update(text).digest("base64url").slice(0, 20)}`,
  } as QueryArrayConfig);
  return rows;
}

const CASTS: Readonly<Partial<Record<OpenColumn["type"], string>>> = { id: "uuid", word: "text", count: "int" };

export const hasVisits = (table: OpenTable) => table.columns.some((c) => c.name === "visit_id");

/** Its rows go by their id alone. */
export const isById = (table: OpenTable) => table.key.length === 1 && table.key[0] === "id";

/**
 * One page, and whether there is another. Inside a workshop (`db/wall.ts`).
 *
 * @returns null where `after` is no mark of this table
 */
export async function pageOf(workshopId: string, table: OpenTable, asked: Asked): Promise<Answer | null> {
  const { machineId, visitId, limit } = asked;
  const key = asked.after === undefined ? null : keyIn(table, asked.after);
  if (asked.after !== undefined && !key) return null;
  const values: unknown[] = [];
  const given = (value: unknown, cast: string) => `$${values.push(value)}::${cast}`;
  const conditions = [
    `workshop_id = ${given(workshopId, "uuid")}`,
    machineId && `of_machine = ${given(machineId, "uuid")}`,
    visitId && `visit_id = ${given(visitId, "uuid")}`,
    key &&
      `(${table.key.join(", ")}) > (${keyOf(table)
        .map(({ type }, i) => given(key[i], CASTS[type]!))
        .join(", ")})`,
  ];
  const rows = await rowsWhere(
    table,
    `${conditions.filter(Boolean).join(" and ")} order by ${table.key.join(", ")} limit ${given(limit + 1, "int")}`,
    values,
  );
  const page = rows.slice(0, limit);
  const after = rows.length > limit ? cursorOf(table, keyedFrom(table, page.at(-1)!)) : null;
  return answer(`{"rows":[${rowsText(table, page)}],"after":${JSON.stringify(after)}}`, after);
}

/** The key of a row, with its counts as numbers. */
function keyedFrom(table: OpenTable, cells: Cells): Record<string, unknown> {
  return Object.fromEntries(
    keyOf(table).map((column) => {
      const cell = cells[table.columns.indexOf(column)];
      return [column.name, column.type === "count" ? Number(cell) : cell];
    }),
  );
}

/** One row, by its number. Only of tables whose key that is. */
export async function rowOf(workshopId: string, table: OpenTable, id: string): Promise<Answer | null> {
  const rows = await rowsWhere(table, "workshop_id = $1::uuid and id = $2::uuid", [workshopId, id]);
  return rows[0] ? answer(rowsText(table, rows), null) : null;
}

/** Weak, since it may be compressed on its way: the same tag, the same rows (RFC 9110, 8.8). */
function answer(text: string, after: string | null): Answer {
  return { text, after, etag: `W/"${createHash("sha256").update(text).digest("base64url").slice(0, 27)}"` };
}
