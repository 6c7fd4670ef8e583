import type { Burst } from "../startup";

/** What was recorded for a task, stored units. */
export type TaskValue =
  | { readonly form: "tick" }
  | { readonly form: "text"; readonly text: string }
  | { readonly form: "choice"; readonly choice: string }
  /** A figure; a strip's step leaves low and high open. */
  | { readonly form: "figure"; readonly value: number; readonly low?: number; readonly high?: number }
  | { readonly form: "cartridge"; readonly fittedOn: string; readonly dueOn: string; readonly by: "litres" | "date" };

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
  /** Readings that stand (not superseded) and moves, in order. */
  readonly events: readonly ("reading" | "move")[];
  /** The engine accepts where the knob stands now. */
  readonly accepted: boolean;
  /** A fault was taken as the end of adjusting. */
  readonly faultTaken: boolean;
  readonly signed: boolean;
}

export const NOTHING_RECORDED: SheetRecords = {
  values: new Map(),
  timers: new Map(),
  skipped: new Map(),
  notes: 0,
  events: [],
  accepted: false,
  faultTaken: false,
  signed: false,
};

/** The value that stands for a task now: the newest. */
export function latest(records: SheetRecords, task: string): TaskValue | undefined {
  return records.values.get(task)?.at(-1);
}

export function chosen(records: SheetRecords, task: string): string | undefined {
  const value = latest(records, task);
  return value?.form === "choice" ? value.choice : undefined;
}

export function figure(records: SheetRecords, task: string): number | undefined {
  const value = latest(records, task);
  return value?.form === "figure" ? value.value : undefined;
}
