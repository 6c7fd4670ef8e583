import { type SheetQuestion, type Station, has } from "../plan";
import type { Task } from "../tasks";
import { WARM, measured, read, station, table, tick } from "./build";
import { COVERS, REFIT, beforeMoves, meant } from "./opened";

/** Boiler and steam: pressurestat, gauge against thermometer, steam power, the single boiler’s steam plan. */

/** Boiler and steam: the pressurestat where there is one, dry steam, gauge against thermometer, steam power. */
export function steam(question: SheetQuestion): Station | null {
  const { kind, loops } = question;
  if (!has(question, "steam") || !kind.steams) return null;
  const pressurestat = loops.some((l) => l.id === "pressurestat");
  const wheel = loops.some((l) => l.id === "pressurestat" && l.opens);
  return station(
    "steam",
    "Boiler and steam",
    pressurestat ? "boiler gauge, jug, thermometer" : "jug, thermometer",
    [
      ...(wheel ? [beforeMoves("steam.covers", "pressurestat", COVERS)] : []),
      ...(pressurestat
        ? [
            {
              id: "pressurestat",
              label: "Cut-in and cut-out",
              hint: "Let it heat up once and read both points.",
              kind: "loop" as const,
              loop: "pressurestat" as const,
            },
          ]
        : []),
      ...(wheel ? [meant("pressurestat")] : []),
      tick("steam.dry", "Dry steam after a purge"),
      ...(kind.steamGauge
        ? [
            table(
              "steam.check",
              "Gauge against thermometer",
              "steam-check",
              [
                read("gauge", "Boiler gauge", "pressure", [0, 4], { resolution: 0.05, place: "boiler" }),
                read("celsius", "Thermometer in the steam", "temperature", [60, 160]),
              ],
              {
                hint: "Both at one moment, no steam flowing. They must agree with the saturation temperature at this altitude.",
              },
            ),
          ]
        : []),
      steamPowerTest(),
      ...(kind.boiler === "single" ? singleBoiler() : []),
      { id: "diagnosis.steam", label: "Find the cause", kind: "diagnosis", pattern: "steam", optional: true },
    ],
    {
      cautions: [
        "hot",
        ...(pressurestat ? (["live-parts", "pressure-vessel"] as const) : []),
        ...(kind.boiler === "single" ? (["dry-element"] as const) : []),
      ],
      after: [WARM],
      ...(wheel ? { hardStop: COVERS } : {}),
    },
  );
}

/** The case closed again where the pressurestat was set behind it, whatever came of it. */
export function steamRefit(question: SheetQuestion): Station | null {
  const { kind, loops } = question;
  if (!has(question, "steam") || !kind.steams || !loops.some((l) => l.id === "pressurestat" && l.opens)) return null;
  return station(
    "steam-refit",
    "Cover back on after the pressurestat",
    "switched off, unplugged",
    [{ ...tick("steam.refit", REFIT.confirm), when: (r) => r.values.has("steam.covers") }],
    {
      hardStop: REFIT,
      beside: { loop: "pressurestat", reads: true },
      cautions: ["live-parts"],
      after: [["steam", "Boiler and steam come before the cover goes back on."]],
      skippable: false,
    },
  );
}

/** A jug of known mass from and to known temperatures: what steam gives, in watts. */
export function steamPowerTest(): Task {
  return table(
    "steam.power",
    "Steam power",
    "steam-power",
    [
      {
        name: "liquid",
        label: "In the jug",
        type: {
          kind: "choice",
          options: [
            { value: "milk", label: "milk" },
            { value: "water", label: "water" },
          ],
        },
      },
      read("mass", "Weighed", "mass", [20, 2000]),
      read("from", "From", "temperature", [0, 60]),
      read("to", "To", "temperature", [20, 95]),
      read("seconds", "Seconds", "time", [1, 300], { resolution: 1 }),
    ],
    { hint: "A known mass from and to known temperatures, with dry steam." },
  );
}

/** How long a single boiler takes to steam: its plan is made for it. */
export const steamHeatUp = (): Task =>
  measured("steam.heat-up", "From the steam switch to the ready light", "time", {
    possible: [20, 600],
    usual: [40, 240],
    resolution: 1,
    optional: true,
    hint: "Timed once: the plan below is made for it. About 80 s are usual.",
  });

/** Steam by the clock: bled early, started before the light. */
export const timedSteaming = (): Task => ({
  id: "steam.plan",
  label: "Timed steaming",
  kind: "plan",
  plan: "steam",
  optional: true,
  hint: "Bleed water early to make room for steam, start before the light so that the element stays on.",
});

function singleBoiler(): Task[] {
  return [
    steamHeatUp(),
    timedSteaming(),
    {
      id: "steam.bled",
      label: "Bleeds done",
      hint: "As they were done: at which seconds, how long each.",
      kind: "text",
      optional: true,
    },
    tick("steam.refill", "Boiler refilled straight after steaming", { hint: "A dry element burns out." }),
  ];
}
