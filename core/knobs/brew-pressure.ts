import type { Evidence } from "../diagnose";
import {
  BREW_PRESSURE_RANGE,
  OPV_TOLERANCE,
  type OpvSchool,
  endsTheTest,
  flowingTest,
  opvKnob,
  pressureCheck,
  raising,
  springKnob,
} from "../pressure";
import { toleranceFor } from "../spec";
import type { Hand, KnobModule, LoopQuestion, Seen } from "./loop";
import { TURN } from "./shared";
import { COARSE, LOOK_FIRST } from "./words";

export const BREW_PRESSURE_TITLE = "Brew pressure at the group";

/** What a school holds of the valve, as the report says it. */
export const OPV_HELD: Readonly<Record<OpvSchool, string>> = {
  regulate: "OPV regulates what the group sees",
  ceiling: "OPV is a ceiling, the grind makes the pressure",
};

/** Brew pressure at the group: the over-pressure valve by its screw or its springs, or read only. */
export const brewPressure: KnobModule = {
  here(question) {
    const { kind, card, opv } = question;
    const check = pressureCheck(kind);
    if (check === "not-applicable") return [];
    const spring = kind.opv === "spring" && card.springs.length > 1;
    const screw = check === "adjustable";
    return [
      {
        title: BREW_PRESSURE_TITLE,
        held: OPV_HELD[question.schools.opv],
        shows: "The gauge shows",
        judged: "pressure",
        places: question.gaugeSeat === "flow" ? ["group", "pump", "flow"] : ["group", "pump"],
        knob: spring ? springKnob(card.springs) : screw ? opvKnob(opv, kind) : null,
        hand: spring ? fits(card.springs.length) : screw ? { ...SCREW, sign: raising(opv.raises) } : null,
        tolerance: limits(question),
        scatter: 0,
        with: {
          brew: true,
          ...(spring
            ? { amount: { kind: "spring" as const, label: "Spring fitted, 1 is the softest", grind: false } }
            : {}),
        },
        settle: 0,
        trapsPressure: !kind.threeWayValve,
        opens: spring || kind.opv === "inside" || kind.opv === "isolation-tap",
        how: howTo(question, spring),
      },
    ];
  },
  reads: {
    quantity: "pressure",
    dimension: "pressure",
    possible: BREW_PRESSURE_RANGE.hard,
    usual: BREW_PRESSURE_RANGE.usual,
    never: `no brew circuit holds more than ${BREW_PRESSURE_RANGE.hard[1]} bar`,
    moves: "turns",
  },
  faults: {
    ...COARSE,
    stuck: {
      says: "The OPV does not respond.",
      checks: [
        "Blind basket in, pump on: watch the OPV’s return. No water while the pressure is high: the OPV is stuck shut.",
        "Look for scale on seat and spring. A seized screw can turn without moving the spring.",
      ],
      part: "OPV: clean or renew",
    },
    ceiling: {
      says: "The pump does not reach the pressure.",
      checks: [
        "Measure the free flow without a basket: low flow as well points to the pump, its inlet or scale.",
        "Check strainer, supply tap and hoses for a starved inlet.",
      ],
      part: "Pump: renew, after inlet and scale are ruled out",
    },
    reversed: {
      says: "The OPV responds the wrong way round.",
      checks: [
        "Check which way the OPV was turned, then correct the adjustment in the log.",
        "If it was turned as logged, this OPV works the other way: set that in the model data.",
      ],
      part: "",
    },
    "step-too-coarse": {
      says: "The OPV cannot be set finely enough.",
      checks: ["Try a smaller step if the screw holds it, or have the tolerance changed."],
      part: "",
    },
    "look-first": LOOK_FIRST([
      "Too low: water in the tank, supply tap and inlet open? Anything that throttles before the group fully open? Measure the free flow.",
      "Too high: blind basket in, pump on, watch the OPV’s return. No water: it is stuck shut, or set over what the pump gives.",
    ]),
    "end-of-travel": {
      says: "The OPV has no travel left.",
      checks: ["Check spring and seat: an OPV that is OK reaches its setting within its travel."],
      part: "OPV: spring",
    },
  },
  ends: {
    at: endsTheTest,
    stop: {
      id: "no-return",
      headline: "Stop the pump. No water returns, and the pressure is over its limit.",
      means: "The OPV is stuck shut: the test ends here.",
      says: "No water came back while the pressure was over its limit: the OPV does not open.",
      checks: [
        "Take the OPV out and look at seat and spring: scale holds it shut.",
        "Renewed or freed: save that below, then read again.",
      ],
      part: "OPV: clean or renew",
    },
  },
  evidence: { pattern: "brew-pressure", of: towardsACause },
};

/** Limits on brew pressure: the spec card's for the school chosen, the trade's where the card has none. */
function limits({ schools, spec }: LoopQuestion) {
  return toleranceFor(spec, schools.opv === "ceiling" ? "opv-ceiling" : "brew-pressure") ?? OPV_TOLERANCE[schools.opv];
}

const SCREW: Omit<Hand, "sign"> = {
  act: "Turn OPV",
  subject: "OPV",
  past: "OPV turned",
  unit: TURN,
  fractions: true,
  plus: "clockwise",
  minus: "anticlockwise",
  most: 4,
  did: "Turned",
};

const fits = (springs: number): Hand => ({
  act: "Fit a spring",
  subject: "the spring",
  past: "Spring fitted:",
  unit: { one: "step", many: "steps" },
  fractions: false,
  plus: "stiffer",
  minus: "softer",
  most: springs - 1,
  did: "Spring fitted",
  sign: 1,
});

function howTo({ kind, card }: LoopQuestion, spring: boolean): string[] {
  return [
    ...(kind.opv === "isolation-tap"
      ? ["Close the isolation tap before the group, set the OPV against it, open the tap again and read once more."]
      : []),
    ...(kind.pump === "rotary" ? ["Line connected, the other group closed: a rotary pump adds line pressure."] : []),
    ...(spring
      ? [
          `Springs, weakest first: ${card.springs.map((s) => `${s.name} ${s.bar} bar`).join(", ")}. Swap it cold, switched off and without pressure.`,
        ]
      : []),
  ];
}

function towardsACause(
  { value, u, verdict, returned, flowing }: Seen,
  { tolerance }: { tolerance: { lower?: number | undefined } },
): Evidence[] {
  const evidence: Evidence[] = [];
  if (verdict === "off")
    evidence.push({ check: "static", outcome: value < (tolerance.lower ?? -Infinity) ? "low" : "high" });
  if (verdict === "holds") evidence.push({ check: "static", outcome: "inside" });
  if (returned) evidence.push({ check: "return", outcome: returned === "none" ? "none" : "some" });
  if (flowing) {
    const test = flowingTest({ static: value, flowing: flowing.value, u: Math.hypot(flowing.u, u) / Math.SQRT2 });
    if (test.verdict === "sags") evidence.push({ check: "flowing", outcome: "sags" });
    if (test.verdict === "holds under flow") evidence.push({ check: "flowing", outcome: "holds" });
  }
  return evidence;
}
