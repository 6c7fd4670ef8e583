import { baseUnit, foldUnit, unitsOf } from "../quantity";
import { type DayOrder, possibleOrders } from "./day";
import { TARGETS, guessTarget } from "./targets";

/** How a file is to be understood, column by column. */

export const ENCODINGS = ["utf-8", "utf-16le", "utf-16be", "windows-1252"] as const;
export type Encoding = (typeof ENCODINGS)[number];
export const SEPARATORS = [",", ";", "\t", "|"] as const;
export type Separator = (typeof SEPARATORS)[number];
export const DECIMALS = ["point", "comma"] as const;
export type Decimals = (typeof DECIMALS)[number];

/** Columns of a file beyond these are left out. Our choice: more than a sheet of visits has. */
export const MOST_COLUMNS = 40;

/** A column that is nothing, or is kept as words in the note. */
export const NOT_TAKEN = "";
export const TO_NOTE = "to-note";

export interface ColumnPlan {
  readonly head: string;
  /** A name of {@link TARGETS}, {@link TO_NOTE} or {@link NOT_TAKEN}. */
  readonly target: string;
  /** Unit of bare numbers; "" where the target has none. */
  readonly unit: string;
}

export interface Plan {
  readonly encoding: Encoding;
  readonly separator: Separator;
  readonly headed: boolean;
  readonly decimals: Decimals;
  /** null: somebody has to say. */
  readonly dayOrder: DayOrder | null;
  readonly columns: readonly ColumnPlan[];
  /** Serials as they stand in the file, and the machines they mean. */
  readonly serials: Readonly<Record<string, string>>;
}

/** The unit that a head names, of a dimension; its stored one where it names none. */
function unitOfHead(head: string, target: string): string {
  const of = TARGETS[target];
  if (of?.form !== "figure") return "";
  const named = /[([]([^()[\]]+)[)\]]|\b(in)\s+(\S+)$/i.exec(head);
  const words = [named?.[1], named?.[3], ...head.split(/[\s,()[\]]+/)].filter((w): w is string => !!w).map(foldUnit);
  const found = words.map((w) => unitsOf(of.dimension).find((u) => u.spellings.includes(w))).find(Boolean);
  return (found ?? baseUnit(of.dimension)).id;
}

/**
 * Guesses the plan of a file from its first rows: shown to whoever brings it, never taken for granted.
 *
 * @param rows with the head row, if there is one
 * @param today ISO day
 */
export function guessPlan(
  rows: readonly (readonly string[])[],
  form: Pick<Plan, "encoding" | "separator">,
  today: string,
): Plan {
  const headed = hasHeads(rows);
  const heads = headed ? (rows[0] ?? []) : [];
  const body = headed ? rows.slice(1) : rows;
  const width = Math.min(MOST_COLUMNS, Math.max(0, ...rows.map((r) => r.length)));
  const taken = new Set<string>();
  const columns = Array.from({ length: width }, (_, i): ColumnPlan => {
    const head = heads[i]?.trim() ?? "";
    const guess = guessTarget(head);
    // One column is one thing: a second like it is left to whoever knows.
    const target = guess && !taken.has(guess) ? guess : head ? TO_NOTE : NOT_TAKEN;
    if (guess) taken.add(guess);
    return { head, target, unit: unitOfHead(head, target) };
  });
  const days = columns.findIndex((c) => c.target === "day");
  const orders = days < 0 ? [] : possibleOrders(columnOf(body, days), today);
  return {
    ...form,
    headed,
    decimals: guessDecimals(body),
    dayOrder: orders.length === 1 ? orders[0]! : null,
    columns,
    serials: {},
  };
}

/** One column of some rows; a row that is too short has nothing there. */
export const columnOf = (rows: readonly (readonly string[])[], i: number): string[] => rows.map((r) => r[i] ?? "");

/** The first row is heads where it has no number and no day in it, and a later one has. */
function hasHeads(rows: readonly (readonly string[])[]): boolean {
  const numbers = (row: readonly string[] | undefined) =>
    row?.filter((c) => /\d/.test(c) && !/[a-z]{3}/i.test(c)).length ?? 0;
  return rows.length > 0 && numbers(rows[0]) === 0 && (rows.length === 1 || rows.slice(1).some((r) => numbers(r) > 0));
}

/** A comma between digits that no point stands beside, more often than a point that no comma does. */
function guessDecimals(rows: readonly (readonly string[])[]): Decimals {
  let comma = 0;
  for (const cell of rows.flat()) {
    if (/^-?\d+,\d{1,2}(\s|$|[^\d,])/.test(cell)) comma += 1;
    else if (/^-?\d+\.\d{1,2}(\s|$|[^\d.])/.test(cell)) comma -= 1;
  }
  return comma > 0 ? "comma" : "point";
}
