import { DOSE_SD, amountDialKnob, fitRate, stopKnob, timerKnob } from "../grinder";
import type { Tolerance } from "../metrology";
import { type Recipe, recipeOf } from "../shot";
import { SHOT_SD, USUAL_METER, pulseKnob, teachKnob } from "../volume";
import type { Hand, Loop, LoopId } from "./loop";
import type { LoopQuestion } from "./loops-of";

/** Coffee in the basket, and what the buttons put into the cup. */

/** The recipe of the job, or the one its schools and card make. */
function recipe({ recipe, schools, spec }: LoopQuestion): Recipe {
  return recipe ?? recipeOf({ schools, spec, basket: "double" });
}

/** The dose by the scale. What changes it depends on the kind: a dial, a threaded stop, a timer, or the hand alone. */
export function basketDose(question: LoopQuestion): Loop | null {
  const { kind } = question;
  if (kind.id === "K13") return null;
  return {
    id: "basket",
    title: "Dose in the basket",
    shows: "The scale shows",
    judged: "mass",
    places: [],
    tolerance: recipe(question).dose,
    needed: { found: 1, left: 2 },
    scatter: DOSE_SD,
    settle: 0,
    ...amountOf(question),
  };
}

const SAME: Pick<Hand, "fractions" | "sign" | "did"> = { fractions: false, sign: 1, did: "Changed" };

function amountOf({ kind, card, timed }: LoopQuestion): Pick<Loop, "knob" | "hand" | "with" | "how"> {
  const purge = "Purge stale grounds before the first one is weighed.";
  if (kind.knobs.includes("timer")) {
    const { rate, setting } = timed ?? { rate: fitRate([], card.grindScale), setting: 0 };
    return {
      knob: timerKnob(rate, setting),
      hand: {
        ...SAME,
        act: "Set the timer",
        unit: { one: "s", many: "s" },
        plus: "longer",
        minus: "shorter",
        most: 20,
      },
      with: { amount: { kind: "seconds", label: "Timer, s", grind: true } },
      how: [
        purge,
        "Grams are rate times seconds, and the rate belongs to the grind: time it anew after every change of grind.",
      ],
    };
  }
  if (kind.knobs.includes("dose-stop"))
    return {
      knob: stopKnob(),
      hand: {
        ...SAME,
        act: "Turn the stop",
        unit: { one: "thread", many: "threads" },
        plus: "out, more coffee",
        minus: "in, less coffee",
        most: 8,
      },
      with: { amount: { kind: "threads", label: "Threads showing", grind: false } },
      how: [purge, "Count the threads that show before the stop is touched. Keep the hopper over 2.5 cm of beans."],
    };
  if (kind.knobs.includes("dose-dial"))
    return {
      knob: amountDialKnob(),
      hand: {
        ...SAME,
        act: "Turn the amount dial",
        unit: { one: "hour", many: "hours" },
        plus: "later, more coffee",
        minus: "earlier, less coffee",
        most: 8,
      },
      with: { amount: { kind: "clock", label: "The amount dial points to", grind: false } },
      how: [
        purge,
        "The dial has no figures: read it as a clock face. Two half doses with a press between make less mess.",
      ],
    };
  return {
    knob: null,
    hand: null,
    with: {},
    how: [
      purge,
      "Portafilter on the scale, tared, then the coffee. Over or under is put right by spoon before tamping.",
    ],
  };
}

export const BUTTONS = ["double", "single", "double-long", "single-long"] as const;
export type ButtonId = (typeof BUTTONS)[number];

export const BUTTON_WORDS: Readonly<Record<ButtonId, string>> = {
  double: "Double button",
  single: "Single button",
  "double-long": "Long double button",
  "single-long": "Long single button",
};

/** Share of the double’s yield that each button is for, before the job says otherwise. Long ones from memory. */
const SHARE: Readonly<Record<ButtonId, number>> = { double: 1, single: 0.5, "double-long": 1.5, "single-long": 0.75 };

/** A button’s shots against its target: 36 g ± 2. Common practice. */
const BUTTON_MARGIN = 2;

const loopIdOf = (button: ButtonId, group: number) => `${button === "double" ? "dose" : button}-${group}` as LoopId;

/** Which button of which group a loop belongs to; null for loops that are no button. */
export function buttonOf(loop: LoopId): { button: ButtonId; group: number } | null {
  const parts = /^(dose|single|double-long|single-long)-([12])$/.exec(loop);
  return parts && { button: (parts[1] === "dose" ? "double" : parts[1]) as ButtonId, group: Number(parts[2]) };
}

/** What a button is called, on a machine of one group or more. */
export function buttonTitle(button: ButtonId, group: number, groups: number): string {
  return `${BUTTON_WORDS[button]}${groups > 1 ? `, group ${group}` : ""}`;
}

export function buttons(question: LoopQuestion): Loop[] {
  const { kind, card, meters, targets } = question;
  if (card.buttons === "none") return [];
  const cup = recipe(question).yield;
  const tolerance = (button: ButtonId, own: number | undefined): Tolerance => {
    if (own === undefined && button === "double") return cup;
    const target = own ?? Math.round(2 * SHARE[button] * cup.target) / 2;
    return { lower: target - BUTTON_MARGIN, target, upper: target + BUTTON_MARGIN };
  };
  return Array.from({ length: kind.groups }, (_, i) => i + 1).flatMap((group) =>
    BUTTONS.slice(0, card.doseButtons).map((button): Loop => {
      const id = loopIdOf(button, group);
      const pulses = card.programming === "pulses";
      return {
        id,
        title: buttonTitle(button, group, kind.groups),
        shows: "In the cup",
        judged: "mass",
        places: [],
        knob: pulses ? pulseKnob(meters?.[group - 1] ?? USUAL_METER) : teachKnob(),
        hand: pulses ? PULSES : TEACHES,
        tolerance: tolerance(button, targets?.[id]),
        needed: { found: 1, left: 3 },
        scatter: SHOT_SD,
        with: {},
        settle: 0,
        how: ["With coffee, at the final grind and dose. As found first; then three shots of what was stored."],
      };
    }),
  );
}

const PULSES: Hand = {
  act: "Programme",
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
  unit: { one: "g", many: "g" },
  fractions: false,
  plus: "later",
  minus: "earlier",
  most: 60,
  did: "Taught, stopping",
  sign: 1,
};
