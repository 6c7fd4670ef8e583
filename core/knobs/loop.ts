import type { FaultKind, Knob } from "../adjust";
import type { Evidence, PatternId } from "../diagnose";
import type { AmountKind, BasketId, GrindRate } from "../grinder";
import type { MachineKind, ModelCard } from "../kind";
import type { InstrumentQuantity, Place, Tolerance, Verdict } from "../metrology";
import type { OpvModel } from "../pressure";
import type { Dimension } from "../quantity";
import type { SchoolsOf } from "../school";
import type { Recipe } from "../shot";
import type { SpecLine, Wanted } from "../spec";
import type { ButtonId } from "../volume";

/** What a knob’s module says: one knob, one reading, one tolerance, and every word of it. */

/** How moves of a knob are spoken of and typed. */
export interface Hand {
  /** "Turn OPV": stands before the amount. */
  readonly act: string;
  /** What is adjusted, as sentences begin with it: "OPV". */
  readonly subject: string;
  /** The two ways as verbs of their own, where the amount has no direction after it: "Raise offset by", "Lower offset by". */
  readonly verbs?: { readonly plus: string; readonly minus: string };
  /** Done, as the log says it: "OPV turned"; with verbs of its own "Offset raised by". */
  readonly past: string | { readonly plus: string; readonly minus: string };
  readonly unit: { readonly one: string; readonly many: string };
  /** Eighths are written as fractions. */
  readonly fractions: boolean;
  /** The two ways of a move, as the hand makes it. */
  readonly plus: string;
  readonly minus: string;
  /** Most in one logged move. */
  readonly most: number;
  /** "I turned": the legend over the entry. */
  readonly did: string;
  /** +1 when the plus way is the knob’s positive one. */
  readonly sign: 1 | -1;
}

/** One knob of this machine, as its module describes it. */
export interface KnobHere {
  /** Which group it belongs to, and which button; left out where there is one for the machine. */
  readonly group?: number;
  readonly button?: ButtonId;
  readonly title: string;
  /** What the entry field is called: "The gauge shows". */
  readonly shows: string;
  /** Dimension of the value judged: an offset’s reading is a difference. */
  readonly judged: Dimension;
  /** Where the gauge may sit; empty where it is read without one. */
  readonly places: readonly Place[];
  /** What the engine turns. Null where it is read only. */
  readonly knob: Knob | null;
  readonly hand: Hand | null;
  readonly tolerance: Tolerance;
  /** By which school it is held, in words; left out where none decides. */
  readonly held?: string;
  /** So many readings after the last change, where their spread is wanted too. Left out: as many as it takes to be sure. */
  readonly verified?: number;
  /** Scatter of the thing read itself from one reading to the next, beyond the instrument’s, stored unit. */
  readonly scatter: number;
  /** What goes with a reading. */
  readonly with: Beside;
  /** Minutes to wait after a move before a reading counts as settled; 0: at once. */
  readonly settle: number;
  /** Something is opened before it is turned. */
  readonly opens?: boolean;
  /** Pressure stays behind the blanked basket: nothing is moved before the gauge reads zero. */
  readonly trapsPressure?: boolean;
  /** How it is worked, sentence by sentence. */
  readonly how: readonly string[];
}

/** What stands beside a reading. */
export interface Beside {
  /** Static or flowing, the swing of a needle, a clock position, returned water. */
  readonly brew?: boolean;
  /** Cut-in beside cut-out, the limits of the band, and what is said of a band outside them. */
  readonly band?: { readonly limits: Required<Tolerance>; readonly off: string };
  /** The set point on the display: the value judged is the reading less this. */
  readonly setPoint?: boolean;
  /** Weighed dose and trimmed dose, the basket, halves of a dose in two. */
  readonly dosed?: boolean;
  /** How long it ran, beside what came. */
  readonly ran?: boolean;
  /** Stored by letting it run and stopping it: what was stored before is of no account. */
  readonly taught?: boolean;
  /** Where the amount of coffee stands set, and whether the grind goes with it. */
  readonly amount?: { readonly kind: AmountKind; readonly label: string; readonly grind: boolean };
}

/** What is typed for a reading: refused outside `possible`, asked about outside `usual`, stored unit. */
export interface Reads {
  readonly quantity: InstrumentQuantity;
  readonly dimension: Dimension;
  readonly possible: readonly [number, number];
  readonly usual: readonly [number, number];
  /** Why nothing above `possible` can be. */
  readonly never: string;
  /** What its amounts are typed in. */
  readonly moves: "turns" | "count";
  /** Read alike on a machine that is not warmed up. */
  readonly cold?: boolean;
  /** What several readings are called where they have a name of their own. */
  readonly called?: string;
}

/** What a fault is called on the report, what to look for, and the line for work and parts; "" where none is needed. */
export interface FaultWords {
  readonly says: string;
  readonly checks: readonly string[];
  readonly part: string;
}

/** The test is over, whatever turning might still promise. */
export interface Stop extends FaultWords {
  readonly id: string;
  readonly headline: string;
  readonly means: string;
  /** How likely it is, in words, where it is not certain: it stands on record with it. */
  readonly chance?: string;
}

/** What readings of a knob showed by themselves. */
export interface Seen {
  readonly value: number;
  readonly u: number;
  readonly verdict: Verdict;
  /** Whether water came back at the valve’s outlet, where somebody looked. */
  readonly returned?: "seen" | "none" | undefined;
  /** Read with water flowing. */
  readonly flowing: { readonly value: number; readonly u: number } | null;
}

/** One knob, whole: adding one is writing this and its line in the registry. */
export interface KnobModule {
  /** The knobs of this kind on a machine: none, one, or one a group and button. */
  here(question: LoopQuestion): readonly KnobHere[];
  readonly reads: Reads;
  /** Faults that have words of their own here; the others are said plainly. */
  readonly faults: Partial<Record<FaultKind, FaultWords>>;
  /** Ends the test by a rule of the trade, not by the engine: null while it may go on. */
  readonly ends?: {
    readonly stop: Stop;
    at(value: number, returned: "seen" | "none" | "not-looked", tolerance: Tolerance): boolean;
  };
  /** What to do by hand about a figure that is not inside. */
  readonly byHand?: (value: number, tolerance: Tolerance) => string | null;
  /** What its readings say towards a cause. */
  readonly evidence?: { readonly pattern: PatternId; of(seen: Seen, here: KnobHere): Evidence[] };
}

/** Response of each knob as this machine and its model have shown it, by key; what is missing starts as the trade does. */
export type Learnt = Readonly<Record<string, LearntKnob | undefined>>;

/** What a knob’s response is taken to be when a job begins, and whom it was learnt from. */
export interface LearntKnob {
  readonly mean: number;
  readonly sd: number;
  /** Machines of the model behind it. */
  readonly machines: number;
  /** Visits to this very machine behind it. */
  readonly own: number;
  /** What the model alone gives: it stands again once the knob was repaired. */
  readonly ofModel?: { readonly mean: number; readonly sd: number };
}

/** g wanted of a button, by its name. */
export type ButtonTargets = Readonly<Partial<Record<ButtonId, number>>>;

/** What decides which knobs a machine has, and their limits. */
export interface LoopQuestion {
  readonly kind: MachineKind;
  readonly card: ModelCard;
  readonly schools: SchoolsOf;
  readonly spec: readonly SpecLine[];
  readonly opv: OpvModel;
  readonly learnt?: Learnt;
  /** Pulses per ml of each group’s meter, once fitted. */
  readonly meters?: readonly ({ readonly K: number; readonly u: number } | null)[];
  /** Dose and yield wanted; by schools and card where the job says nothing of its own. */
  readonly recipe?: Recipe;
  /** g wanted of a button, where it is not the usual share of the recipe. */
  readonly targets?: ButtonTargets;
  /** Values wanted of this machine or on this visit. */
  readonly wanted?: Wanted;
  /** Where the machine’s own brew gauge sits. */
  readonly gaugeSeat?: "none" | "group" | "pump" | "flow";
  /** The basket last dosed into: it picks its own dose where the recipe is for the other one. */
  readonly basket?: BasketId;
  /** Where the amount of coffee stood when it was first weighed: the ends of a dial lie about it. */
  readonly amountStart?: number;
  /** What more threads showing of a dose stop give, where this visit found it out. */
  readonly stopThreads?: "more" | "less";
  /** What a timed grinder has shown, and where its grind stands. */
  readonly timed?: { readonly rate: GrindRate; readonly setting: number };
}

const sized = ({ unit, fractions }: Hand, size: number) =>
  size > 1.001 || (size !== 1 && !fractions) ? unit.many : unit.one;

/**
 * What the hand is told to do, whole: "Turn OPV ⅜ turn clockwise", "Raise offset by 5 °C".
 *
 * @param amount in the hand’s unit, signed
 */
export function moveSentence(hand: Hand, amount: number, format: (size: number) => string): string {
  const { verbs } = hand;
  if (!verbs) return `${hand.act} ${moveWords(hand, amount, format)}`;
  const size = Math.abs(amount);
  return `${amount >= 0 ? verbs.plus : verbs.minus} ${format(size)} ${sized(hand, size)}`;
}

/**
 * What was done, as the log says it: "OPV turned ⅜ turn clockwise", "Offset raised by 5 °C".
 *
 * @param amount in the hand’s unit, signed
 */
export function moveDone(hand: Hand, amount: number, format: (size: number) => string): string {
  const { past } = hand;
  if (typeof past === "string") return `${past} ${moveWords(hand, amount, format)}`;
  const size = Math.abs(amount);
  return `${amount >= 0 ? past.plus : past.minus} ${format(size)} ${sized(hand, size)}`;
}

/**
 * "⅜ turn clockwise", "2 notches up", "12 pulses more", from a signed amount in the hand’s sense.
 *
 * @param amount in the hand’s unit, signed
 */
export function moveWords(hand: Hand, amount: number, format: (size: number) => string): string {
  const size = Math.abs(amount);
  return `${format(size)} ${sized(hand, size)} ${amount >= 0 ? hand.plus : hand.minus}`;
}
