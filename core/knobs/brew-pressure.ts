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
import { TURN, TWO } from "./shared";
import { COARSE } from "./words";

export const BREW_PRESSURE_TITLE = "Brew pressure at the group";

/** What a school holds of the valve, as the report says it. */
export const OPV_HELD: Readonly<Record<OpvSchool, string>> = {
  regulate: "the valve regulates what the group sees",
  ceiling: "the valve is a ceiling, the grind makes the pressure",
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
        places: ["group", "pump"],
        knob: spring ? springKnob(card.springs) : screw ? opvKnob(opv, kind) : null,
        hand: spring ? fits(card.springs.length) : screw ? { ...SCREW, sign: raising(opv.raises) } : null,
        tolerance: limits(question),
        needed: TWO,
        scatter: 0,
        with: { brew: true },
        settle: 0,
        trapsPressure: !kind.threeWayValve,
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
      says: "The over-pressure valve does not answer.",
      checks: [
        "Watch the valve’s outlet under pressure: no water while the pressure is high means the valve is stuck shut.",
        "Look for scale on seat and spring; a seized screw turns its slot without moving the spring.",
      ],
      part: "Over-pressure valve: clean or renew",
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
      says: "The over-pressure valve answers the wrong way round.",
      checks: [
        "Check which way the screw was turned, then correct the move in the log.",
        "If it was turned as said, this valve works the other way: set it on the model’s card.",
      ],
      part: "",
    },
    "step-too-coarse": {
      says: "The valve cannot be set finely enough.",
      checks: ["Take a finer step if the knob allows one, or have the tolerance reconsidered."],
      part: "",
    },
    "end-of-travel": {
      says: "The valve has no travel left.",
      checks: ["Check spring and seat: a sound valve reaches its setting inside its travel."],
      part: "Over-pressure valve: spring",
    },
  },
  ends: {
    at: endsTheTest,
    stop: {
      id: "no-return",
      headline: "Stop the pump. No water returns and the pressure is over its limit.",
      means: "The valve is stuck: the test ends here.",
      says: "No water came back while the pressure was over its limit: the over-pressure valve does not open.",
      checks: [
        "Take the valve out and look at seat and spring: scale holds it shut.",
        "Renewed or freed, it is noted below, and read anew.",
      ],
      part: "Over-pressure valve: clean or renew",
    },
  },
  evidence: { pattern: "brew-pressure", of: towardsACause },
};

/** Limits on brew pressure: the spec card's for the school chosen, the trade's where the card has none. */
function limits({ schools, spec }: LoopQuestion) {
  return toleranceFor(spec, schools.opv === "ceiling" ? "opv-ceiling" : "brew-pressure") ?? OPV_TOLERANCE[schools.opv];
}

const SCREW: Omit<Hand, "sign"> = {
  act: "Turn the screw",
  unit: TURN,
  fractions: true,
  plus: "clockwise",
  minus: "anticlockwise",
  most: 4,
  did: "I turned",
};

const fits = (springs: number): Hand => ({
  act: "Fit the spring",
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
      ? ["Close the isolation tap before the group, set the valve against it, open the tap again and read once more."]
      : []),
    ...(kind.pump === "rotary" ? ["Line connected, the other group closed: a rotary pump adds line pressure."] : []),
    ...(spring
      ? [
          `Springs, weakest first: ${card.springs.map((s) => `${s.name} ${s.bar} bar`).join(", ")}. The swap is made cold, off and without pressure.`,
        ]
      : []),
  ];
}

function towardsACause(
  { count, value, u, verdict, returned, flowing }: Seen,
  { tolerance, needed }: { tolerance: { lower?: number | undefined }; needed: { found: number } },
): Evidence[] {
  if (count < needed.found) return [];
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
