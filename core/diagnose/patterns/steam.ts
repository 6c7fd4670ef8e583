import type { Pattern } from "../diagnose";

/** Boiler gauge and thermometer disagree, or steam is weak or wet. Common practice; probabilities from memory. */
export const STEAM: Pattern = {
  id: "steam",
  title: "Steam off",
  causes: [
    {
      id: "air",
      label: "Air trapped, vacuum breaker shut",
      prior: 0.28,
      remedy: "Clean or renew the vacuum breaker.",
      part: "Vacuum breaker",
    },
    {
      id: "probe",
      label: "Scale on the probe",
      prior: 0.18,
      remedy: "Descale the probe, as the model permits.",
      part: "Boiler probe descaled",
    },
    { id: "gauge", label: "Boiler gauge wrong", prior: 0.2, remedy: "Renew the gauge.", part: "Boiler gauge renewed" },
    {
      id: "pressurestat",
      label: "Pressurestat set off or worn",
      prior: 0.22,
      remedy: "Set it by readings; renew it when its band is wide.",
      part: "Pressurestat",
    },
    {
      id: "element",
      label: "Element weak or scaled",
      prior: 0.12,
      remedy: "Measure its resistance, descale or renew it.",
      part: "Heating element",
    },
  ],
  checks: [
    {
      id: "bleed",
      label: "Let steam through the wand, read both again",
      how: "Ten seconds of steam, then gauge and thermometer together.",
      minutes: 2,
      outcomes: [
        { id: "agree", label: "now they agree" },
        { id: "apart", label: "still apart" },
        { id: "agreed-before", label: "they agreed all along" },
      ],
      chances: {
        air: [0.92, 0.05, 0.03],
        probe: [0.06, 0.9, 0.04],
        gauge: [0.03, 0.93, 0.04],
        pressurestat: [0.02, 0.03, 0.95],
        element: [0.02, 0.03, 0.95],
      },
    },
    {
      id: "cold-zero",
      label: "Gauge on the cold boiler",
      how: "Cold and open: the needle must stand at zero.",
      minutes: 1,
      outcomes: [
        { id: "zero", label: "at zero" },
        { id: "off-zero", label: "not at zero" },
      ],
      chances: {
        air: [0.93, 0.07],
        probe: [0.96, 0.04],
        gauge: [0.3, 0.7],
        pressurestat: [0.96, 0.04],
        element: [0.96, 0.04],
      },
    },
    {
      id: "second-thermometer",
      label: "Another thermometer at the wand’s foot",
      how: "Thin probe under the lagging, wait for it to stand.",
      minutes: 4,
      outcomes: [
        { id: "with-gauge", label: "agrees with the gauge" },
        { id: "with-probe", label: "agrees with the display" },
      ],
      chances: {
        air: [0.1, 0.9],
        probe: [0.93, 0.07],
        gauge: [0.07, 0.93],
        pressurestat: [0.6, 0.4],
        element: [0.6, 0.4],
      },
    },
    {
      id: "band",
      label: "Cut-in and cut-out over three heatings",
      how: "Note both points three times.",
      minutes: 6,
      outcomes: [
        { id: "steady", label: "steady and in place" },
        { id: "shifted", label: "steady, but off" },
        { id: "wanders", label: "wanders" },
      ],
      chances: {
        air: [0.55, 0.35, 0.1],
        probe: [0.7, 0.2, 0.1],
        gauge: [0.25, 0.7, 0.05],
        pressurestat: [0.03, 0.55, 0.42],
        element: [0.85, 0.1, 0.05],
      },
    },
    {
      id: "heat-up",
      label: "Heat-up time against its shortest",
      how: "From cut-in to cut-out, and from cold: compare with watts and litres.",
      minutes: 3,
      outcomes: [
        { id: "as-usual", label: "as usual" },
        { id: "slow", label: "slow" },
      ],
      chances: {
        air: [0.9, 0.1],
        probe: [0.85, 0.15],
        gauge: [0.95, 0.05],
        pressurestat: [0.9, 0.1],
        element: [0.1, 0.9],
      },
    },
  ],
};
