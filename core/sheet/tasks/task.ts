import type { DecisionRule, KitInstrument, Verdict } from "../../metrology";
import type { Loop } from "../../knobs";
import type { SchoolsOf } from "../../school";
import { sayFault, sayWork } from "../../work";
import type { SheetRecords, TaskValue } from "../records";

export { Unfit } from "../../unfit";

/** What every task of a sheet has, whatever its kind. */
export interface TaskBase {
  /** Unique on the sheet and stable: records are kept under it. */
  readonly id: string;
  readonly label: string;
  readonly hint?: string;
  /** The station is done without it. */
  readonly optional?: boolean;
  /** Asked only while this is so. */
  readonly when?: (records: SheetRecords) => boolean;
}

/** One kind of task, whole: when it is done, what it takes, and how what was recorded is said. */
export interface TaskModule<T extends { readonly kind: string }> {
  done(task: T & TaskBase, at: Moment): boolean;
  /** When it is due where it waits by itself, ms; undefined while hands are needed. */
  waits?(task: T & TaskBase, at: Moment): number | undefined;
  /**
   * What was typed, understood. Left out where nothing is typed.
   * @throws Unfit with the field it belongs to
   */
  read?(task: T & TaskBase, typed: Typed): TaskValue;
  /** What was recorded, in words, with its verdict where there are limits. */
  say(task: T & TaskBase, value: TaskValue, about: About): Said;
  /** What to do about what was recorded last; "" when nothing. */
  remedy?(task: T & TaskBase, records: SheetRecords): string;
}

/** The records of a sheet at one moment. */
export interface Moment {
  readonly records: SheetRecords;
  /** ms */
  readonly now: number;
  readonly loops: readonly Loop[];
}

export interface Typed {
  readonly typed: string;
  readonly unit: string;
  /** What is unusual was meant so. */
  readonly sure: boolean;
  /** Of a cartridge: litres it treats, litres a day, months. */
  readonly capacity?: string | undefined;
  readonly perDay?: string | undefined;
  readonly months?: string | undefined;
  /** What it was read with. */
  readonly instrument: KitInstrument | null;
  readonly records: SheetRecords;
  /** ISO day of the workshop. */
  readonly today: string;
}

export interface About {
  readonly schools: SchoolsOf;
  readonly rule: DecisionRule;
  /** As typed. */
  readonly typed: string;
}

export interface Said {
  text: string;
  verdict?: Verdict;
}

/** What is said of a value whose form is not the task’s own: it was recorded before the sheet changed. */
export function sayAny(value: TaskValue): Said {
  switch (value.form) {
    case "tick":
      return { text: "done" };
    case "text":
      return { text: value.text };
    case "choice":
      return { text: value.choice };
    case "figure":
      return { text: String(value.value) };
    case "row":
      return { text: "" };
    case "evidence":
      return { text: `${value.check}: ${value.outcome}` };
    case "accepted":
      return { text: value.reason ? `used as the recipe: ${value.reason}` : "used as the recipe" };
    case "struck":
      return { text: `undone: ${value.reason}` };
    case "work":
      return { text: sayWork(value) };
    case "left":
      return { text: sayFault(value) };
    case "cartridge":
      return { text: `fitted ${value.fittedOn}, next change ${value.dueOn} by ${value.by}` };
  }
}
