import type { Trace } from "../shot";
import { type Field, LOGGER_COLUMNS, type LoggerPlan, numberIn } from "./columns";

/** A logger’s rows, understood as its plan has them. */

export interface LoggerRow {
  /** Of the file, counted from 1 */
  readonly line: number;
  readonly cells: readonly string[];
}

export type ReadTrace = { readonly ok: true; readonly trace: Trace } | { readonly ok: false; readonly message: string };

/** Lines of a trace: as few as make one, and a shot of ten minutes at 30 a second. Our choice. */
export const LEAST_LINES = 5;
export const MOST_LINES = 20_000;
/** s; a shot is over by then. Our choice. */
const LONGEST = 600;

/** Stored unit: beyond these it is no reading of a shot, and its unit is another. Our bounds: wider than any machine’s. */
const POSSIBLE: Readonly<Record<Field, readonly [number, number]>> = {
  time: [-LONGEST, 1e9],
  pressure: [-1.5, 30],
  flow: [-20, 60],
  weight: [-1000, 3000],
  temperature: [-10, 200],
};

const TITLES: Readonly<Record<Field, string>> = {
  time: "time",
  pressure: "pressure",
  flow: "flow",
  weight: "weight",
  temperature: "temperature",
};

/** Digits kept of a stored value: a millionth of the unit is finer than any logger. */
const kept = (value: number) => Number(value.toFixed(6));

/**
 * The trace in a logger’s rows. Time begins at its first line; a line at the same time as the one before it is passed over, as loggers write some
 * twice; an empty cell is no reading.
 *
 * @param rows without the heads
 * @param plan one for each column
 * @returns the first thing that is wrong, with its line, and what mends it
 */
export function readTrace(rows: readonly LoggerRow[], plan: LoggerPlan): ReadTrace {
  const wrong = (message: string): ReadTrace => ({ ok: false, message });
  const columns = plan.flatMap((id, at) => (id ? [{ ...LOGGER_COLUMNS[id], at }] : []));
  const twice = columns.find((c, i) => columns.findIndex((d) => d.field === c.field) !== i);
  if (twice) return wrong(`Two columns are ${TITLES[twice.field]}. Choose one, and nothing for the other.`);
  const time = columns.find((c) => c.field === "time");
  if (!time) return wrong("Say which column is the time.");
  const others = columns.filter((c) => c !== time);
  if (others.length === 0) return wrong("Say what is logged: one column beside the time at least.");
  const times: number[] = [];
  const values = others.map(() => [] as (number | null)[]);
  for (const row of rows) {
    const cells: { value: number | null; field: Field; at: number }[] = [];
    for (const c of columns) {
      const text = row.cells[c.at] ?? "";
      const raw = numberIn(text);
      if (Number.isNaN(raw)) return wrong(`Line ${row.line}: “${text.slice(0, 24)}” is no ${TITLES[c.field]}.`);
      const value = raw === null ? null : kept(raw * c.factor + c.shift);
      const [least, most] = POSSIBLE[c.field];
      if (value !== null && (value < least || value > most))
        return wrong(`Line ${row.line}: ${text.trim()} can’t be a ${TITLES[c.field]} of a shot. Check its unit.`);
      cells.push({ value, field: c.field, at: c.at });
    }
    const now = cells.find((c) => c.field === "time")!.value;
    if (now === null) return wrong(`Line ${row.line}: there is no time.`);
    const before = times.at(-1);
    if (before !== undefined && now === before) continue;
    if (before !== undefined && now < before)
      return wrong(`Line ${row.line}: the time goes back. Leave one shot in the file.`);
    times.push(now);
    others.forEach((c, i) => values[i]!.push(cells.find((cell) => cell.at === c.at)!.value));
    if (times.length > MOST_LINES) return wrong(`More than ${MOST_LINES} lines: leave one shot in the file.`);
  }
  if (times.length < LEAST_LINES) return wrong(`A trace needs ${LEAST_LINES} lines at least.`);
  const start = times[0]!;
  if (times.at(-1)! - start > LONGEST)
    return wrong(
      `It goes on for ${Math.round(times.at(-1)! - start)} s. Check the unit of the time, or leave one shot in the file.`,
    );
  const silent = others.find((_, i) => values[i]!.every((v) => v === null));
  if (silent) return wrong(`There is no number in the column of the ${TITLES[silent.field]}.`);
  return {
    ok: true,
    trace: {
      time: times.map((t) => kept(t - start)),
      ...Object.fromEntries(others.map((c, i) => [c.field, values[i]!])),
    },
  };
}
