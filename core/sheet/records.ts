import type { Burst } from "../startup";
import type { FaultLeft, WorkLine } from "../work";

/** What was recorded for a task, stored units. */
export type TaskValue =
  | { readonly form: "tick" }
  | { readonly form: "text"; readonly text: string }
  | { readonly form: "choice"; readonly choice: string }
  /** A figure; a strip's step leaves low and high open. */
  | ({
      readonly form: "figure";
      readonly value: number;
      readonly low?: number;
      readonly high?: number;
      /** Read with an instrument: standard and expanded uncertainty. */
      readonly u?: number;
      readonly U?: number;
    } & ReadBy)
  /** A row of a table, by column. */
  | { readonly form: "row"; readonly cells: Readonly<Record<string, Cell>> }
  /** An outcome of a check that helps to find a cause. */
  | { readonly form: "evidence"; readonly check: string; readonly outcome: string }
  /** The shot used as the recipe; a reason where it does not make it by itself. */
  | { readonly form: "accepted"; readonly shot: string; readonly reason: string }
  /** What it supersedes was taken back, with the reason; `of` names a tick or a timer, which have no lines to be superseded. */
  | { readonly form: "struck"; readonly reason: string; readonly of?: string }
  | ({ readonly form: "work" } & WorkLine)
  /** A fault that stays in. */
  | ({ readonly form: "left" } & FaultLeft)
  | { readonly form: "cartridge"; readonly fittedOn: string; readonly dueOn: string; readonly by: "litres" | "date" };

/** What a figure was read with: its id, its name for people, and whether it was out of date. Records of earlier years have the name alone. */
export interface ReadBy {
  readonly instrumentId?: string;
  readonly instrument?: string;
  readonly outOfDate?: boolean;
}

export interface Cell extends ReadBy {
  /** Stored unit; a choice keeps its name in `choice`. */
  readonly value?: number;
  readonly choice?: string;
  readonly u?: number;
}

/** What was read with which instrument in a value: by column of a row, under "" for a figure. Only what names its instrument by id. */
export function instrumentsIn(value: TaskValue): { column: string; instrumentId: string }[] {
  const cells: [string, ReadBy][] =
    value.form === "row" ? Object.entries(value.cells) : value.form === "figure" ? [["", value]] : [];
  return cells.flatMap(([column, { instrumentId }]) => (instrumentId ? [{ column, instrumentId }] : []));
}

/** Where a loop stands, as far as the order of work depends on it. */
export interface LoopRecord {
  /** Readings, moves and repairs that stand (not superseded), in order. */
  readonly events: readonly ("reading" | "move" | "repair")[];
  /** The engine accepts where the knob stands now; read-only loops accept what is read. */
  readonly accepted: boolean;
  /** A fault was taken as the end of adjusting, and nothing was repaired since. */
  readonly faultTaken: boolean;
  /** One of the readings that count now came before the chosen level of warm-up. */
  readonly early: boolean;
  /** A rule of the trade, or a cause that was found, has ended the test. */
  readonly stopped: boolean;
  /** An adjustment is advised now: what it lies behind may be opened for it. */
  readonly turns: boolean;
  /** Another reading is asked for where it stands: what is done next hangs on it. */
  readonly asks: boolean;
  /** The grind was moved after a dose was weighed, which counts no more: another is asked for, or was weighed. Null where it stood. */
  readonly regrind: "asked" | "weighed" | null;
  /** A finer instrument of the kit, where that reading is asked for with it; "" where none is. */
  readonly finer: string;
  /** The newest reading that counts: its value, its set point where it has one, and what a repeat of it would draw anew. */
  readonly last: { readonly value: number; readonly setPoint: number | null; readonly u: number } | null;
}

/** Something timed: a burst, a purge, a level of warm-up. Times in ms. */
export interface TimerRecord extends Burst {
  readonly task: string;
  /** When it is due, at the latest. */
  readonly dueAt: number;
}

/** What has been recorded so far, as far as the order of work depends on it. */
export interface SheetRecords {
  /** Values that stand (not superseded), in order, by task. */
  readonly values: ReadonlyMap<string, readonly TaskValue[]>;
  /** Timers by task, in order. */
  readonly timers: ReadonlyMap<string, readonly TimerRecord[]>;
  /** Stations left out, with the reason. */
  readonly skipped: ReadonlyMap<string, string>;
  /** Condition notes taken. */
  readonly notes: number;
  readonly loops: ReadonlyMap<string, LoopRecord>;
  /** A calibration shot was used as the recipe, and still stands. */
  readonly shotAccepted: boolean;
  /** The newest shot asks for no other grind: only for its button. */
  readonly grindKept: boolean;
  readonly signed: boolean;
}

export const NOTHING_RECORDED: SheetRecords = {
  values: new Map(),
  timers: new Map(),
  skipped: new Map(),
  notes: 0,
  loops: new Map(),
  shotAccepted: false,
  grindKept: false,
  signed: false,
};

export const NOTHING_READ: LoopRecord = {
  events: [],
  accepted: false,
  faultTaken: false,
  early: false,
  stopped: false,
  turns: false,
  asks: false,
  regrind: null,
  finer: "",
  last: null,
};

/** What was recorded of a knob; nothing read where there is none. */
export function loopRecord(records: Pick<SheetRecords, "loops">, loop: string): LoopRecord {
  return records.loops.get(loop) ?? NOTHING_READ;
}

/** Rows of a table that stand, in order. */
export function rowsOf(records: SheetRecords, task: string): Readonly<Record<string, Cell>>[] {
  return (records.values.get(task) ?? []).flatMap((v) => (v.form === "row" ? [v.cells] : []));
}

/** The value that stands for a task now: the newest. */
export function latest(records: SheetRecords, task: string): TaskValue | undefined {
  return records.values.get(task)?.at(-1);
}

/** The answer that stands for a task; undefined while none was chosen. */
export function chosen(records: SheetRecords, task: string): string | undefined {
  const value = latest(records, task);
  return value?.form === "choice" ? value.choice : undefined;
}

/** The figure that stands for a task, stored unit; undefined while none was recorded. */
export function figure(records: SheetRecords, task: string): number | undefined {
  const value = latest(records, task);
  return value?.form === "figure" ? value.value : undefined;
}
