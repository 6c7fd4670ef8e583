import { createHash } from "node:crypto";
import { type SQL, sql } from "drizzle-orm";
import type { OpenColumn, OpenTable } from "../../db/open/table";
import { database } from "../database";
import { momentText } from "../open/tables-out";
import { cursorOf, keyIn, keyOf } from "./cursor";

/** Open tables page by page, each row as one JSON object: the database makes the text, nothing here knows a column by name. */

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

/** As it stands in JSON: a number is a number; days and moments are spelt as in the tables. */
const field = ({ name, type }: OpenColumn) => (type === "moment" ? `${momentText(name)} as ${name}` : name);

const CASTS: Readonly<Partial<Record<OpenColumn["type"], string>>> = { id: "uuid", word: "text", count: "int" };

/** Behind its key, as the order of the page goes. */
function behind(table: OpenTable, values: readonly unknown[]): SQL {
  const columns = keyOf(table);
  const given = columns.map(({ type }, i) => sql`${values[i]}::${sql.raw(CASTS[type]!)}`);
  return sql`and (${sql.raw(table.key.join(", "))}) > (${sql.join(given, sql`, `)})`;
}

export const hasVisits = (table: OpenTable) => table.columns.some((c) => c.name === "visit_id");

/** Its rows go by their id alone. */
export const isById = (table: OpenTable) => table.key.length === 1 && table.key[0] === "id";

/** The rows asked for, as text, in the order of the table’s key. Inside a workshop (`db/wall.ts`). */
function rowsAsked(workshopId: string, table: OpenTable, { machineId, visitId, limit }: Asked, key: unknown[] | null) {
  return rowsText(
    table,
    sql`workshop_id = ${workshopId} ${machineId ? sql`and of_machine = ${machineId}` : sql``}
      ${visitId ? sql`and visit_id = ${visitId}` : sql``} ${key ? behind(table, key) : sql``}
      order by ${sql.raw(table.key.join(", "))} limit ${limit}`,
  );
}

const rowsText = (table: OpenTable, where: SQL) =>
  sql`select row_to_json(found)::text as row from (select ${sql.raw(table.columns.map(field).join(", "))} from records.${sql.raw(table.name)} where ${where}) found`;

/**
 * One page, and whether there is another. Inside a workshop.
 *
 * @returns null where `after` is no mark of this table
 */
export async function pageOf(workshopId: string, table: OpenTable, asked: Asked): Promise<Answer | null> {
  const key = asked.after === undefined ? null : keyIn(table, asked.after);
  if (asked.after !== undefined && !key) return null;
  const one = { ...asked, limit: asked.limit + 1 };
  const { rows } = await database().execute<{ row: string }>(rowsAsked(workshopId, table, one, key));
  const page = rows.slice(0, asked.limit).map((r) => r.row);
  const last = page.at(-1);
  const after = rows.length > page.length && last ? cursorOf(table, JSON.parse(last) as Record<string, unknown>) : null;
  return answer(`{"rows":[${page.join(",")}],"after":${JSON.stringify(after)}}`, after);
}

/** One row, by its number. Only of tables whose key that is. */
export async function rowOf(workshopId: string, table: OpenTable, id: string): Promise<Answer | null> {
  const { rows } = await database().execute<{ row: string }>(
    rowsText(table, sql`workshop_id = ${workshopId} and id = ${id}`),
  );
  return rows[0] ? answer(rows[0].row, null) : null;
}

/** Weak, since it may be compressed on its way: the same tag, the same rows (RFC 9110, 8.8). */
function answer(text: string, after: string | null): Answer {
  return { text, after, etag: `W/"${createHash("sha256").update(text).digest("base64url").slice(0, 27)}"` };
}
