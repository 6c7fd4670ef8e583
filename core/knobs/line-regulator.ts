import { LEVER_PRE_INFUSION, lineRegulatorKnob } from "../pressure";
import { toleranceFor } from "../spec";
import type { KnobModule, Reads } from "./loop";
import { PRESSURE, REGULATOR } from "./shared";
import { COARSE } from "./words";

/** Idle line pressure where neither model nor card says: 3 to 6 bar. Common practice. */
const USUAL_LINE = { lower: 3, upper: 6 };

const LINE_READS: Omit<Reads, "usual"> = {
  quantity: "pressure",
  dimension: "pressure",
  possible: [0, 16],
  never: "no water line holds more than 16 bar",
  moves: "turns",
};

const FAULTS: KnobModule["faults"] = {
  ...COARSE,
  stuck: {
    says: "The line regulator does not respond.",
    checks: [
      "Draw water, then read: idle pressure falls only once some has been drawn.",
      "Dirt on its seat lets pressure creep up.",
    ],
    part: "Line regulator: clean or renew",
  },
  ceiling: {
    says: "The water line gives no more.",
    checks: ["Open the shut-off fully; clear strainer and cartridge.", "Ask for the pressure of the house."],
    part: "Strainer, cartridge",
  },
};

/** The regulator in the water line, by the idle pressure it leaves. */
export const lineRegulator: KnobModule = {
  here({ kind, card, spec }) {
    if (!kind.knobs.includes("line-regulator")) return [];
    const own = card.linePressure;
    return [
      {
        ...PRESSURE,
        title: "Line pressure, idle",
        places: ["line"],
        knob: lineRegulatorKnob(),
        hand: REGULATOR,
        tolerance: own
          ? { lower: own.lowest, upper: own.highest }
          : (toleranceFor(spec, "line-pressure") ?? USUAL_LINE),
        how: ["Draw a little water after each turn: idle pressure falls only once some has been drawn."],
      },
    ];
  },
  reads: { ...LINE_READS, usual: [1, 8] },
  faults: FAULTS,
};

/** A lever has no pump: the line, with the lever held down, makes the pre-infusion. */
export const preInfusion: KnobModule = {
  here({ kind }) {
    if (kind.boiler !== "lever") return [];
    return [
      {
        ...PRESSURE,
        title: "Pre-infusion, lever held down",
        places: ["group"],
        knob: lineRegulatorKnob(),
        hand: REGULATOR,
        tolerance: LEVER_PRE_INFUSION,
        how: [
          "Gauge portafilter in, lever held down, not let go: read what the line gives. Lower the lever back with the hand on it.",
        ],
      },
    ];
  },
  reads: { ...LINE_READS, usual: [0.5, 6] },
  faults: FAULTS,
};
