import { type BasketId, DOSE_SD, amountDialKnob, fitRate, overUnder, stopKnob, timerKnob } from "../grinder";
import type { Hand, KnobHere, KnobModule, LoopQuestion } from "./loop";
import { recipeHere } from "./recipe-here";
import type { Tolerance } from "../metrology";
import { recipeOf } from "../shot";
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
        tolerance: doseHere(question),
        scatter: DOSE_SD,
        settle: 0,
        ...dosed(amountOf(question)),
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
    cold: true,
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
      checks: ["Was it logged the way it was turned? Correct the line if not.", "Was the grind changed in between?"],
      part: "",
    },
    "step-too-coarse": {
      says: "A step of this setting is wider than the tolerance.",
      checks: ["Set the nearer step and correct the rest by spoon."],
      part: "",
    },
  },
  byHand: overUnder,
};

/** A dose under this is one of a single basket, g. Common practice: singles take 7 to 10. */
const SINGLE_BELOW = 12;

/** Which basket a recipe of this dose, g, is for. */
export const basketFor = (dose: number): BasketId => (dose < SINGLE_BELOW ? "single" : "double");

function doseHere(question: LoopQuestion): Tolerance {
  const { dose } = recipeHere(question);
  const { basket = basketFor(dose.target), schools, spec } = question;
  return basket === basketFor(dose.target) ? dose : recipeOf({ schools, spec, basket }).dose;
}

const SAME: Pick<Hand, "fractions" | "sign" | "did"> = { fractions: false, sign: 1, did: "Changed" };

const PURGE = "Purge stale grounds before weighing the first dose.";

const dosed = (here: ReturnType<typeof amountOf>) => ({ ...here, with: { ...here.with, dosed: true } });

/** Which way gives more coffee is the model’s; until somebody has found out, nothing is told to be turned. */
function stopOf({ card, stopThreads, amountStart }: LoopQuestion) {
  const gives = stopThreads ?? card.stopThreads;
  return gives === "more" || gives === "less" ? stopKnob(gives, amountStart) : null;
}

function amountOf(question: LoopQuestion): Pick<KnobHere, "knob" | "hand" | "with" | "how"> {
  const { kind, card, timed, amountStart } = question;
  if (kind.knobs.includes("timer")) {
    const { rate, setting } = timed ?? { rate: fitRate([], card.grindScale), setting: 0 };
    return {
      knob: timerKnob(rate, setting),
      hand: {
        ...SAME,
        act: "Set timer",
        subject: "the timer",
        past: "Timer set",
        unit: { one: "s", many: "s" },
        plus: "longer",
        minus: "shorter",
        most: 20,
      },
      with: { amount: { kind: "seconds", label: "Timer, s", grind: true } },
      how: [
        PURGE,
        "Grams are rate times seconds, and the rate belongs to the grind: time it again after every change of grind.",
      ],
    };
  }
  if (kind.knobs.includes("dose-stop")) {
    const knob = stopOf(question);
    return {
      knob,
      hand: knob && {
        ...SAME,
        act: "Turn dose stop",
        subject: "the dose stop",
        past: "Dose stop turned",
        unit: { one: "thread", many: "threads" },
        plus: "out (more showing)",
        minus: "in (fewer showing)",
        most: 8,
      },
      with: { amount: { kind: "threads", label: "Threads showing", grind: false } },
      how: [
        PURGE,
        "Count the threads that show before the stop is touched. Loosen its set screw first, tighten it after.",
        "Keep the hopper over 2.5 cm of beans.",
      ],
    };
  }
  if (kind.knobs.includes("dose-dial"))
    return {
      knob: amountDialKnob(amountStart),
      hand: {
        ...SAME,
        act: "Turn amount dial",
        subject: "the amount dial",
        past: "Amount dial turned",
        unit: { one: "hour", many: "hours" },
        plus: "later, more coffee",
        minus: "earlier, less coffee",
        most: 8,
      },
      with: { amount: { kind: "clock", label: "Amount dial at", grind: false } },
      how: [
        PURGE,
        "The dial has no numbers: read it as a clock face. Two half doses with a press between make less mess.",
      ],
    };
  return {
    knob: null,
    hand: null,
    with: {},
    how: [PURGE, "Portafilter on the scale, tared, then the coffee. Correct over or under by spoon before tamping."],
  };
}
