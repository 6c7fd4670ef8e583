/** Gauges built into a machine, as instruments: of the poor class such gauges have. Common practice. */
export function ownGauge(id: string, workshopId: string, machineId: string, place: "group" | "pump" | "flow") {
  return {
    id,
    itemId: id,
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

export function boilerGauge(id: string, workshopId: string, machineId: string) {
  return {
    id,
    itemId: id,
    workshopId,
    machineId,
    name: "Boiler gauge",
    place: "boiler" as const,
    lowest: 0,
    highest: 3,
    resolution: 0.05,
    error: { form: "class" as const, percentOfSpan: 1.6 },
    repeatability: 0.01,
    inKit: false,
    position: 9,
  };
}
