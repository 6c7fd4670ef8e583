import type { Hand, KnobHere } from "./loop";

/** What several knobs have in common. */

export const TURN: Hand["unit"] = { one: "turn", many: "turns" };

/** A steady pressure read off a gauge. */
export const PRESSURE = {
  shows: "The gauge shows",
  judged: "pressure",
  scatter: 0,
  with: {},
  settle: 0,
} as const satisfies Partial<KnobHere>;

/** The regulator in the water line, as the hand turns it. */
export const REGULATOR: Hand = {
  act: "Turn line regulator",
  subject: "the line regulator",
  past: "Line regulator turned",
  unit: TURN,
  fractions: true,
  plus: "clockwise",
  minus: "anticlockwise",
  most: 6,
  did: "Turned",
  sign: 1,
};
