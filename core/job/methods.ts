/** How a figure was come by, in the words the report prints. Common practice of the trade, by what is read and where. */
export const METHODS = {
  "gauge-group": "Gauge at the group, no water flowing.",
  "gauge-pump": "Gauge on the pump side, no water flowing, carried over to the group.",
  "gauge-flow": "Gauge behind the flow control, fully open, no water flowing, carried over to the group.",
  "gauge-line": "Gauge in the water line.",
  "boiler-band": "Boiler gauge, at cut-out and cut-in.",
  "probe-plateau": "Probe in the water at the group, where it settles, against the set point shown.",
  "probe-peak": "Probe in the water at the group, at its highest, against the set point shown.",
  probe: "Probe in the water at the group.",
  weighed: "Weighed on a scale.",
  several: "By several instruments, weighed by their uncertainty.",
} as const;

export type MethodId = keyof typeof METHODS;
export const METHOD_IDS = Object.keys(METHODS) as [MethodId, ...MethodId[]];
