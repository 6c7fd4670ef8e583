import type { Tolerance } from "../metrology";

/**
 * A knob: whatever is turned, shifted or retyped to move a reading. Amounts are in the knob's own unit and signed;
 * readings are in the stored unit of the quantity.
 */
export interface Knob {
  /** How it is spoken of: "valve", "offset", "dose button". */
  readonly name: string;
  /** Unit of amounts, e.g. "turn". */
  readonly unit: string;
  /** Smallest amount it can be moved by, > 0. Every move proposed is a whole number of steps. */
  readonly step: number;
  /** +1 if a positive amount raises the reading, −1 if it lowers it. */
  readonly direction: 1 | -1;
  /** Size of the response per unit before this machine has shown its own: mean > 0 and standard deviation > 0. */
  readonly response: { readonly mean: number; readonly sd: number };
  /** Largest amount in one move, in the unit. Default: no limit of its own. */
  readonly largestMove?: number;
  /** A reading that no move upwards may be able to pass, however well the knob responds. Default: none. */
  readonly safe?: number;
  /** Travel still there, measured from where the knob stood at the first reading, e.g. { lowest: -2, highest: 2 }. */
  readonly travel?: { readonly lowest: number; readonly highest: number };
  /** Travel there is in all, wherever it began: the places stood on lie no further apart. Default: no limit of its own. */
  readonly width?: number;
  /** Lost motion when the direction is reversed: somewhere between 0 and this. Default 0. */
  readonly backlash?: number;
  /** Probability that the first reading after a move still shows the old value. Default 0.01. */
  readonly staleProbability?: number;
  /** Standard deviation that a move adds for reasons of its own (thread play, spring seat), in reading units. Default 0. */
  readonly scatter?: number;
  /**
   * Prior probabilities of what can be wrong with the machine. Each knob gives its own: rough figures from memory, kept small, because
   * readings overrule them in two or three moves.
   */
  readonly faults?: FaultPriors;
}

export interface FaultPriors {
  /** The knob does nothing. Default 0.05. */
  readonly stuck?: number;
  /** The reading can't rise over a ceiling below or inside the tolerance (worn pump). Default 0: only where it can happen. */
  readonly ceiling?: number;
  /** The knob works the other way than said. Default 0.01. */
  readonly reversed?: number;
}

export interface ReadingEvent {
  readonly kind: "reading";
  /** Corrected value. */
  readonly value: number;
  /** Standard uncertainty of this reading that a repeat would draw anew, > 0. */
  readonly u: number;
  /** Standard uncertainty that all readings of this series share (instrument, place). Default 0. */
  readonly uCommon?: number;
  /** Which instrument, where several are used: what its readings share they do not share with those of another. Default: told by uCommon. */
  readonly instrument?: string;
  /** True when somebody has waited or restarted, so that it can hardly be a stale value. */
  readonly settled?: boolean;
}

export interface MoveEvent {
  readonly kind: "move";
  /** Signed amount in the knob's unit. */
  readonly amount: number;
}

export type AdjustEvent = ReadingEvent | MoveEvent;

export type FaultKind =
  | "stuck" // the knob does nothing
  | "ceiling" // the reading stops rising below the tolerance
  | "reversed" // it answers the wrong way
  | "step-too-coarse" // one step jumps over the tolerance
  | "gauge-too-coarse" // the instrument cannot decide, however often it is read
  | "end-of-travel" // the knob has no way left
  | "look-first"; // no move is likely to help: there is something to look at before anything is turned

export interface Cause {
  readonly kind: FaultKind;
  readonly probability: number;
}

/** A reading that still showed the value from before a move, or is a slip. */
export interface Doubted {
  /** Which reading: 0 for the first of the log. */
  readonly reading: number;
  readonly as: "old" | "slip";
  /** So sure that it is set aside; else likelier than not. */
  readonly surely: boolean;
}

/** What is believed now, all in reading units unless said. */
export interface Belief {
  /** Present true value (settled), mean and standard deviation, shared instrument uncertainty included. */
  readonly value: number;
  readonly sd: number;
  readonly pInside: number;
  /** Reading per knob unit, if the knob works: size, sd, and how many moves taught it. */
  readonly response: { readonly mean: number; readonly sd: number; readonly moves: number };
  readonly pStuck: number;
  readonly pCeilingBelow: number;
  readonly pReversed: number;
  /** Probability that the last reading still shows the value from before the move. */
  readonly pStale: number;
  /** Probability that the last reading is a slip (misread, needle stuck, wrong unit). */
  readonly pSlip: number;
  /** How much each instrument that was read shows too much, by all the others: mean and standard deviation. */
  readonly biases: ReadonlyMap<string, { readonly mean: number; readonly sd: number }>;
  /** Readings that by all that came after them likely do not show what was there. */
  readonly doubted: readonly Doubted[];
}

/** What a move is expected to give. */
export interface Expected {
  readonly value: number;
  /** Standard deviation of the true value after the move. */
  readonly sd: number;
  readonly pInside: number;
}

export type RecheckReason =
  | "no-reading"
  | "moved-not-read"
  | "unsettled"
  | "before-fault"
  | "contradiction"
  /** Of those here one likely is old or a slip: another tells which. */
  | "disagree"
  | "not-sure-yet"
  /** A finer instrument lies in the kit, and nothing is opened before it was read. */
  | "finer-first"
  /** Set against a closed tap as well as its gauge tells: the group’s reading decides. */
  | "open-tap"
  /** In spec by all that is known, and not yet by what was read since the last move alone. */
  | "for-the-record";

export type Action =
  | { kind: "move"; amount: number; expected: Expected }
  | { kind: "recheck"; reason: Exclude<RecheckReason, "moved-not-read"> }
  /** Turned and not read since: what was expected of that still is. */
  | { kind: "recheck"; reason: "moved-not-read"; expected: Expected }
  | { kind: "accept" }
  | { kind: "fault"; fault: FaultKind; causes: Cause[] };

export interface Advice {
  action: Action;
  belief: Belief | null;
}

export interface AdjustQuestion {
  knob: Knob;
  tolerance: Tolerance;
  events: readonly AdjustEvent[];
  /** All was read coarsely, and an instrument that tells more lies in the kit: it is asked for before anything is opened, or where it may be right already. */
  finer?: boolean;
  /** Something is opened before the first move: one reading, which may be a slip of the eye, opens nothing. */
  opens?: boolean;
  options?: AdjustOptions;
}

export interface AdjustOptions {
  /** Accept when the probability inside is at least this. Default 0.95. */
  readonly accept?: number;
  /** Call a fault when its probability is at least this. Default 0.95. */
  readonly fault?: number;
}
