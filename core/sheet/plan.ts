import type { CautionId, MachineKind, ModelCard } from "../kind";
import type { Loop, LoopId } from "../knobs";
import type { SchoolId, SchoolsOf } from "../school";
import type { SpecLine } from "../spec";
import type { WarmLevel } from "../warmup";
import type { SheetRecords } from "./records";
import type { Task } from "./tasks";
import type { Scope } from "./visit";

/** What a sheet is made of: stations in working order, each with its tasks, waits, cautions and what must come before. */

export type StationId =
  | "look-over"
  | "place"
  | "tools"
  | "parts"
  | "water"
  | "filter"
  | "line"
  | "power"
  | "prime"
  | "fill"
  | "rinse"
  | "purge"
  | "heat"
  | "boiler-ready"
  | "warm"
  | "covers"
  | "as-found"
  | "adjust"
  | "as-left"
  | "pre-infusion"
  | "steam"
  | "steam-refit"
  | "temperature"
  | "volumes"
  | "grinder"
  | "shots"
  | "buttons"
  | "milk"
  | "leaks"
  | "release"
  | "refit"
  | "clean"
  | "hand-over"
  | "sign";

export interface HardStop {
  readonly title: string;
  readonly lines: readonly string[];
  readonly confirm: string;
}

export interface Requirement {
  readonly station: StationId;
  readonly because: string;
  /** It has to be so still: done once, and open again because the grind was moved, does not do. */
  readonly lasting?: true;
  /** What does as well. */
  readonly or?: (records: SheetRecords) => boolean;
}

export interface Station {
  readonly id: StationId;
  readonly title: string;
  /** What it will need, told before it is reached. */
  readonly needs: string;
  readonly tasks: readonly Task[];
  readonly cautions: readonly CautionId[];
  /** What must be done, or skipped where that is allowed, before it; only stations of the same sheet count. */
  readonly requires: readonly Requirement[];
  /** Covers the sheet until it is confirmed. */
  readonly hardStop?: HardStop;
  /** Can be left out with a reason that shows on the report. Safety and order of work can't. */
  readonly skippable: boolean;
  /** Choices of the workshop that change its work or its verdicts. */
  readonly schools: readonly SchoolId[];
  /** The knob whose gauge is shown beside it, where none of its own tasks says so; and whether it is still read there. */
  /** What is laid out or looked for there. */
  readonly list?: readonly string[];
  /** A shot may be pulled to see, where none is asked for. */
  readonly triesShots?: boolean;
  /** What this water does is told beside it. */
  readonly tellsScale?: boolean;
  readonly beside?: { readonly loop: LoopId; readonly reads: boolean };
}

/** What a sheet is built from. */
export interface SheetQuestion {
  /** What the visit is for. */
  readonly scopes: readonly Scope[];
  readonly kind: MachineKind;
  readonly card: ModelCard;
  readonly schools: SchoolsOf;
  /** Limits of the pinned spec card. */
  readonly spec: readonly SpecLine[];
  /** The level of warm-up chosen for readings that count. */
  readonly level: WarmLevel;
  /** A valve before the group throttles the flow. */
  readonly flowControl?: boolean;
  /** What earlier visits left in or put off. */
  readonly carried?: readonly Carried[];
  /** The knobs with their readings and limits on this machine. */
  readonly loops: readonly Loop[];
}

/** Left in, or put off, on an earlier visit: it is asked for on the next. */
export interface Carried {
  /** Of the record it stands in. */
  readonly id: string;
  readonly kind: "fault" | "work";
  readonly what: string;
  /** ISO day of that visit. */
  readonly since: string;
  /** All that was said of it. */
  readonly said: string;
}

/** Under this task name it is answered whether it is still there. */
export const carriedTask = (id: string) => `left.${id}`;

/** Answers that settle it: it is carried on no more. */
export const SETTLED = ["gone", "mended", "done", "dropped"] as const;

/** Whether the visit is for this. */
export const has = ({ scopes }: Pick<SheetQuestion, "scopes">, scope: Scope) => scopes.includes(scope);
