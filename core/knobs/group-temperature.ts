import { OFFSET_TOLERANCE, SETTLE_MINUTES, offsetKnob } from "../temperature";
import { toleranceFor } from "../spec";
import type { KnobHere, KnobModule, Reads } from "./loop";
import { COARSE } from "./words";

/** Water at the group: against the display where an offset corrects it, against the card where nothing does. */

const READS: Reads = {
  quantity: "temperature",
  dimension: "temperature",
  possible: [20, 130],
  usual: [80, 102],
  never: "no water leaves a group at that temperature",
  moves: "count",
};

/** Where no card says: 88 to 96 °C. Common practice, from memory. */
const USUAL_WATER = { lower: 88, upper: 96 };

/** One plateau scatters by about this, °C. From memory. */
const SCATTER = 0.15;

const FLUSH = {
  shows: "Plateau of the water",
  places: [],
  // One reading as found is enough to begin with: a flush costs minutes of recovery.
  scatter: SCATTER,
} as const satisfies Partial<KnobHere>;

export const offset: KnobModule = {
  here({ card, schools }) {
    if (!card.offset) return [];
    return [
      {
        ...FLUSH,
        title: "Group temperature error",
        judged: "temperatureDifference",
        knob: offsetKnob(card.offset),
        hand: {
          act: "Change offset by",
          subject: "the offset",
          verbs: { plus: "Raise offset by", minus: "Lower offset by" },
          past: { plus: "Offset raised by", minus: "Offset lowered by" },
          unit: { one: "°C", many: "°C" },
          fractions: false,
          plus: "up",
          minus: "down",
          most: 15,
          did: "Offset changed",
          sign: 1,
        },
        tolerance: OFFSET_TOLERANCE[schools.temperatureOffset],
        with: { setPoint: true, amount: { kind: "degrees", label: "Offset in the machine, °C", grind: false } },
        settle: SETTLE_MINUTES,
        how: [
          `A thin probe in the portafilter, water flowing: the plateau counts. ${card.offset.raises ? "A higher offset makes the water hotter." : "On this model a higher offset makes the water cooler."}`,
          "A change needs some minutes, often a restart, before it shows.",
        ],
      },
    ];
  },
  reads: READS,
  faults: {
    ...COARSE,
    stuck: {
      says: "The offset does not respond.",
      checks: [
        "Restart the machine: many take the change only then.",
        "Was it stored? Leave the menu the way the model asks for.",
        "A faulty probe follows no offset: try a second set point.",
      ],
      part: "Temperature probe, after a restart",
    },
    reversed: {
      says: "The offset responds the wrong way round.",
      checks: [
        "Check the sign you set, then correct the adjustment in the log.",
        "If it was set as logged, this model’s sign is the other one: set that in the model data.",
      ],
      part: "",
    },
    "step-too-coarse": {
      says: "One step of the offset is wider than the tolerance.",
      checks: ["Set the nearer step, and tell the owner."],
      part: "",
    },
  },
};

/** Kinds without an offset: the water is read and held against the spec, nothing is turned. */
export const groupTemperature: KnobModule = {
  here({ kind, card, spec }) {
    if (card.offset || kind.groups === 0) return [];
    return [
      {
        ...FLUSH,
        title: "Group temperature",
        judged: "temperature",
        knob: null,
        hand: null,
        tolerance: toleranceFor(spec, "group-temperature") ?? USUAL_WATER,
        with: {},
        settle: 0,
        how: [
          "A thin probe in the portafilter, water flowing: the plateau counts, the peak of a flush too short to have one.",
        ],
      },
    ];
  },
  reads: READS,
  faults: COARSE,
};
