import type { Pattern } from "../diagnose";

/** No pulses while the pump runs: puck too fine, blind basket in, or a dead meter. Information first. Common practice. */
export const FLOW_ALARM: Pattern = {
  id: "flow-alarm",
  title: "Flow alarm: no pulses while the pump runs",
  causes: [
    {
      id: "puck",
      label: "Puck too fine: it lets nothing through",
      prior: 0.45,
      remedy: "Coarser grind; nothing is broken.",
      part: "Grind set coarser",
    },
    {
      id: "blind",
      label: "Blind basket in",
      prior: 0.2,
      remedy: "Take it out; nothing is broken.",
      part: "",
    },
    {
      id: "meter",
      label: "Meter dead: turbine stuck, sensor or wire",
      prior: 0.2,
      remedy: "Clean the turbine; renew sensor or meter.",
      part: "Flow meter",
    },
    {
      id: "water",
      label: "No water arrives at the group",
      prior: 0.15,
      remedy: "Supply, valve or jet: find where it stops.",
      part: "Group valve or jet",
    },
  ],
  checks: [
    {
      id: "basket",
      label: "Look at the basket",
      how: "Portafilter out, with care: pressure may stand behind it.",
      minutes: 0.5,
      outcomes: [
        { id: "coffee", label: "coffee in it" },
        { id: "blank", label: "blind" },
        { id: "empty", label: "empty, open basket" },
      ],
      chances: {
        puck: [0.98, 0.01, 0.01],
        blind: [0.01, 0.98, 0.01],
        meter: [0.6, 0.1, 0.3],
        water: [0.6, 0.1, 0.3],
      },
    },
    {
      id: "blank-run",
      label: "Run the group without a basket",
      how: "Ten seconds into a jug: water and pulses?",
      minutes: 1,
      outcomes: [
        { id: "both", label: "water, and pulses" },
        { id: "water-only", label: "water, no pulses" },
        { id: "no-water", label: "no water" },
      ],
      chances: {
        puck: [0.97, 0.02, 0.01],
        blind: [0.97, 0.02, 0.01],
        meter: [0.06, 0.92, 0.02],
        water: [0.05, 0.03, 0.92],
      },
    },
    {
      id: "pressure",
      label: "Pressure during the alarm",
      how: "The gauge while the pump runs against it.",
      minutes: 0.5,
      outcomes: [
        { id: "full", label: "full" },
        { id: "low", label: "low" },
      ],
      chances: { puck: [0.97, 0.03], blind: [0.97, 0.03], meter: [0.85, 0.15], water: [0.5, 0.5] },
    },
  ],
};
