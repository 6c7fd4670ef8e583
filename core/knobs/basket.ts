import { DOSE_SD, amountDialKnob, fitRate, overUnder, stopKnob, timerKnob } from "../grinder";
import type { Hand, KnobHere, KnobModule, LoopQuestion } from "./loop";
import { recipeHere } from "./recipe-here";
import { COARSE } from "./words";

/** The dose by the scale. What changes it depends on the kind: a dial, a threaded stop, a timer, or the hand alone. */
export const basket: KnobModule = {
  here(question) {
    if (!question.kind.dosed) return [];
    return [
      {
        title: "Dose in the basket",
        shows: "The scale shows",
        judged: "mass",
        places: [],
        tolerance: recipeHere(question).dose,
        needed: { found: 1, left: 2 },
        scatter: DOSE_SD,
        settle: 0,
        ...amountOf(question),
      },
    ];
  },
  reads: {
    quantity: "mass",
    dimension: "mass",
    possible: [0.5, 60],
    usual: [5, 30],
    never: "no basket holds that",
    moves: "count",
    called: "doses",
  },
  faults: {
    ...COARSE,
    stuck: {
      says: "The dose does not follow its setting.",
      checks: [
        "Beans over 2.5 cm in the hopper, and none bridging over the burrs?",
        "Chute and chamber clear of caked grounds?",
        "Worn burrs or a slipping clutch grind the same whatever is set.",
      ],
      part: "Burrs or chute, after cleaning",
    },
    reversed: {
      says: "More was set and less came, or the other way about.",
      checks: ["Was the way logged as it was turned? Correct the line if not.", "Was the grind changed in between?"],
      part: "",
    },
    "step-too-coarse": {
      says: "A step of this setting is wider than the tolerance.",
      checks: ["Leave it at the nearer step and put the rest right by spoon."],
      part: "",
    },
  },
  byHand: overUnder,
};

const SAME: Pick<Hand, "fractions" | "sign" | "did"> = { fractions: false, sign: 1, did: "Changed" };

const PURGE = "Purge stale grounds before the first one is weighed.";

function amountOf({ kind, card, timed }: LoopQuestion): Pick<KnobHere, "knob" | "hand" | "with" | "how"> {
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
        PURGE,
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
      how: [PURGE, "Count the threads that show before the stop is touched. Keep the hopper over 2.5 cm of beans."],
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
        PURGE,
        "The dial has no figures: read it as a clock face. Two half doses with a press between make less mess.",
      ],
    };
  return {
    knob: null,
    hand: null,
    with: {},
    how: [
      PURGE,
      "Portafilter on the scale, tared, then the coffee. Over or under is put right by spoon before tamping.",
    ],
  };
}
