import { toleranceFor } from "../../spec";
import { type SheetQuestion, type Station, has } from "../plan";
import { LOCAL_RULES, WARM, measured, station, tick } from "./build";

/** Work after the readings: parts, milk, leaks, clean, hand over, sign. */

/** Work and parts: a line each, and on a machine that came in dead what must be sound before it is filled. */
export function parts(question: SheetQuestion): Station | null {
  const { kind } = question;
  if (!has(question, "work")) return null;
  const old = kind.mendedFirst;
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

/** Milk, where the owner is shown it: its temperature against the card, and the wand. */
export function milk(question: SheetQuestion): Station | null {
  const { kind, spec } = question;
  if (!has(question, "hand-over") || !kind.steams) return null;
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

/** Tight under full pressure, wherever something was opened. */
export function leaks(question: SheetQuestion): Station | null {
  const { kind } = question;
  if (!(has(question, "setup") || has(question, "work")) || kind.groups === 0) return null;
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

/** Cleaning, as the kind and the workshop’s schools have it. */
export function clean(question: SheetQuestion): Station | null {
  const { kind, card, schools } = question;
  if (!has(question, "clean")) return null;
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
    { cautions: ["acid"], schools: ["backFlush", "ownerDescaling"] },
  );
}

/** The owner shown, step by step, and told what must not be changed. */
export function handOver(question: SheetQuestion): Station | null {
  const { kind, schools } = question;
  if (!has(question, "hand-over")) return null;
  const shown =
    kind.groups === 0
      ? [
          ["dose", "Dose by time, re-timed after a grind change"],
          ["clean", "Cleaning"],
        ]
      : [
          ["warm-up", "Warm-up"],
          ["shot", kind.boiler === "lever" ? "Dose, tamp, lever down, shot" : "Dose, tamp, shot"],
          ...(!kind.steams ? [] : [["milk", "Milk"]]),
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

/** The end of every visit. */
export function sign(): Station {
  return station("sign", "Sign", "your name", [{ id: "sign", label: "Signature", hint: LOCAL_RULES, kind: "sign" }], {
    skippable: false,
  });
}
