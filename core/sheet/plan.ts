import type { PatternId } from "../diagnose";
import type { CautionId, MachineKind, ModelCard } from "../kind";
import type { InstrumentQuantity, Loop, LoopId } from "../loop";
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
  | "pre-infusion"
  | "steam"
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
        /** Read with an instrument of the kit: it names itself and its uncertainty. */
        readonly instrument?: InstrumentQuantity;
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
    /** Readings and moves of one loop, spread over stations of their own: as found, next move, as left. */
    | { readonly kind: "readings"; readonly loop: LoopId; readonly run: "as-found" | "as-left" }
    | { readonly kind: "adjust"; readonly loop: LoopId }
    /** The same, all of it in one station. */
    | { readonly kind: "loop"; readonly loop: LoopId }
    /** Rows of figures that are worked out together. */
    | {
        readonly kind: "table";
        readonly columns: readonly Column[];
        readonly analysis: AnalysisId;
        /** Rows before the station is done; 0 where the table is for those who want it. */
        readonly least: number;
      }
    /** A timed plan to follow, made from what was recorded. */
    | { readonly kind: "plan"; readonly plan: PlanId }
    /** Evidence → causes → the check that tells most. */
    | { readonly kind: "diagnosis"; readonly pattern: PatternId }
    /** Calibration shots, until one is taken as the recipe. */
    | { readonly kind: "shots" }
    | { readonly kind: "sign" }
  );

export type TaskKind = Task["kind"];

/** What a table works out. */
export type AnalysisId =
  | "meter-1"
  | "meter-2"
  | "storage"
  | "kept"
  | "drip"
  | "halves"
  | "light-cycle"
  | "wait"
  | "flush"
  | "second-set-point"
  | "steam-check"
  | "steam-power";

export type PlanId = "light-cycle" | "flush" | "steam";

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
      }
    | { readonly kind: "count"; readonly possible: readonly [number, number] }
    | { readonly kind: "choice"; readonly options: readonly ChoiceOption[] };
}

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
  /** The knobs with their readings and limits on this machine. */
  readonly loops: readonly Loop[];
}
