import type { Tolerance } from "../metrology";
import { BUTTONS, type ButtonId, SHOT_SD, USUAL_METER, buttonTitle, pulseKnob, teachKnob } from "../volume";
import type { Hand, KnobHere, KnobModule, LoopQuestion } from "./loop";
import { recipeHere } from "./recipe-here";
import { COARSE } from "./words";

/** What a dose button puts into the cup: each button of each group is a knob of its own. */
export const button: KnobModule = {
  here(question) {
    const { kind, card } = question;
    if (card.buttons === "none") return [];
    const groups = Array.from({ length: kind.groups }, (_, i) => i + 1);
    return groups.flatMap((group) => BUTTONS.slice(0, card.doseButtons).map((b) => buttonHere(b, group, question)));
  },
  reads: {
    quantity: "mass",
    dimension: "mass",
    possible: [0.5, 500],
    usual: [15, 120],
    never: "no button fills that",
    moves: "count",
    called: "shots",
  },
  faults: {
    ...COARSE,
    stuck: {
      says: "The dose button keeps its old amount.",
      checks: [
        "Was the new programme stored? Some need a long press at the end.",
        "Is the meter counting? See the flow alarm.",
      ],
      part: "Flow meter or keypad",
    },
    reversed: {
      says: "The dose button responds the wrong way round.",
      checks: ["Check which way it was changed, then correct the adjustment in the log."],
      part: "",
    },
    "step-too-coarse": {
      says: "The button cannot be set finely enough.",
      checks: ["Have the tolerance changed, or stop by the scale."],
      part: "",
    },
  },
};

/** Share of the double’s yield that each button is for, before the job says otherwise. Long ones and spare ones from memory. */
const SHARE: Readonly<Record<ButtonId, number>> = {
  double: 1,
  single: 0.5,
  "double-long": 1.5,
  "single-long": 0.75,
  fifth: 1,
  sixth: 0.5,
};

/** A button’s shots against its target: 36 g ± 2. Common practice. */
const MARGIN = 2;

function buttonHere(name: ButtonId, group: number, question: LoopQuestion): KnobHere {
  const { kind, card, meters, targets } = question;
  const pulses = card.programming === "pulses";
  return {
    group,
    button: name,
    title: buttonTitle(name, group, kind.groups),
    shows: "In the cup",
    judged: "mass",
    places: [],
    knob: pulses ? pulseKnob(meters?.[group - 1] ?? USUAL_METER) : teachKnob(),
    hand: pulses ? PULSES : TEACHES,
    tolerance: limits(name, targets?.[name], question),
    verified: 3,
    scatter: SHOT_SD,
    with: {
      ran: true,
      ...(pulses ? {} : { taught: true }),
      ...(pulses ? { amount: { kind: "pulses" as const, label: "Pulses stored (optional)", grind: false } } : {}),
    },
    settle: 0,
    how: ["With coffee, at the final grind and dose: as found first, then three shots of what was stored."],
  };
}

function limits(name: ButtonId, own: number | undefined, question: LoopQuestion): Tolerance {
  const cup = recipeHere(question).yield;
  if (own === undefined && name === "double") return cup;
  const target = own ?? Math.round(2 * SHARE[name] * cup.target) / 2;
  return { lower: target - MARGIN, target, upper: target + MARGIN };
}

const PULSES: Hand = {
  act: "Programme",
  subject: "the button",
  past: "Programmed:",
  unit: { one: "pulse", many: "pulses" },
  fractions: false,
  plus: "more",
  minus: "fewer",
  most: 400,
  did: "Programmed",
  sign: 1,
};

const TEACHES: Hand = {
  act: "Teach it again, stopping",
  subject: "the button",
  past: "Taught, stopping",
  unit: { one: "g", many: "g" },
  fractions: false,
  plus: "later",
  minus: "earlier",
  most: 60,
  did: "Taught, stopping",
  sign: 1,
};
