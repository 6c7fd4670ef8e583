import { unitById } from "../quantity";
import type { Trace } from "../shot";

/** What a column of a logger’s file can be, with the unit it is written in. */

export type Field = keyof Trace;

export interface LoggerColumn {
  readonly field: Field;
  readonly title: string;
  /** Stored unit for one of the file’s */
  readonly factor: number;
  /** Stored unit for 0 of the file’s */
  readonly shift: number;
}

/** In a unit that people type in too, or one that only loggers write: so many of the stored one. */
function column(field: Field, title: string, unit: string | number): LoggerColumn {
  const { factor, shift } = typeof unit === "number" ? { factor: unit, shift: 0 } : unitById(unit);
  return { field, title, factor, shift };
}

/** By the name it goes by in a form. */
export const LOGGER_COLUMNS = {
  "time.s": column("time", "Time, s", 1),
  "time.ms": column("time", "Time, ms", 1e-3),
  "pressure.bar": column("pressure", "Pressure, bar", "bar"),
  "pressure.psi": column("pressure", "Pressure, psi", "psi"),
  "pressure.kPa": column("pressure", "Pressure, kPa", "kPa"),
  "flow.ml": column("flow", "Flow, ml/s or g/s", 1),
  "weight.g": column("weight", "Weight, g", "g"),
  "weight.oz": column("weight", "Weight, oz", "oz"),
  "temperature.C": column("temperature", "Temperature, °C", "C"),
  "temperature.F": column("temperature", "Temperature, °F", "F"),
} as const satisfies Record<string, LoggerColumn>;

export type LoggerColumnId = keyof typeof LOGGER_COLUMNS;
export const LOGGER_COLUMN_IDS = Object.keys(LOGGER_COLUMNS) as LoggerColumnId[];

/** Which column each of a file’s is; null: it is passed over. */
export type LoggerPlan = readonly (LoggerColumnId | null)[];

const HEADS: readonly [RegExp, Field][] = [
  [/^t$|time|elapsed|second|zeit|sek|tempo\b|tiempo/, "time"],
  [/press|druck|bar\b|psi|kpa|^p$|presi[óo]n/, "pressure"],
  [/flow|fluss|durchfluss|ml\/s|g\/s|portata|caudal/, "flow"],
  [/weight|mass|gewicht|yield|scale|\bg\b|grams?|peso/, "weight"],
  [/temp|°c|°f|celsius|fahrenheit/, "temperature"],
];

/** The unit that a head says; the stored one where it says none. */
const UNITS: Readonly<Record<Field, readonly [RegExp, LoggerColumnId][]>> = {
  time: [
    [/\bms\b|milli/, "time.ms"],
    [/./, "time.s"],
  ],
  pressure: [
    [/psi/, "pressure.psi"],
    [/kpa/, "pressure.kPa"],
    [/./, "pressure.bar"],
  ],
  flow: [[/./, "flow.ml"]],
  weight: [
    [/\boz\b|ounce/, "weight.oz"],
    [/./, "weight.g"],
  ],
  temperature: [
    [/°\s*f|\bf\b|fahrenheit/, "temperature.F"],
    [/./, "temperature.C"],
  ],
};

/** Longest that a shot is logged, s: what counts further is in thousandths. Our choice. */
const LONGEST_SECONDS = 600;

/**
 * What the columns of a file most likely are, by their heads; each thing once, the first that fits.
 *
 * @param heads of the columns, as they stand
 * @param last the last row of the file: seconds that go on for hours are thousandths
 * @example guessColumns(["Elapsed (ms)", "Pressure", "Puck"], ["27400", "8.9", "-"]) // ["time.ms", "pressure.bar", null]
 */
export function guessColumns(heads: readonly string[], last: readonly string[] = []): LoggerPlan {
  const seen = new Set<Field>();
  return heads.map((head, i) => {
    const text = head.toLowerCase().replaceAll("_", " ").trim();
    // A setting that was wanted is no reading.
    if (/target|goal|set ?point|\bset\b|soll/.test(text)) return null;
    // “Flow (ml/s)” has seconds in it, and is none.
    const found = HEADS.find(([is, field]) =>
      is.test(field === "time" ? text.replace(/\/\s*s(ec\w*)?\b/, "") : text),
    )?.[1];
    const field = found === "weight" && /flow|g\/s/.test(text) ? "flow" : found;
    if (!field || seen.has(field)) return null;
    seen.add(field);
    const id = UNITS[field].find(([is]) => is.test(text))![1];
    return id === "time.s" && (numberIn(last[i] ?? "") ?? 0) > LONGEST_SECONDS ? "time.ms" : id;
  });
}

/**
 * The number in a cell, with a decimal point or comma.
 *
 * @returns null where there is none; NaN where there is something else
 */
export function numberIn(cell: string): number | null {
  const text = cell.trim();
  if (/^(-|–|—|na|n\/a|nan|null|none)?$/i.test(text)) return null;
  return /^[-+]?(\d+([.,]\d*)?|[.,]\d+)(e[-+]?\d+)?$/i.test(text) ? Number(text.replace(",", ".")) : Number.NaN;
}
