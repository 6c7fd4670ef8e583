import { sql } from "drizzle-orm";
import { type AnyPgColumn, check, foreignKey } from "drizzle-orm/pg-core";

/**
 * Numbers the database takes: finite, and inside what such a quantity can be. `between` refuses NaN and the infinities too, since
 * PostgreSQL sorts them outside every interval. An empty column is not a number and passes.
 */
export function bounded(name: string, column: AnyPgColumn, least: number, most: number) {
  return check(name, sql`${column} between ${sql.raw(String(least))} and ${sql.raw(String(most))}`);
}

/** No number anywhere in a document is larger; by default than any quantity, moment or count of this trade (ms since 1970 are 1e12). */
export function boundedInside(name: string, column: AnyPgColumn, most = 10_000_000_000_000) {
  const beyond = sql.raw(`'$.** ? (@.type() == "number" && (@ > ${most} || @ < -${most}))'`);
  return check(name, sql`not jsonb_path_exists(${column}, ${beyond})`);
}

/** One of a few words, whoever writes them. An empty column passes. */
export function oneOf(name: string, column: AnyPgColumn, words: readonly string[]) {
  return check(name, sql`${column} in (${sql.raw(words.map((w) => `'${w.replaceAll("'", "''")}'`).join(", "))})`);
}

/** A day or moment that can be: PostgreSQL’s “infinity” is none. An empty column passes. */
export function timely(name: string, column: AnyPgColumn) {
  return check(name, sql`${column} between '1900-01-01' and '2200-01-01'`);
}

interface Ours {
  workshopId: AnyPgColumn;
}

/** A key into a row of the same workshop: nothing points across the wall, whoever writes it. */
export function within(name: string, t: Ours, column: AnyPgColumn, to: Ours & { id: AnyPgColumn }) {
  return foreignKey({ name, columns: [t.workshopId, column], foreignColumns: [to.workshopId, to.id] });
}
