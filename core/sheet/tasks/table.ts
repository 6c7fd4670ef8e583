import type { InstrumentQuantity, KitInstrument, Place } from "../../metrology";
import { type Dimension, baseUnit, formatQuantity, parseQuantity } from "../../quantity";
import type { AnalysisId } from "../analyse";
import { type Cell, type TaskValue, rowsOf } from "../records";
import type { ChoiceOption } from "./plain";
import { type TaskModule, Unfit, sayAny } from "./task";
import { late, readWith, unitOf } from "./typed";

/** Rows of figures that are worked out together. */
export interface TableTask {
  readonly kind: "table";
  readonly columns: readonly Column[];
  readonly analysis: AnalysisId;
  /** Which group of the machine it is about, where there are several. */
  readonly group?: number;
  /** Rows before the station is done; 0 where the table is for those who want it. */
  readonly least: number;
  /** Comes out cool and pale on a machine that is not warm yet. */
  readonly countsWarm?: boolean;
}

export interface Column {
  readonly name: string;
  readonly label: string;
  readonly optional?: boolean;
  readonly type:
    | {
        readonly kind: "quantity";
        readonly dimension: Dimension;
        readonly possible: readonly [number, number];
        readonly resolution: number;
        /** Read with an instrument of the kit. */
        readonly instrument?: InstrumentQuantity;
        readonly place?: Place;
      }
    | { readonly kind: "count"; readonly possible: readonly [number, number] }
    | { readonly kind: "choice"; readonly options: readonly ChoiceOption[] };
}

export const table: TaskModule<TableTask> = {
  done: (task, { records }) => rowsOf(records, task.id).length >= task.least,
  say(task, value) {
    if (value.form !== "row") return sayAny(value);
    const cells = task.columns.flatMap((column) => {
      const cell = value.cells[column.name];
      return cell ? [`${column.label.toLowerCase()} ${sayCell(column, cell)}`] : [];
    });
    return { text: cells.join(", ") };
  },
};

/** One cell of a row, with its unit. */
export function sayCell({ type }: Column, cell: Cell): string {
  if (type.kind === "choice") return type.options.find((o) => o.value === cell.choice)?.label ?? "";
  if (type.kind === "count") return String(cell.value);
  return formatQuantity(cell.value ?? Number.NaN, type.resolution, baseUnit(type.dimension)) + late(cell);
}

export interface TypedRow {
  /** What was typed, by column. */
  readonly cells: Readonly<Record<string, string>>;
  /** What each column was read with. */
  readonly instruments: ReadonlyMap<string, KitInstrument>;
  readonly pressureUnit: string;
  /** ISO day of the workshop. */
  readonly today: string;
}

/**
 * A row, cell by cell.
 * @throws Unfit with the field `cell.<column>`
 */
export function rowOf(columns: readonly Column[], typed: TypedRow): TaskValue {
  const cells: Record<string, Cell> = {};
  for (const column of columns) {
    const text = (typed.cells[column.name] ?? "").trim();
    const field = `cell.${column.name}`;
    if (!text && column.optional) continue;
    if (!text)
      throw new Unfit(`${column.label}: ${column.type.kind === "choice" ? "choose one" : "nothing is typed"}.`, field);
    cells[column.name] = cellOf(column, text, field, typed);
  }
  if (Object.keys(cells).length === 0) throw new Unfit("Nothing is typed or chosen yet.", `cell.${columns[0]!.name}`);
  return { form: "row", cells };
}

function cellOf(
  { name, label, type }: Column,
  text: string,
  field: string,
  { instruments, pressureUnit, today }: TypedRow,
): Cell {
  if (type.kind === "choice") {
    if (!type.options.some((o) => o.value === text)) throw new Unfit(`${label}: choose one.`, field);
    return { choice: text };
  }
  const [least, most] = type.possible;
  if (type.kind === "count") {
    if (!/^\d+$/.test(text)) throw new Unfit(`${label}: a whole number.`, field);
    const value = Number(text);
    if (value < least || value > most) throw new Unfit(`${label}: from ${least} to ${most}.`, field);
    return { value };
  }
  const parsed = parseQuantity(text, type.dimension, unitOf(type.dimension, pressureUnit));
  if (!parsed.ok) throw new Unfit(parsed.message, field);
  if (parsed.value < least || parsed.value > most)
    throw new Unfit(`${label}: ${formatQuantity(parsed.value, type.resolution, parsed.unit)} can’t be.`, field);
  return asCell(readWith(parsed.value, instruments.get(name) ?? null, type.instrument, today, field));
}

/** A row is worked out as a whole: its cells need no expanded uncertainty of their own. */
const asCell = ({ U: _, ...read }: ReturnType<typeof readWith>): Cell => read;
