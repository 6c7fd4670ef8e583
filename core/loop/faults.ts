import type { FaultKind } from "../adjust";
import type { LoopId } from "./loop";

/** What a fault of a loop is called on the report, what to look for, and the line for work and parts. Common practice in the trade. */
export interface FaultWords {
  readonly says: string;
  readonly checks: readonly string[];
  readonly part: string;
}

type Words = Partial<Record<FaultKind, FaultWords>>;

const COARSE: Words = {
  "gauge-too-coarse": {
    says: "The instrument at hand could not decide.",
    checks: ["Take one with a smaller limit of error, or one with a calibration certificate."],
    part: "Finer instrument needed",
  },
};

const GRINDER: Words = {
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
    part: "None",
  },
  "step-too-coarse": {
    says: "A step of this setting is wider than the tolerance.",
    checks: ["Leave it at the nearer step and put the rest right by spoon."],
    part: "None",
  },
};

const VALVE: Words = {
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
    part: "None",
  },
  "step-too-coarse": {
    says: "The valve cannot be set finely enough.",
    checks: ["Take a finer step if the knob allows one, or have the tolerance reconsidered."],
    part: "None",
  },
  "end-of-travel": {
    says: "The valve has no travel left.",
    checks: ["Check spring and seat: a sound valve reaches its setting inside its travel."],
    part: "Over-pressure valve: spring",
  },
};

const REGULATOR: Words = {
  ...COARSE,
  stuck: {
    says: "The line regulator does not answer.",
    checks: [
      "Draw water, then read: idle pressure falls only once some has been drawn.",
      "Dirt on its seat lets pressure creep up.",
    ],
    part: "Line regulator: clean or renew",
  },
  ceiling: {
    says: "The line gives no more.",
    checks: ["Open the shut-off fully; clear strainer and cartridge.", "Ask for the pressure of the house."],
    part: "Strainer, cartridge",
  },
};

const DOSE: Words = {
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
    says: "The dose button answers the wrong way round.",
    checks: ["Check which way it was changed, then correct the move in the log."],
    part: "None",
  },
  "step-too-coarse": {
    says: "The button cannot be set finely enough.",
    checks: ["Have the tolerance reconsidered."],
    part: "None",
  },
};

const FAULTS: Record<LoopId, Words> = {
  opv: VALVE,
  "line-regulator": REGULATOR,
  "pre-infusion": REGULATOR,
  pressurestat: {
    ...COARSE,
    stuck: {
      says: "The pressurestat does not answer its wheel.",
      checks: [
        "Look for scale in its pipe: a choked pipe answers late or never.",
        "Contacts welded or the membrane torn: renew it.",
      ],
      part: "Pressurestat renewed",
    },
    reversed: {
      says: "The pressurestat answers the wrong way round.",
      checks: ["Check which way the wheel was turned, then correct the move in the log."],
      part: "None",
    },
    "step-too-coarse": {
      says: "The pressurestat cannot be set finely enough.",
      checks: ["Half a notch, if the wheel holds it."],
      part: "Pressurestat",
    },
  },
  offset: {
    ...COARSE,
    stuck: {
      says: "The offset changes nothing.",
      checks: [
        "Restart the machine: many take the change only then.",
        "Was it stored? Leave the menu the way the model asks for.",
        "A faulty probe follows no offset: try a second set point.",
      ],
      part: "Temperature probe, after a restart",
    },
    reversed: {
      says: "The offset works the other way round.",
      checks: [
        "Check the sign you set, then correct the move in the log.",
        "If it was set as said, this model’s sign is the other one: set it on its card.",
      ],
      part: "None",
    },
    "step-too-coarse": {
      says: "A whole step jumps over the tolerance.",
      checks: ["Leave it at the nearer step, and say so."],
      part: "None",
    },
  },
  temperature: COARSE,
  basket: GRINDER,
  "dose-1": DOSE,
  "dose-2": DOSE,
  "single-1": DOSE,
  "single-2": DOSE,
  "double-long-1": DOSE,
  "double-long-2": DOSE,
  "single-long-1": DOSE,
  "single-long-2": DOSE,
};

const PLAIN: Record<FaultKind, string> = {
  stuck: "It does not answer.",
  ceiling: "It gives no more.",
  reversed: "It answers the wrong way round.",
  "step-too-coarse": "It cannot be set finely enough.",
  "gauge-too-coarse": "The instrument at hand could not decide.",
  "end-of-travel": "It has no way left.",
};

export function faultWords(loop: LoopId, fault: FaultKind): FaultWords {
  return (
    FAULTS[loop][fault] ?? { says: PLAIN[fault], checks: ["Look at the knob and what it moves."], part: "To be found" }
  );
}
