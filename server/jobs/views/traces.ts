import { type LoggerColumnId, guessColumns, numberIn, readTrace, thinned, traceFacts } from "../../../core/logger";
import type { Trace } from "../../../core/shot";
import { formatQuantity, fromBase, unitById } from "../../../core/quantity";
import { type TextTable, headsOf } from "../../table-text";

/** Traces as they are shown, and a logger’s file as it is understood before anything of it is stored. */

/** Lines that are drawn: a chart has no room for more. */
const DRAWN = 300;
/** Lines shown of a file. */
const SHOWN = 5;

export type TraceView = ReturnType<typeof traceView>;

/** @param unit the person’s own of pressure */
export function traceView(trace: Trace, unit: string) {
  const facts = traceFacts(trace);
  const bar = (value: number) => formatQuantity(value, 0.1, unitById(unit));
  const said: readonly (readonly [string, string | null])[] = [
    ["Logged for", `${facts.seconds.toFixed(1)} s`],
    ["Peak pressure", facts.peak === null ? null : bar(facts.peak)],
    ["Pressure while it stood", facts.plateau === null ? null : bar(facts.plateau)],
    ["First drop", facts.firstDrop === null ? null : `${facts.firstDrop.toFixed(1)} s`],
    ["In the cup", facts.cup === null ? null : `${facts.cup.toFixed(1)} g`],
    ["Temperature", facts.temperature === null ? null : `${facts.temperature.toFixed(1)} °C`],
  ];
  const drawn = thinned(trace, DRAWN);
  return {
    unit: unitById(unit).symbol,
    facts: said.flatMap(([name, text]) => (text ? [{ name, text }] : [])),
    trace: drawn.pressure
      ? {
          ...drawn,
          pressure: drawn.pressure.map((p) => (p === null ? null : Number(fromBase(p, unitById(unit)).toFixed(4)))),
        }
      : drawn,
  };
}

export interface Understood {
  readonly heads: readonly string[];
  /** The first lines, as they stand. */
  readonly lines: readonly { readonly line: number; readonly cells: readonly string[] }[];
  readonly plan: readonly (LoggerColumnId | null)[];
  readonly read: ReturnType<typeof readTrace>;
}

/**
 * A logger’s file: its separator and heads guessed, its columns as chosen or guessed.
 *
 * @param chosen by number of column; null: nothing was chosen yet
 */
export function understand({ rows, width }: TextTable, chosen: readonly (LoggerColumnId | null)[] | null): Understood {
  const [first] = rows;
  const headed = first?.cells.some((cell) => Number.isNaN(numberIn(cell))) ?? false;
  const body = headed ? rows.slice(1) : rows;
  const heads = headsOf(width, headed ? first! : null);
  const plan = chosen
    ? heads.map((_, i) => chosen[i] ?? null)
    : headed
      ? guessColumns(heads, body.at(-1)?.cells)
      : heads.map(() => null);
  return { heads, lines: body.slice(0, SHOWN), plan, read: readTrace(body, plan) };
}
