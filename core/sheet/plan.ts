import type { CautionId, MachineKind, ModelCard } from "../kind";
import type { Tolerance } from "../metrology";
import type { Dimension } from "../quantity";
import type { SchoolsOf } from "../school";
import type { SpecLine } from "../spec";
import type { BurstRule } from "../startup";
import type { WarmLevel } from "../warmup";
import type { SheetRecords } from "./records";

/** What a sheet is made of: stations in working order, each with its tasks, waits, cautions and what must come before. */

export type JobType = "install" | "service" | "handover" | "check";

export const JOB_TYPES: Readonly<Record<JobType, { title: string; about: string }>> = {
  install: { title: "Install", about: "from boxes to a hot machine in spec, the owner taught" },
  service: { title: "Service", about: "as found, work and parts, as left" },
  handover: { title: "Handover", about: "demonstration, buttons and the owner’s card" },
  check: { title: "Pressure check", about: "brew pressure only: as found, set, as left" },
};

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
  | "steam"
  | "temperature"
  | "volumes"
  | "grinder"
  | "shots"
  | "milk"
  | "leaks"
  | "release"
  | "refit"
  | "clean"
  | "hand-over"
  | "sign";

interface TaskBase {
  /** Unique on the sheet and stable: records are kept under it. */
  readonly id: string;
  readonly label: string;
  readonly hint?: string;
  /** The station is done without it. */
  readonly optional?: boolean;
  /** Asked only while this is so. */
  readonly when?: (records: SheetRecords) => boolean;
}

export interface ChoiceOption {
  readonly value: string;
  readonly label: string;
}

export type Task = TaskBase &
  (
    | { readonly kind: "tick" }
    | { readonly kind: "text"; readonly many?: boolean }
    | { readonly kind: "choice"; readonly options: readonly ChoiceOption[] }
    | {
        readonly kind: "figure";
        readonly dimension: Dimension;
        /** Outside is refused as impossible, stored unit. */
        readonly possible: readonly [number, number];
        /** Outside is asked about. */
        readonly usual: readonly [number, number];
        readonly tolerance?: Tolerance;
        /** The station is not done until it lies inside; what to do on either side. */
        readonly mustHold?: { readonly below: string; readonly above: string };
        /** Digits shown. */
        readonly resolution: number;
      }
    | { readonly kind: "hardness" }
    | { readonly kind: "purge" }
    | { readonly kind: "cartridge" }
    | { readonly kind: "bursts"; readonly rule: BurstRule; readonly running: string; readonly ended: string }
    | { readonly kind: "timer"; readonly seconds: number }
    /** Switching on: starts the clocks of the warm-up levels named. */
    | { readonly kind: "heat"; readonly levels: readonly WarmLevel[] }
    | { readonly kind: "warm"; readonly level: WarmLevel }
    | { readonly kind: "condition" }
    | { readonly kind: "readings"; readonly run: "as-found" | "as-left" }
    | { readonly kind: "adjust" }
    | { readonly kind: "sign" }
  );

export type TaskKind = Task["kind"];

export interface HardStop {
  readonly title: string;
  readonly lines: readonly string[];
  readonly confirm: string;
}

export interface Requirement {
  readonly station: StationId;
  readonly because: string;
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
}

/** What a sheet is built from. */
export interface SheetQuestion {
  readonly type: JobType;
  readonly kind: MachineKind;
  readonly card: ModelCard;
  readonly schools: SchoolsOf;
  /** Limits of the pinned spec card. */
  readonly spec: readonly SpecLine[];
  /** The level of warm-up chosen for readings that count. */
  readonly level: WarmLevel;
}
