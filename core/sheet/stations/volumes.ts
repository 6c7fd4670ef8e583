import type { SheetQuestion, Station, Task } from "../plan";
import { WARM, measured, read, station, table } from "./build";

/** Flow meters and dose buttons. */

export function volumes({ type, kind, card, schools }: SheetQuestion): Station | null {
  if (type === "check" || card.buttons === "none" || kind.groups === 0) return null;
  const two = kind.groups > 1;
  const groups = Array.from({ length: kind.groups }, (_, i) => i + 1);
  const metered = card.programming === "pulses";
  return station(
    "volumes",
    "Dose buttons",
    metered ? "scale, jug, pulse count" : "scale, jug",
    [
      ...groups.flatMap((g): Task[] => [
        {
          id: `dose-${g}`,
          label: `Double${two ? `, group ${g}` : ""}: as found, set, three shots`,
          kind: "loop",
          loop: g === 1 ? "dose-1" : "dose-2",
        },
        measured(`volumes.${g}.single`, `Single${two ? `, group ${g}` : ""}, as found`, "mass", {
          possible: [0.5, 500],
          usual: [15, 120],
          optional: true,
        }),
      ]),
      ...(metered ? groups.map((g) => meter(g, two)) : []),
      ...(card.buttons === "volume" && metered ? [] : [storage()]),
      ...(schools.teaching === "volume" || metered ? [kept()] : [drip()]),
      {
        id: "diagnosis.flow-alarm",
        label: "Flow alarm: find the cause",
        kind: "diagnosis",
        pattern: "flow-alarm",
        optional: true,
      },
    ],
    { cautions: ["hot"], after: [WARM] },
  );
}

function meter(group: number, two: boolean): Task {
  return table(
    `volumes.meter.${group}`,
    `Meter factor${two ? `, group ${group}` : ""}`,
    group === 1 ? "meter-1" : "meter-2",
    [
      { name: "pulses", label: "Pulses", type: { kind: "count", possible: [1, 5000] } },
      read("grams", "Water in the jug", "mass", [1, 2000]),
    ],
    { hint: "Blank runs of different lengths, weighed: three at least, about 30, 60 and 100 ml." },
  );
}

function storage(): Task {
  return table(
    "volumes.storage",
    "Does the button store volume or seconds?",
    "storage",
    [
      {
        name: "coffee",
        label: "Run",
        type: {
          kind: "choice",
          options: [
            { value: "blank", label: "without coffee" },
            { value: "coffee", label: "with coffee" },
          ],
        },
      },
      read("seconds", "Ran for", "time", [0.5, 180]),
      read("cup", "In the cup", "mass", [0.5, 500]),
      read("dose", "Dose", "mass", [1, 60], { optional: true }),
    ],
    { hint: "The same button blank and with coffee: the same water means volume, the same seconds mean time." },
  );
}

function kept(): Task {
  return table(
    "volumes.kept",
    "Water kept by the puck",
    "kept",
    [
      read("dose", "Dose", "mass", [1, 60]),
      {
        name: "water",
        label: "Water in",
        type: { kind: "quantity", dimension: "volume", possible: [1, 1000], resolution: 0.5 },
      },
      read("cup", "In the cup", "mass", [0.5, 500]),
    ],
    { hint: "Pulses ÷ meter factor is the water in. What is not in the cup stayed in puck and headspace." },
  );
}

function drip(): Task {
  return table(
    "volumes.drip",
    "Drip after the stop",
    "drip",
    [
      read("atStop", "On the scale at the stop", "mass", [0.5, 500]),
      read("cup", "In the cup after", "mass", [0.5, 500]),
    ],
    { hint: "The cup keeps filling after the button: learnt here, taken off where to stop." },
  );
}
