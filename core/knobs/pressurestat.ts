import { bandTolerance, cutOutTolerance, pressurestatKnob } from "../boiler";
import { toleranceFor } from "../spec";
import type { Hand, KnobModule } from "./loop";
import { PRESSURE } from "./shared";
import { COARSE } from "./words";

const WHEEL: Hand = {
  act: "Turn pressurestat wheel",
  subject: "the pressurestat",
  past: "Pressurestat wheel turned",
  unit: { one: "notch", many: "notches" },
  fractions: false,
  plus: "up",
  minus: "down",
  most: 12,
  did: "Wheel turned",
  sign: 1,
};

/** Boiler pressure where the element goes off. Set by a controller instead of a wheel it is read only. */
export const pressurestat: KnobModule = {
  here({ kind, card, spec }) {
    const steam = card.steamPressure ?? toleranceFor(spec, "steam-pressure");
    if (!kind.steamGauge || steam?.lower === undefined || steam.upper === undefined) return [];
    const points = { lower: steam.lower, upper: steam.upper };
    const wheel = kind.knobs.includes("pressurestat");
    return [
      {
        ...PRESSURE,
        title: "Boiler pressure at cut-out",
        shows: "At cut-out the gauge shows",
        places: ["boiler"],
        knob: wheel ? pressurestatKnob() : null,
        hand: wheel ? WHEEL : null,
        opens: wheel,
        tolerance: cutOutTolerance(points),
        with: {
          ...(wheel ? { amount: { kind: "notch" as const, label: "Wheel at notch (optional)", grind: false } } : {}),
          band: { limits: bandTolerance(points), off: "The wheel does not change it: the pressurestat is worn." },
        },
        how: [
          "Let it heat up once: read the pressure where the element comes on, and where it goes off.",
          ...(wheel
            ? [
                "The wheel moves both points together. A band out of spec cannot be adjusted: the pressurestat is worn.",
                "The wheel sits beside live terminals: switched off and unplugged before it is touched.",
              ]
            : []),
        ],
      },
    ];
  },
  reads: {
    quantity: "pressure",
    dimension: "pressure",
    possible: [0, 4],
    usual: [0.6, 1.9],
    never: "the safety valve lifts long before",
    moves: "count",
  },
  faults: {
    ...COARSE,
    stuck: {
      says: "The pressurestat does not respond to its wheel.",
      checks: [
        "Look for scale in its pipe: a choked pipe responds late or never.",
        "Contacts welded or the membrane torn: renew it.",
      ],
      part: "Pressurestat renewed",
    },
    reversed: {
      says: "The pressurestat responds the wrong way round.",
      checks: ["Check which way the wheel was turned, then correct the adjustment in the log."],
      part: "",
    },
    "step-too-coarse": {
      says: "The pressurestat cannot be set finely enough.",
      checks: ["Half a notch, if the wheel holds it."],
      part: "Pressurestat",
    },
  },
};
