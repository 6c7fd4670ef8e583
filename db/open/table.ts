/** What an open table says of itself: the same for SQL, CSV, the interface for programs, and the page that explains it. */

/**
 * - `id`: a UUID
 * - `word`: one of a few words of the product, or its own shape: never a formula
 * - `text`: whatever people write
 * - `day`: ISO 8601 day; `moment`: ISO 8601 in UTC
 */
export type ColumnType = "id" | "word" | "text" | "number" | "count" | "yes" | "day" | "moment";

export interface OpenColumn {
  /** Its name everywhere; ends with its unit where it has one that never changes: `dose_g`. */
  readonly name: string;
  readonly type: ColumnType;
  /** Where it comes from, as SQL over the table’s `from`. */
  readonly sql: string;
  readonly meaning: string;
  readonly example: string;
  /** It may be empty. */
  readonly empty: boolean;
}

export interface OpenTable {
  /** Of the view in schema `records`: one row of it. */
  readonly name: string;
  /** Of the file and the address: all of them. */
  readonly plural: string;
  readonly about: string;
  readonly from: string;
  /** Names of columns that tell its rows apart, in the order of an index behind them. */
  readonly key: readonly string[];
  /** Which machine a row is of, as SQL; null: of the workshop. */
  readonly machine: string | null;
  readonly columns: readonly OpenColumn[];
}

type Row = readonly [name: string, type: ColumnType | `${ColumnType}?`, sql: string, meaning: string, example: string];

/** Columns as they are written down: a question mark after the type says that it may be empty. */
export function columns(...rows: readonly Row[]): OpenColumn[] {
  return rows.map(([name, type, sql, meaning, example]) => ({
    name,
    type: type.replace("?", "") as ColumnType,
    sql,
    meaning,
    example,
    empty: type.endsWith("?"),
  }));
}
