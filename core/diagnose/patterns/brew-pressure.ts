import type { Pattern } from "../diagnose";

/**
 * Brew pressure outside its limits. Common practice: low static + low free flow → pump, inlet, scale; low static + normal free flow →
 * valve set low or leaking; high static, no return → valve stuck; needle climbs after the pump stops → heat behind a closed valve.
 */
export const BREW_PRESSURE: Pattern = {
  id: "brew-pressure",
  title: "Brew pressure fault",
  causes: [
    {
      id: "set-low",
      label: "OPV set low",
      prior: 0.24,
      mend: "set",
      remedy: "Set the OPV by readings.",
      part: "OPV set",
    },
    {
      id: "set-high",
      label: "OPV set high",
      prior: 0.22,
      mend: "set",
      remedy: "Set the OPV by readings.",
      part: "OPV set",
    },
    {
      id: "leaking",
      label: "OPV leaks: seat worn or dirty",
      prior: 0.12,
      remedy: "Clean or renew seat and spring.",
      part: "OPV: seat and spring",
    },
    {
      id: "stuck",
      label: "OPV stuck shut",
      prior: 0.1,
      remedy: "Take it out, free it of scale, or renew it.",
      part: "OPV",
    },
    {
      id: "pump",
      label: "Pump worn",
      prior: 0.14,
      remedy: "Renew the pump.",
      part: "Pump",
    },
    {
      id: "inlet",
      label: "Inlet starved: strainer, tap, hose, air",
      prior: 0.1,
      remedy: "Clear strainer, tap and hose; bleed the air.",
      part: "Inlet strainer and hose",
    },
    {
      id: "scale",
      label: "Scale in the brew path",
      prior: 0.08,
      remedy: "Descale as the model permits.",
      part: "Descaling",
    },
  ],
  checks: [
    {
      id: "static",
      label: "Static pressure, blind",
      how: "Blind basket, pump on, wait until steady.",
      minutes: 1,
      outcomes: [
        { id: "low", label: "below its limits" },
        { id: "inside", label: "inside" },
        { id: "high", label: "over its limits" },
      ],
      chances: {
        "set-low": [0.96, 0.03, 0.01],
        "set-high": [0.01, 0.03, 0.96],
        leaking: [0.9, 0.09, 0.01],
        stuck: [0.02, 0.08, 0.9],
        pump: [0.6, 0.38, 0.02],
        inlet: [0.7, 0.28, 0.02],
        scale: [0.4, 0.5, 0.1],
      },
    },
    {
      id: "free-flow",
      label: "Free flow without a basket",
      how: "No basket, pump on: weigh what comes in ten seconds.",
      opensGroup: true,
      minutes: 1,
      outcomes: [
        { id: "normal", label: "as it should be" },
        { id: "low", label: "little" },
      ],
      chances: {
        "set-low": [0.96, 0.04],
        "set-high": [0.97, 0.03],
        leaking: [0.9, 0.1],
        stuck: [0.96, 0.04],
        pump: [0.15, 0.85],
        inlet: [0.06, 0.94],
        scale: [0.15, 0.85],
      },
    },
    {
      id: "return",
      label: "Water back through the OPV",
      how: "Blind basket, pump on: watch the OPV’s return to tank or tray.",
      minutes: 1,
      outcomes: [
        { id: "none", label: "none" },
        { id: "some", label: "flows while pressure is up" },
        { id: "always", label: "flows from the start, pressure low" },
      ],
      chances: {
        "set-low": [0.02, 0.48, 0.5],
        "set-high": [0.3, 0.65, 0.05],
        leaking: [0.02, 0.18, 0.8],
        stuck: [0.97, 0.02, 0.01],
        pump: [0.85, 0.12, 0.03],
        inlet: [0.85, 0.12, 0.03],
        scale: [0.4, 0.55, 0.05],
      },
    },
    {
      id: "flowing",
      label: "Flowing test against static",
      how: "A bleed of 1.5 to 3 ml/s: read again while it flows.",
      minutes: 3,
      outcomes: [
        { id: "holds", label: "holds within a bar" },
        { id: "sags", label: "sags" },
      ],
      chances: {
        "set-low": [0.92, 0.08],
        "set-high": [0.95, 0.05],
        leaking: [0.7, 0.3],
        stuck: [0.92, 0.08],
        pump: [0.1, 0.9],
        inlet: [0.12, 0.88],
        scale: [0.2, 0.8],
      },
    },
    {
      id: "inlet-open",
      label: "Feed the pump straight from a jug",
      how: "Inlet hose into a jug beside the pump, strainer off: read again.",
      minutes: 5,
      outcomes: [
        { id: "better", label: "comes right" },
        { id: "same", label: "no better" },
      ],
      chances: {
        "set-low": [0.02, 0.98],
        "set-high": [0.01, 0.99],
        leaking: [0.02, 0.98],
        stuck: [0.01, 0.99],
        pump: [0.06, 0.94],
        inlet: [0.95, 0.05],
        scale: [0.08, 0.92],
      },
    },
    {
      id: "after-stop",
      label: "Needle after the pump stops",
      how: "Leave it shut and hot, watch the gauge for a minute.",
      minutes: 2,
      outcomes: [
        { id: "falls", label: "falls" },
        { id: "climbs", label: "climbs again" },
      ],
      chances: {
        "set-low": [0.95, 0.05],
        "set-high": [0.85, 0.15],
        leaking: [0.98, 0.02],
        stuck: [0.25, 0.75],
        pump: [0.9, 0.1],
        inlet: [0.9, 0.1],
        scale: [0.75, 0.25],
      },
    },
    {
      id: "turn",
      needsScrew: true,
      label: "Response of the OPV to an advised turn",
      // Which way and how far is told by the next move alone, which weighs what it may do.
      how: "After a turn that the next move advised: did the reading follow? Turn it for nothing else.",
      minutes: 2,
      outcomes: [
        { id: "answers", label: "the reading follows" },
        { id: "nothing", label: "nothing moves" },
      ],
      chances: {
        "set-low": [0.97, 0.03],
        "set-high": [0.97, 0.03],
        leaking: [0.15, 0.85],
        stuck: [0.04, 0.96],
        pump: [0.15, 0.85],
        inlet: [0.15, 0.85],
        scale: [0.5, 0.5],
      },
    },
  ],
};

/** Cause before any other on a machine whose flow is throttled by hand before the group: most low readings there are a valve half shut. */
const FLOW_CONTROL = {
  id: "flow-control",
  label: "Flow control not fully open",
  prior: 0.6,
  mend: "hand",
  remedy: "Open it fully and read again. Nothing is wrong with pump or OPV yet.",
  part: "",
} as const;

/** What each check shows where the flow control is half shut. From memory. */
const THROTTLED: Readonly<Record<string, readonly number[]>> = {
  static: [0.9, 0.09, 0.01],
  "free-flow": [0.1, 0.9],
  return: [0.6, 0.35, 0.05],
  flowing: [0.1, 0.9],
  "inlet-open": [0.02, 0.98],
  "after-stop": [0.9, 0.1],
  turn: [0.3, 0.7],
};

/** The same complaint on a machine with a flow-control valve. */
export const BREW_PRESSURE_FLOW_CONTROL: Pattern = {
  ...BREW_PRESSURE,
  causes: [FLOW_CONTROL, ...BREW_PRESSURE.causes.map((c) => ({ ...c, prior: (1 - FLOW_CONTROL.prior) * c.prior }))],
  checks: [
    {
      id: "flow-control",
      label: "Flow control",
      how: "Open it to its stop, then read again.",
      minutes: 1,
      outcomes: [
        { id: "was-open", label: "was open, same reading" },
        { id: "was-shut", label: "was not open, reading rises" },
      ],
      chances: {
        "flow-control": [0.02, 0.98],
        ...Object.fromEntries(BREW_PRESSURE.causes.map((c) => [c.id, [0.97, 0.03]])),
      },
    },
    ...BREW_PRESSURE.checks.map((check) => ({
      ...check,
      chances: { ...check.chances, "flow-control": THROTTLED[check.id]! },
    })),
  ],
};
