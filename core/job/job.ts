import type { Learnt, LoopId } from "../knobs";
import type { DecisionRule, KitInstrument, Place } from "../metrology";
import type { SchoolsOf } from "../school";
import type { Pull } from "../shot";
import type { Carried, Scope, TaskValue } from "../sheet";
import type { SpecLine, Wanted } from "../spec";
import type { WarmLevel } from "../warmup";
import type { SignedDocument } from "./document";
import type { Described, Particulars } from "./particulars";

/** A job as the domain knows it: what was pinned when it began, and what was recorded in it since. Nothing of it knows a database. */
export interface Job {
  readonly id: string;
  /** Counts the writes. */
  readonly revision: number;
  /** Withdrawn: begun by mistake; all of it stays on record. */
  readonly state: "open" | "signed" | "withdrawn";
  /** What the visit is for. */
  readonly scopes: readonly Scope[];
  /** Pinned when it began. */
  readonly particulars: Particulars;
  readonly complaint: string;
  readonly startedAt: Date;
  readonly startedBy: string;
  readonly schools: SchoolsOf;
  /** The level of warm-up that readings are held against. */
  readonly level: WarmLevel;
  readonly rule: DecisionRule;
  /** IANA name: the workshop’s calendar and clock. */
  readonly zone: string;
  /** What knobs of this model and machine had shown when the job began. */
  readonly learnt: Learnt;
  /** What earlier visits left in or put off, as it stood when the job began. */
  readonly carried: readonly Carried[];
  /** Values wanted on this visit, over those of the machine and the spec. */
  readonly wanted: Wanted;
  readonly spec: { readonly name: string; readonly version: number; readonly lines: readonly SpecLine[] } | null;
  readonly machine: JobMachine;
  readonly notes: readonly Note[];
  readonly photos: readonly Photo[];
  /** Tasks ticked, hard stops confirmed. */
  readonly ticks: readonly Tick[];
  readonly entries: readonly Entry[];
  readonly timers: readonly Timer[];
  readonly readings: readonly Reading[];
  readonly moves: readonly Move[];
  readonly repairs: readonly Repair[];
  readonly findings: readonly Finding[];
  readonly shots: readonly ShotRecord[];
  readonly links: readonly OwnerLink[];
  readonly signature: Signature | null;
}

/** The machine a job is on, as the register has it. */
export interface JobMachine {
  readonly id: string;
  readonly serial: string;
  readonly maker: string;
  readonly model: string;
  readonly modelId: string;
  readonly site: string;
  readonly town: string;
  readonly owner: string;
  readonly modifications: string;
  readonly coffee: string;
  /** Doubles a day, about; null where nobody said. */
  readonly shotsPerDay: number | null;
  readonly grinder: string;
  /** What library and register say of it today. */
  readonly described: Described;
  /** Built in. */
  readonly instruments: readonly KitInstrument[];
}

/** What every record has: who, when, and by which command. */
interface Recorded {
  readonly id: string;
  readonly by: string;
  readonly at: Date;
}

interface Correctable extends Recorded {
  /** The record this one replaces; the old one stays. */
  readonly supersedes: string | null;
  readonly reason: string;
}

export interface Tick extends Recorded {
  readonly key: string;
}

/** A condition note. Corrected by a newer one; one without words takes it back. */
export interface Note extends Correctable {
  readonly station: string;
  /** Where on the machine; empty: all of it. */
  readonly area: string;
  readonly text: string;
}

export interface Photo {
  readonly id: string;
  readonly station: string;
  readonly area: string;
  readonly width: number;
  readonly height: number;
}

/** What was recorded for a task. */
export interface Entry extends Omit<Correctable, "reason"> {
  readonly task: string;
  readonly value: TaskValue;
  /** As typed, and the unit it was understood in. */
  readonly typed: string;
  readonly unit: string;
  /** What each column was read with; "" where it is one figure. */
  readonly readBy: readonly { readonly column: string; readonly instrument: KitInstrument }[];
}

export interface Timer extends Recorded {
  readonly task: string;
  readonly label: string;
  readonly dueAt: Date;
  readonly endedAt: Date | null;
  readonly endedBy: string;
  readonly outcome: "done" | "alarm" | null;
}

/** What was seen beside the figure of a reading. */
export interface ReadingDetail {
  /** Blind or with a bleed; a flowing reading is evidence, not a step of the loop. */
  flowing?: boolean;
  /** ml/s of the bleed. */
  bleed?: number;
  /** Ends of a needle’s swing, stored unit. */
  low?: number;
  high?: number;
  /** Where the needle stood on a dial without figures, hours. */
  clock?: number;
  returned?: "seen" | "none";
  /** ml caught in 30 s at the valve’s outlet. */
  returnedMl?: number;
  cutIn?: number;
  setPoint?: number;
  /** s, °C */
  curve?: [number, number][];
  by?: "plateau" | "peak";
  recovery?: number | null;
  /** Waited or restarted since the change. */
  settled?: boolean;
  /** Where the amount of coffee stood: seconds, clock hours, threads. */
  amount?: number;
  /** Where the grind stood. */
  setting?: number;
  /** The isolation tap before the group was closed: OPV and pump alone decide, and it is no figure of what is left. */
  tap?: "closed";
  /** Seconds the button ran. */
  seconds?: number;
  /** Basket dosed into. */
  basket?: "single" | "double";
  /** g after trimming what stood over the rim, where it was weighed again. */
  trimmed?: number;
  /** It is coarse for its tolerance, and this finer instrument lay in the kit when it was read. */
  finer?: string;
  /** Which half of a dose in two. */
  half?: 1 | 2;
}

export interface Reading extends Correctable {
  readonly loop: LoopId;
  readonly sequence: number;
  readonly instrument: KitInstrument;
  /** Where this instrument sat for this reading, bar added for that place, and its standard uncertainty. */
  readonly place: Place;
  readonly toGroup: number;
  readonly toGroupU: number;
  readonly typed: string;
  readonly unit: string;
  /** What the instrument showed, stored unit. */
  readonly indicated: number;
  /** What is judged, corrections applied, stored unit, with the uncertainties of this one reading. */
  readonly value: number;
  readonly u: number;
  readonly uCommon: number;
  readonly instrumentOutOfDate: boolean;
  /** Taken before the chosen level of warm-up. */
  readonly early: boolean;
  readonly detail: ReadingDetail;
}

export interface Move extends Correctable {
  readonly loop: LoopId;
  readonly sequence: number;
  /** In the knob’s unit, signed in the hand’s sense: turns clockwise, notches up, pulses more. */
  readonly amount: number;
}

/** What was renewed or freed of a knob: from there on the machine is a new one to the engine. */
export interface Repair extends Correctable {
  readonly loop: LoopId;
  readonly sequence: number;
  readonly text: string;
}

/** The engine’s fault, taken by the technician as the end of adjusting. */
export interface Finding extends Recorded {
  readonly loop: LoopId;
  /** The engine’s fault, or the stop of a rule of the trade. */
  readonly fault: string;
  readonly text: string;
}

export interface ShotRecord extends Correctable {
  /** Which try of the job; a correction keeps the number of what it corrects. */
  readonly sequence: number;
  readonly pull: Pull;
  readonly typed: Readonly<Record<string, string>>;
  /** Standard uncertainties of dose and yield, g. */
  readonly uDose: number;
  readonly uYield: number;
  readonly early: boolean;
  /** What it was weighed on; null where none of the kit was named. */
  readonly scale: KitInstrument | null;
  readonly scaleOutOfDate: boolean;
  /** Entered after the job was signed. */
  readonly amends: boolean;
}

export interface OwnerLink {
  readonly id: string;
  readonly workshopId: string;
  readonly at: Date;
  readonly tokenHash: string;
  readonly revokedAt: Date | null;
}

export interface Signature {
  readonly name: string;
  readonly at: Date;
  readonly hash: string;
  readonly remark: string;
  readonly document: SignedDocument;
}
