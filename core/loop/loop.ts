import type { Knob } from "../adjust";
import type { AmountKind } from "../grinder";
import type { Tolerance } from "../metrology";
import type { Dimension } from "../quantity";

/** One knob, one reading, one tolerance on this machine: what is turned, what is read, and in which words. */

export const LOOP_IDS = [
  "opv",
  "line-regulator",
  "pressurestat",
  "pre-infusion",
  "offset",
  "temperature",
  "basket",
  "dose-1",
  "dose-2",
  "single-1",
  "single-2",
  "double-long-1",
  "double-long-2",
  "single-long-1",
  "single-long-2",
] as const;
export type LoopId = (typeof LOOP_IDS)[number];

/** Kinds of instrument in the kit, by what they measure. */
export const INSTRUMENT_QUANTITIES = ["pressure", "temperature", "mass", "time", "hardness"] as const;
export type InstrumentQuantity = (typeof INSTRUMENT_QUANTITIES)[number];

/** Places a pressure gauge can sit at. */
export type Place = "group" | "pump" | "boiler" | "line";

/** How moves of a knob are spoken of and typed. */
export interface Hand {
  /** "Turn the screw": stands before the amount. */
  readonly act: string;
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

export interface Loop {
  readonly id: LoopId;
  readonly title: string;
  /** What the entry field is called: "The gauge shows". */
  readonly shows: string;
  /** Dimension of the value judged: an offset’s reading is a difference. */
  readonly judged: Dimension;
  readonly places: readonly Place[];
  /** Null where it is read only. */
  readonly knob: Knob | null;
  readonly hand: Hand | null;
  readonly tolerance: Tolerance;
  /** Readings needed as found and as left. */
  readonly needed: { readonly found: number; readonly left: number };
  /** Scatter of the thing read itself from one reading to the next, beyond the instrument’s. */
  readonly scatter: number;
  /** What goes with a reading. */
  readonly with: {
    /** Static or flowing, the swing of a needle, a clock position, returned water. */
    readonly brew?: boolean;
    /** Cut-in beside cut-out, and the limits of the band. */
    readonly band?: Required<Tolerance>;
    /** The set point on the display: the value judged is the reading less this. */
    readonly setPoint?: boolean;
    /** Where the amount of coffee stands set, and whether the grind goes with it. */
    readonly amount?: { readonly kind: AmountKind; readonly label: string; readonly grind: boolean };
  };
  /** Minutes to wait after a move before a reading counts as settled; 0: at once. */
  readonly settle: number;
  /** How it is worked, sentence by sentence. */
  readonly how: readonly string[];
}

/** "⅜ turn clockwise", "2 notches up", "12 pulses more", from a signed amount in the hand’s sense. */
export function moveWords(hand: Hand, amount: number, format: (size: number) => string): string {
  const size = Math.abs(amount);
  const unit = size > 1.001 || (size !== 1 && !hand.fractions) ? hand.unit.many : hand.unit.one;
  return `${format(size)} ${unit} ${amount >= 0 ? hand.plus : hand.minus}`;
}
