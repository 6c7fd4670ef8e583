import type { Pattern } from "../diagnose";

/** Group water off its set point, or an offset that does not hold. Common practice; probabilities from memory. */
export const TEMPERATURE: Pattern = {
  id: "temperature",
  title: "Temperature off",
  causes: [
    { id: "offset", label: "Offset set wrong", prior: 0.45, remedy: "Set it by readings.", part: "Offset set" },
    {
      id: "not-warm",
      label: "Not warm yet, cold portafilter",
      prior: 0.2,
      remedy: "Wait, flush, read again.",
      part: "",
    },
    {
      id: "probe",
      label: "Boiler probe faulty or scaled",
      prior: 0.15,
      remedy: "Renew the probe.",
      part: "Temperature probe",
    },
    {
      id: "scale",
      label: "Scale on element or in the group",
      prior: 0.12,
      remedy: "Descale as the model permits.",
      part: "Descaling",
    },
    {
      id: "thermometer",
      label: "The thermometer reads wrong",
      prior: 0.08,
      remedy: "Check it in boiling water at this altitude.",
      part: "",
    },
  ],
  checks: [
    {
      id: "second-set-point",
      label: "A second set point, 2 °C away",
      how: "Change the set point, wait, read: is the water off by as much?",
      minutes: 8,
      outcomes: [
        { id: "same", label: "off by as much" },
        { id: "other", label: "off by something else" },
      ],
      chances: {
        offset: [0.95, 0.05],
        "not-warm": [0.5, 0.5],
        probe: [0.12, 0.88],
        scale: [0.5, 0.5],
        thermometer: [0.85, 0.15],
      },
    },
    {
      id: "again-later",
      label: "Read again after ten minutes",
      how: "Portafilter locked in, one blank shot, then read.",
      minutes: 10,
      outcomes: [
        { id: "same", label: "the same" },
        { id: "hotter", label: "hotter" },
      ],
      chances: {
        offset: [0.96, 0.04],
        "not-warm": [0.06, 0.94],
        probe: [0.8, 0.2],
        scale: [0.85, 0.15],
        thermometer: [0.95, 0.05],
      },
    },
    {
      id: "boiling",
      label: "Thermometer in boiling water",
      how: "It must show the boiling point of this altitude.",
      minutes: 5,
      outcomes: [
        { id: "right", label: "shows it" },
        { id: "wrong", label: "shows something else" },
      ],
      chances: {
        offset: [0.97, 0.03],
        "not-warm": [0.97, 0.03],
        probe: [0.97, 0.03],
        scale: [0.97, 0.03],
        thermometer: [0.05, 0.95],
      },
    },
    {
      id: "recovery",
      label: "Recovery after a flush",
      how: "Flush, then watch how long the display takes to come back.",
      minutes: 3,
      outcomes: [
        { id: "quick", label: "as usual" },
        { id: "slow", label: "slow" },
      ],
      chances: {
        offset: [0.93, 0.07],
        "not-warm": [0.6, 0.4],
        probe: [0.6, 0.4],
        scale: [0.12, 0.88],
        thermometer: [0.93, 0.07],
      },
    },
  ],
};
