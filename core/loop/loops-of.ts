import { bandTolerance, cutOutTolerance, pressurestatKnob } from "../boiler";
import type { Knob } from "../adjust";
import type { MachineKind, ModelCard } from "../kind";
import type { Tolerance } from "../metrology";
import {
  LEVER_PRE_INFUSION,
  type OpvModel,
  lineRegulatorKnob,
  opvKnob,
  pressureCheck,
  raising,
  springKnob,
} from "../pressure";
import type { GrindRate } from "../grinder";
import type { SchoolsOf } from "../school";
import type { Recipe } from "../shot";
import { type SpecLine, toleranceFor } from "../spec";
import { OFFSET_TOLERANCE, SETTLE_MINUTES, offsetKnob } from "../temperature";
import { basketDose, buttons } from "./coffee-loops";
import type { Hand, Loop, LoopId } from "./loop";

/** Response of a knob as this machine and its model have shown it; what is missing starts as the trade does. */
export type Learnt = Partial<Record<LoopId, { readonly mean: number; readonly sd: number }>>;

export interface LoopQuestion {
  readonly kind: MachineKind;
  readonly card: ModelCard;
  readonly schools: SchoolsOf;
  readonly spec: readonly SpecLine[];
  readonly opv: OpvModel;
  /** Limits of brew pressure, pinned when the job began. */
  readonly brew: Tolerance;
  readonly learnt?: Learnt;
  /** Pulses per ml of each group’s meter, once fitted. */
  readonly meters?: readonly ({ readonly K: number; readonly u: number } | null)[];
  /** Dose and yield wanted; by schools and card where the job says nothing of its own. */
  readonly recipe?: Recipe;
  /** g wanted of a button, where it is not the usual share of the recipe. */
  readonly targets?: Partial<Record<LoopId, number>>;
  /** What a timed grinder has shown, and where its grind stands. */
  readonly timed?: { readonly rate: GrindRate; readonly setting: number };
}

const TURN = { one: "turn", many: "turns" };
const TWO = { found: 2, left: 2 };

/** The loops that a kind of machine has, by its model card and the schools chosen. */
export function loopsOf(question: LoopQuestion): Loop[] {
  return [
    brew(question),
    regulator(question),
    preInfusion(question),
    boiler(question),
    offset(question),
    groupTemperature(question),
    basketDose(question),
    ...buttons(question),
  ]
    .filter((loop) => loop !== null)
    .map((loop) => ({ ...loop, knob: loop.knob && taught(loop, question.learnt?.[loop.id]) }));
}

function taught({ knob, with: { amount } }: Loop, response: { mean: number; sd: number } | undefined): Knob | null {
  // A timer’s rate belongs to the grind it was weighed at: what earlier jobs had says nothing of this one.
  if (!knob || !response || amount?.kind === "seconds") return knob;
  return { ...knob, response: { mean: response.mean, sd: response.sd } };
}

function brew({ kind, card, opv, brew: tolerance }: LoopQuestion): Loop | null {
  const check = pressureCheck(kind);
  if (check === "not-applicable") return null;
  const spring = kind.opv === "spring" && card.springs.length > 1;
  const hand: Hand = spring
    ? {
        act: "Fit the spring",
        unit: { one: "step", many: "steps" },
        fractions: false,
        plus: "stiffer",
        minus: "softer",
        most: card.springs.length - 1,
        did: "Spring fitted",
        sign: 1,
      }
    : {
        act: "Turn the screw",
        unit: TURN,
        fractions: true,
        plus: "clockwise",
        minus: "anticlockwise",
        most: 4,
        did: "I turned",
        sign: raising(opv.raises),
      };
  const screw = check === "adjustable";
  return {
    id: "opv",
    title: "Brew pressure at the group",
    shows: "The gauge shows",
    judged: "pressure",
    places: ["group", "pump"],
    knob: spring ? springKnob(card.springs) : screw ? opvKnob(opv, kind) : null,
    hand: spring || screw ? hand : null,
    tolerance,
    needed: TWO,
    scatter: 0,
    with: { brew: true },
    settle: 0,
    how: [
      ...(kind.opv === "isolation-tap"
        ? ["Close the isolation tap before the group, set the valve against it, open the tap again and read once more."]
        : []),
      ...(kind.pump === "rotary" ? ["Line connected, the other group closed: a rotary pump adds line pressure."] : []),
      ...(spring
        ? [
            `Springs, weakest first: ${card.springs.map((s) => `${s.name} ${s.bar} bar`).join(", ")}. The swap is made cold, off and without pressure.`,
          ]
        : []),
    ],
  };
}

function regulator({ kind, card, spec }: LoopQuestion): Loop | null {
  if (!kind.knobs.includes("line-regulator")) return null;
  const own = card.linePressure;
  return {
    ...PRESSURE,
    id: "line-regulator",
    title: "Line pressure, idle",
    places: ["line"],
    knob: lineRegulatorKnob(),
    hand: {
      act: "Turn the regulator",
      unit: TURN,
      fractions: true,
      plus: "clockwise",
      minus: "anticlockwise",
      most: 6,
      did: "I turned",
      sign: 1,
    },
    tolerance: own
      ? { lower: own.lowest, upper: own.highest }
      : (toleranceFor(spec, "line-pressure") ?? { lower: 3, upper: 6 }),
    how: ["Draw a little water after each turn: idle pressure falls only once some has been drawn."],
  };
}

const PRESSURE = {
  shows: "The gauge shows",
  judged: "pressure",
  needed: TWO,
  scatter: 0,
  with: {},
  settle: 0,
} as const;

/** A lever has no pump: the line, with the lever held down, makes the pre-infusion. */
function preInfusion({ kind }: LoopQuestion): Loop | null {
  if (kind.boiler !== "lever") return null;
  return {
    ...PRESSURE,
    id: "pre-infusion",
    title: "Pre-infusion, lever held down",
    places: ["group"],
    knob: lineRegulatorKnob(),
    hand: {
      act: "Turn the regulator",
      unit: TURN,
      fractions: true,
      plus: "clockwise",
      minus: "anticlockwise",
      most: 6,
      did: "I turned",
      sign: 1,
    },
    tolerance: LEVER_PRE_INFUSION,
    how: [
      "Gauge portafilter in, lever held down, not let go: read what the line gives. Lower the lever back with the hand on it.",
    ],
  };
}

const HOW_WHEEL = [
  "The wheel moves both points together. A band out of its limits is no matter of turning: the pressurestat is worn.",
  "The wheel sits beside live terminals: switched off and unplugged before it is touched.",
];

const WHEEL: Hand = {
  act: "Turn the wheel",
  unit: { one: "notch", many: "notches" },
  fractions: false,
  plus: "up",
  minus: "down",
  most: 12,
  did: "Wheel turned",
  sign: 1,
};

function boiler({ kind, card, spec }: LoopQuestion): Loop | null {
  const steam = card.steamPressure ?? toleranceFor(spec, "steam-pressure");
  if (!kind.steamGauge || steam?.lower === undefined || steam.upper === undefined) return null;
  const points = { lower: steam.lower, upper: steam.upper };
  // Set by a controller, not by a wheel: read only.
  const wheel = kind.knobs.includes("pressurestat");
  return {
    ...PRESSURE,
    id: "pressurestat",
    title: "Boiler pressure at cut-out",
    shows: "At cut-out the gauge shows",
    places: ["boiler"],
    knob: wheel ? pressurestatKnob() : null,
    hand: wheel ? WHEEL : null,
    tolerance: cutOutTolerance(points),
    with: { band: bandTolerance(points) },
    how: [
      "Let it heat once through: note the pressure where the element comes on, and where it goes off.",
      ...(wheel ? HOW_WHEEL : []),
    ],
  };
}

/** Kinds without an offset: the water is read and held against the card, nothing is turned. */
function groupTemperature({ kind, card, spec }: LoopQuestion): Loop | null {
  if (card.offset || kind.groups === 0) return null;
  return {
    id: "temperature",
    title: "Water at the group",
    shows: "Plateau of the water",
    judged: "temperature",
    places: [],
    knob: null,
    hand: null,
    tolerance: toleranceFor(spec, "group-temperature") ?? { lower: 88, upper: 96 },
    needed: { found: 1, left: 1 },
    scatter: 0.15,
    with: {},
    settle: 0,
    how: [
      "A thin probe in the portafilter, water flowing: the plateau counts, the peak of a flush too short to have one.",
    ],
  };
}

function offset({ card, schools }: LoopQuestion): Loop | null {
  if (!card.offset) return null;
  return {
    id: "offset",
    title: "Water at the group, less the display",
    shows: "Plateau of the water",
    judged: "temperatureDifference",
    places: [],
    knob: offsetKnob(card.offset),
    hand: {
      act: "Change the offset by",
      unit: { one: "°C", many: "°C" },
      fractions: false,
      plus: "up",
      minus: "down",
      most: 15,
      did: "Offset changed",
      sign: 1,
    },
    tolerance: OFFSET_TOLERANCE[schools.temperatureOffset],
    // One reading as found is enough to begin with: a flush costs minutes of recovery.
    needed: { found: 1, left: 1 },
    scatter: 0.15,
    with: { setPoint: true },
    settle: SETTLE_MINUTES,
    how: [
      `A thin probe in the portafilter, water flowing: the plateau counts. ${card.offset.raises ? "A higher offset makes the water hotter." : "On this model a higher offset makes the water cooler."}`,
      "A change needs some minutes, often a restart, before it shows.",
    ],
  };
}
