import { z } from "zod";
import type { OpenColumn, OpenTable } from "../../db/open/table";

/** Where a page of an open table ended: the key of its last row, as one word of an address. */

const VALUES: Readonly<Partial<Record<OpenColumn["type"], z.ZodType>>> = {
  id: z.uuid(),
  word: z
    .string()
    .max(40)
    .regex(/^[\w-]*$/),
  count: z.int().min(-2_147_483_648).max(2_147_483_647),
};

/** Columns of its key, in order. */
export const keyOf = ({ key, columns }: OpenTable): OpenColumn[] =>
  key.map((name) => columns.find((c) => c.name === name)!);

export function cursorOf(table: OpenTable, row: Readonly<Record<string, unknown>>): string {
  return Buffer.from(JSON.stringify(table.key.map((name) => row[name]))).toString("base64url");
}

/** The key in a cursor, one value for each of its columns. @returns null where it is no cursor of this table */
export function keyIn(table: OpenTable, cursor: string): unknown[] | null {
  let found: unknown;
  try {
    found = JSON.parse(Buffer.from(cursor, "base64url").toString("utf8"));
  } catch {
    return null;
  }
  const columns = keyOf(table);
  if (!Array.isArray(found) || found.length !== columns.length) return null;
  const fits = columns.every(({ type }, i) => VALUES[type]?.safeParse(found[i]).success);
  return fits ? found : null;
}
