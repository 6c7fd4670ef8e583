import type { KnobAt } from "../knobs";
import type { InstrumentQuantity, Tolerance, Verdict } from "../metrology";
import type { Dimension } from "../quantity";
import type { WorkLine } from "../work";
import type { MethodId } from "./methods";

/** What a signature freezes: all that was read and done, as one document. Earlier versions are lifted to this one by `readDocument`. */

export interface SignedDocument {
  version: 4;
  job: string;
  /** The usual visit it was, or "visit". */
  visit: string;
  /** What it was for; empty where that was not kept. */
  scopes: string[];
  workshop: string;
  /** IANA name: in which zone its days and hours are told. */
  timeZone: string;
  machine: { maker: string; model: string; serial: string; site: string; town: string };
  complaint: string;
  condition: string[];
  rule: "simple" | "guarded";
  /** Every knob that was read or worked, brew pressure among them. */
  results: SignedResult[];
  /** What was recorded at each station, in words, and what was left out and why. */
  steps: SignedStep[];
  shots: SignedShot[];
  instruments: SignedInstrument[];
  /** How the figures were come by, as results and instruments name it. */
  methods: { id: string; text: string }[];
  /** Schools that decided a verdict. */
  schools: { question: string; choice: string }[];
  spec: { name: string; version: number } | null;
  /** What its owner leaves alone on a machine like this; documents of earlier versions have no list of their own. */
  leave?: string[];
  /** Lines of work, and faults that stay in; not in documents of earlier versions, which have them among the steps. */
  work?: SignedWork[];
  left?: SignedFault[];
  /** What its owner takes away; not in documents of earlier versions. */
  card?: SignedCard;
  /** When it is serviced next at the latest; not after a visit that was no service, nor in documents of earlier versions. */
  nextService?: NextService;
  /** Marked out of use: what is unsafe, a sentence each. Left out where nothing is. */
  outOfUse?: string[];
  /** What was unsafe and signed all the same, by whom and why. */
  exception?: { by: string; why: string; of: string[] };
  remark: string;
  technician: string;
  startedAt: string;
  signedAt: string;
}

/** One knob: as found, as left, and what was done between. */
export interface SignedResult extends KnobAt {
  title: string;
  /** Dimension of its figures. */
  judged: Dimension;
  tolerance: Tolerance;
  /** By which school it is held; "" where none decides. */
  held: string;
  /** Null where nothing was read. */
  asFound: SignedPoint | null;
  asLeft: SignedPoint | null;
  /** Adjustments in words. */
  moves: string[];
  /** What stood in the machine before and after, absolutely, where it was read: an offset, a spring, seconds of a timer. */
  set?: { from: string; to: string; note?: string };
  /** What was renewed or freed. */
  repairs: string[];
  /** Readings that are no part of a figure, and why; left out where there are none. */
  aside?: string[];
  finding: string | null;
}

/** One figure with all that stands behind it. */
export interface SignedPoint {
  value: number;
  /** Standard uncertainty, effective degrees of freedom (null: taken as known), coverage factor, expanded uncertainty for 95 %. */
  u: number;
  dof: number | null;
  k: number;
  U: number;
  resolution: number;
  pInside: number;
  verdict: Verdict;
  readings: number[];
  /** How many of them came before the chosen level of warm-up; null where that was not kept for each figure. */
  early: number | null;
  /** Ids of what it was read with; null where that was not kept for each figure. */
  instruments: string[] | null;
  method: MethodId | null;
}

/** A line of work as it was signed, and in words. */
export interface SignedWork extends WorkLine {
  readonly said: string;
}

/** The owner’s card, as it stood when it was signed. */
export interface SignedCard {
  /** Holds for that coffee, that grinder and that dose. */
  readonly recipe: {
    readonly coffee: string;
    readonly grinder: string;
    readonly grind: number;
    /** g */
    readonly dose: number;
    readonly yield: number | null;
    readonly seconds: number;
    readonly said: string;
  } | null;
  readonly routine: readonly { readonly when: string; readonly what: string }[];
  readonly normal: readonly string[];
  /** What its owner was shown, or did alone; what was not shown is not here. Not in cards of earlier versions. */
  readonly shown?: readonly { readonly what: string; readonly tried: boolean }[];
  /** Accessories as they were found, and as they were given; "" where nobody counted. */
  readonly found: string;
  readonly given: string;
  readonly dates: readonly { readonly what: string; readonly on: string; readonly why: string }[];
}

export interface SignedFault {
  readonly what: string;
  readonly said: string;
  /** Found on this visit, there before and looked for, or there before and not looked for. */
  readonly since: "now" | "still" | "earlier";
}

/** When a machine is serviced next. */
export interface NextService {
  /** ISO day, at the latest */
  on: string;
  why: string;
  /** ISO days between which a setting will likely leave its limits, where that sets the day; open at the end: not within years. */
  from?: string;
  to?: string;
}

export interface SignedStep {
  title: string;
  lines: { label: string; text: string; verdict?: string }[];
  /** Why it was left out. */
  skipped?: string;
}

export interface SignedShot {
  number: number;
  at: string;
  /** In words. */
  said: string;
  grind: number;
  dose: number;
  yield: number | null;
  seconds: number;
  /** Standard uncertainties of dose and yield, g. */
  uDose: number;
  uYield: number;
  verdict: string;
  early: boolean;
  /** Id of the scale; null where none was named. */
  scale: string | null;
  /** Taken as the recipe. */
  taken: boolean;
}

export interface SignedInstrument {
  /** Null in documents of earlier versions, which have the name alone. */
  id: string | null;
  name: string;
  quantity: InstrumentQuantity | null;
  calibratedOn: string | null;
  /** Its calibration was out of date when it was used. */
  outOfDate: boolean;
  /** What was read with it. */
  readFor: string[];
}
