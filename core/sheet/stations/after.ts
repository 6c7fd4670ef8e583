import { toleranceFor } from "../../spec";
import type { Dimension } from "../../quantity";
import type { Tolerance } from "../../metrology";
import type { SheetQuestion, Station, StationId, Task } from "../plan";
import { LOCAL_RULES, station, tick } from "./build";

/** Work after the pressures: parts, steam, temperature, volumes, grinder, shots, milk, leaks, clean, hand over, sign. */

type Given = {
  optional?: boolean;
  hint?: string;
  tolerance?: Tolerance | undefined;
  possible: readonly [number, number];
  usual: readonly [number, number];
  resolution?: number;
};

function measured(
  id: string,
  label: string,
  dimension: Dimension,
  { tolerance, resolution = 0.1, ...given }: Given,
): Task {
  return { id, label, dimension, kind: "figure", resolution, ...given, ...(tolerance ? { tolerance } : {}) };
}

const WARM: [StationId, string] = ["boiler-ready", "The boiler comes first."];

export function parts({ type, kind }: SheetQuestion): Station | null {
  if (type !== "service") return null;
  const old = kind.id === "K9";
  return station(
    "parts",
    "Work and parts",
    old ? "descaler, element, valves, wiring" : "parts box",
    [
      {
        id: "parts.line",
        label: "Part or task, reason, done or declined",
        hint: old
          ? "A line each: descale, element, safety valve (replaced, never cleaned back), pressurestat, steam spindle, wiring."
          : "A line each, or “nothing replaced”.",
        kind: "text",
        many: true,
      },
      ...(old
        ? [
            tick("parts.safety-valve", "Safety valve sound or replaced by type, tested to local rules"),
            tick("parts.element", "Element and wiring measured to earth"),
          ]
        : []),
    ],
    {
      cautions:
        kind.groups === 0
          ? ["burrs"]
          : [
              "live-parts",
              ...(kind.steamGauge ? (["pressure-vessel"] as const) : []),
              ...(old ? (["acid"] as const) : []),
            ],
    },
  );
}

export function steam({ type, kind, card, spec }: SheetQuestion): Station | null {
  if (type === "check" || kind.groups === 0 || kind.id === "K13") return null;
  const band = card.steamPressure ?? toleranceFor(spec, "steam-pressure");
  return station(
    "steam",
    "Steam",
    "jug, thermometer",
    [
      ...(kind.steamGauge
        ? [
            measured("steam.pressure", "Steam pressure on the boiler gauge", "pressure", {
              possible: [0, 4],
              usual: [0.8, 1.8],
              tolerance: band ?? undefined,
              resolution: 0.05,
            }),
          ]
        : []),
      tick("steam.dry", "Dry steam after a purge"),
      ...(kind.boiler === "single"
        ? [tick("steam.refill", "Boiler refilled straight after steaming", { hint: "A dry element burns out." })]
        : []),
    ],
    { cautions: ["hot", ...(kind.boiler === "single" ? (["dry-element"] as const) : [])], after: [WARM] },
  );
}

export function temperature({ type, kind, spec }: SheetQuestion): Station | null {
  if (type === "check" || type === "handover" || kind.groups === 0) return null;
  return station(
    "temperature",
    "Temperature at the group",
    "thin probe in the portafilter",
    [
      ...(kind.knobs.includes("offset")
        ? [
            measured("temperature.set", "Set point on the display", "temperature", {
              possible: [60, 130],
              usual: [85, 100],
              resolution: 0.5,
            }),
          ]
        : []),
      measured("temperature.plateau", "Plateau while water flows", "temperature", {
        possible: [20, 130],
        usual: [80, 100],
        tolerance: toleranceFor(spec, "group-temperature"),
      }),
    ],
    { cautions: ["hot"], after: [WARM] },
  );
}

export function volumes({ type, kind }: SheetQuestion): Station | null {
  if (type === "check" || kind.buttons === "none" || kind.groups === 0) return null;
  return station(
    "volumes",
    "Dose buttons",
    "scale, jug",
    Array.from({ length: kind.groups }, (_, group) =>
      [["single", "Single"] as const, ["double", "Double"] as const].map(([key, name]) =>
        measured(
          `volumes.${group + 1}.${key}`,
          `${name}${kind.groups > 1 ? `, group ${group + 1}` : ""}, as found`,
          "mass",
          { possible: [0.5, 500], usual: [15, 120], ...(key === "single" ? { optional: true } : {}) },
        ),
      ),
    ).flat(),
    { cautions: ["hot"], after: [WARM] },
  );
}

export function grinder({ type, kind, spec }: SheetQuestion): Station | null {
  if (type === "check" || kind.id === "K13") return null;
  return station(
    "grinder",
    "Grinder and dose",
    "scale to 0.1 g",
    [
      tick("grinder.purged", "Stale grounds purged"),
      measured("grinder.dose", "Dose", "mass", {
        possible: [1, 60],
        usual: [6, 30],
        tolerance: toleranceFor(spec, "dose"),
      }),
      ...(kind.grinder === "itself"
        ? [measured("grinder.seconds", "Seconds for that dose", "time", { possible: [0.2, 60], usual: [1, 30] })]
        : []),
    ],
    kind.grinder === "separate" ? {} : { cautions: ["burrs"] },
  );
}

export function shots({ type, kind, spec }: SheetQuestion): Station | null {
  if (type === "check" || type === "service" || kind.groups === 0) return null;
  return station(
    "shots",
    "Calibration shot",
    "coffee, scale, timer",
    [
      measured("shots.yield", "Yield", "mass", {
        possible: [1, 500],
        usual: [15, 80],
        tolerance: toleranceFor(spec, "yield"),
      }),
      measured("shots.seconds", "Seconds", "time", {
        possible: [1, 180],
        usual: [15, 45],
        tolerance: toleranceFor(spec, "shot-time"),
      }),
      { id: "shots.coffee", label: "Coffee, grinder setting, taste", kind: "text" },
    ],
    {
      cautions: ["hot"],
      after: [
        WARM,
        ["grinder", "The dose is weighed first."],
        ["release", "The pressure is let out first."],
        ["refit", "The cover goes back on before shots are pulled."],
      ],
    },
  );
}

export function milk({ type, kind, spec }: SheetQuestion): Station | null {
  if ((type !== "install" && type !== "handover") || kind.groups === 0 || kind.id === "K13") return null;
  return station(
    "milk",
    "Milk",
    "jug, milk",
    [
      measured("milk.temperature", "Milk ends at", "temperature", {
        possible: [0, 100],
        usual: [40, 75],
        tolerance: toleranceFor(spec, "milk-temperature"),
        resolution: 1,
      }),
      tick("milk.wand", "Wand purged and wiped at once"),
    ],
    { cautions: ["hot"], after: [WARM] },
  );
}

export function leaks({ type, kind }: SheetQuestion): Station | null {
  if (type === "check" || type === "handover" || kind.groups === 0) return null;
  return station(
    "leaks",
    "Leaks",
    "dry towel, torch",
    [
      tick("leaks.water", "Water side dry under full pressure"),
      ...(kind.steamGauge ? [tick("leaks.steam", "Steam side tight under full pressure")] : []),
    ],
    {
      cautions: kind.supply === "plumbed" ? ["water", "hot"] : ["hot"],
      after: [WARM, ["refit", "The cover goes back on first."]],
    },
  );
}

export function clean({ type, kind, card, schools }: SheetQuestion): Station | null {
  if (type === "check") return null;
  const flush = schools.backFlush === "daily" ? "plain water daily, cleaner weekly" : "after every session";
  const rule = {
    "owner-cycle":
      schools.ownerDescaling === "never"
        ? "Descaling: workshop only, by the school chosen."
        : "Descaling: the owner’s cycle, as hardness asks.",
    "workshop-only": "Descaling: workshop only.",
    "dismantle-only": "Never any acid through the tank: a workshop dismantles and descales.",
  }[card.descaling];
  if (kind.groups === 0)
    return station("clean", "Clean", "brush, vacuum", [tick("clean.burrs", "Chamber and chute brushed and vacuumed")], {
      cautions: ["burrs"],
    });
  return station(
    "clean",
    "Clean",
    "cleaner, brush, cloths",
    [
      ...(kind.threeWayValve && kind.pump !== "none"
        ? [tick("clean.back-flush", "Back-flushed", { hint: `For the owner: ${flush}.` })]
        : [tick("clean.screen", "Shower screen brushed and wiped")]),
      tick("clean.wipe", "Group, wand and tray wiped", { hint: rule }),
    ],
    { cautions: ["acid"] },
  );
}

export function handOver({ type, kind, schools }: SheetQuestion): Station | null {
  if (type !== "install" && type !== "handover") return null;
  const shown =
    kind.groups === 0
      ? [
          ["dose", "Dose by time, re-timed after a grind change"],
          ["clean", "Cleaning"],
        ]
      : [
          ["warm-up", "Warm-up"],
          ["shot", kind.boiler === "lever" ? "Dose, tamp, lever down, shot" : "Dose, tamp, shot"],
          ...(kind.id === "K13" ? [] : [["milk", "Milk"]]),
          [
            "clean",
            `Cleaning: flush and wipe after each shot, back-flush ${schools.backFlush === "daily" ? "daily" : "after every session"}`,
          ],
          ...(kind.supply === "plumbed"
            ? [["water", "Shut-off valve, cartridge and its date"]]
            : [["water", "Which water, and the tank"]]),
        ];
  return station(
    "hand-over",
    "Hand over",
    "the owner beside you",
    [
      ...shown.map(([key, label]) => tick(`hand-over.${key}`, `Shown: ${label}`)),
      tick("hand-over.leave", "Told what must not be changed, what is normal, and when to call", {
        hint: kind.forbidden.join(" "),
      }),
      { id: "hand-over.issues", label: "Known issues and what was decided", kind: "text", optional: true },
    ],
    {
      cautions: ["hot"],
      after: [
        ["shots", "A calibration shot comes first."],
        ["clean", "It is handed over clean."],
      ],
    },
  );
}

export function sign(): Station {
  return station("sign", "Sign", "your name", [{ id: "sign", label: "Signature", hint: LOCAL_RULES, kind: "sign" }], {
    skippable: false,
  });
}
