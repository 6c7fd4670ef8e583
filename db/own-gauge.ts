/** The gauge built into a machine, as an instrument: of the poor class such gauges have. Common practice. */
export function ownGauge(id: string, workshopId: string, machineId: string, place: "group" | "pump") {
  return {
    id,
    workshopId,
    machineId,
    name: "The machine’s own gauge",
    place,
    lowest: 0,
    highest: 16,
    resolution: 0.5,
    error: { form: "class" as const, percentOfSpan: 2.5 },
    repeatability: 0.15,
    inKit: false,
    position: 9,
  };
}
