import { type DemonstrationPart, type PartId, demonstrationOf } from "../../care";
import { type DescalingRule, type ModelCard, descalingRule } from "../../kind";
import { CRITICAL_PARTS } from "../../work";
import { toleranceFor } from "../../spec";
import { type HardStop, type SheetQuestion, type Station, has } from "../plan";
import { type SheetRecords, chosen } from "../records";
import type { Task } from "../tasks";
import {
  ACID_TASK,
  BACK_FLUSH_TASK,
  LEAKS_TASK,
  PROTECTIONS_TASK,
  RINSE_TASK,
  acidUsed,
  criticalDone,
  descaledLine,
  leaksLeft,
} from "../unsafe";
import { steamHeatUp, steamPowerTest, timedSteaming } from "./boiler";
import { LOCAL_RULES, WARM, measured, read, station, table, tick } from "./build";

/** Work after the readings: parts, milk, leaks, clean, hand over, sign. */

/** Work and parts: a line each, and on a machine that came in dead what must be sound before it is filled. */
export function parts(question: SheetQuestion): Station | null {
  const { kind, card } = question;
  if (!has(question, "work")) return null;
  const old = kind.mendedFirst;
  return station(
    "parts",
    "Work and parts",
    old ? "descaler, element, valves, wiring" : "parts box",
    [
      {
        id: "parts.line",
        label: "Work and parts",
        hint: old
          ? "A line each: descale, element, safety valve (replaced, never cleaned and refitted), pressurestat, steam spindle, wiring."
          : "A line each: what was done, declined by the owner, or put off.",
        kind: "work",
      },
      faultsLeft,
      ...(old
        ? [
            {
              ...tick("parts.safety-valve", "Safety valve OK or replaced by type, tested to local rules"),
              when: (r: SheetRecords) => criticalDone(r).get("safety-valve") !== "out-of-use",
            },
            tick("parts.element", "Element and wiring measured to earth"),
          ]
        : [earthMeasured]),
      ...(kind.groups === 0 ? [] : [protections, acid(card.descaling), ...(has(question, "clean") ? [] : [rinsed])]),
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

/** Insulation and earth are measured after anything live was replaced. */
const earthMeasured: Task = {
  ...tick("parts.element", "Earth and insulation measured after element, cut-out or wiring"),
  hint: `By whoever local rules allow. ${LOCAL_RULES}`,
  when: (r) =>
    r.values.has("parts.element") ||
    [...criticalDone(r)].some(
      ([part, act]) => CRITICAL_PARTS[part].earth && (act === "replaced" || act === "replaced-tested"),
    ),
};

/** Nobody is handed a machine with a guard left out: asked, since no list of words finds it. */
const protections: Task = {
  id: PROTECTIONS_TASK,
  label: "Protections: safety valve, cut-outs, earth, covers",
  kind: "choice",
  options: [
    { value: "as-built", label: "All as built, none bridged or left off" },
    { value: "defeated", label: "One is bridged, blocked or missing" },
  ],
};

/** Whether acid went through, and whether the model permits it: asked in words of its own, since it goes by many names. */
const acid = (descaling: ModelCard["descaling"]): Task => ({
  id: ACID_TASK,
  label: "Acid or descaler through the machine on this visit",
  hint: descalingRule(descaling).says,
  kind: "choice",
  options: [
    {
      value: "none",
      label: "None",
      refused: (r) => (descaledLine(r) ? "A line of work says that it was descaled." : ""),
    },
    ...(descalingRule(descaling).throughTank
      ? [{ value: "allowed", label: "Yes, as the model permits" }]
      : [{ value: "apart", label: "Only parts, with the machine taken apart" }]),
    { value: "against", label: "Yes, against the model’s rule" },
  ],
});

/** What stays in, on purpose or for the time being: told to the owner, and asked for on the next visit. */
const faultsLeft: Task = {
  id: "parts.left",
  label: "Faults left in",
  hint: "A noise that comes and goes, a scratch nobody pays for: with what was decided. The next visit asks for it.",
  kind: "left",
  optional: true,
};

/** Milk, where the owner is shown it: dry steam, its power where nobody has read it yet, its end, and the wand. */
export function milk(question: SheetQuestion): Station | null {
  const { kind, spec } = question;
  if (!has(question, "hand-over") || !kind.steams) return null;
  const single = kind.boiler === "single";
  // Read at the boiler already where that is what the visit is for.
  const steam = has(question, "steam");
  return station(
    "milk",
    "Milk",
    "jug, milk",
    [
      ...(single && !steam ? [steamHeatUp(), timedSteaming()] : []),
      ...(steam ? [] : [tick("milk.dry", "Wand purged: steam is dry")]),
      measured("milk.temperature", "Milk ends at", "temperature", {
        possible: [0, 100],
        usual: [40, 75],
        tolerance: toleranceFor(spec, "milk-temperature"),
        resolution: 1,
        hint: "Steam off at 55 to 60 °C: it climbs a little more.",
      }),
      ...(steam ? [] : [steamPowerTest()]),
      tick("milk.wand", "Wand purged and wiped at once"),
      ...(single
        ? [tick("milk.refill", "Boiler refilled straight after the milk", { hint: "A dry element burns out." })]
        : []),
    ],
    { cautions: single ? ["hot", "dry-element"] : ["hot"], after: [WARM] },
  );
}

/** Tight under full pressure, wherever something was opened. */
export function leaks(question: SheetQuestion): Station | null {
  const { kind } = question;
  if (!(has(question, "setup") || has(question, "work")) || kind.groups === 0) return null;
  return station(
    "leaks",
    "Leak check",
    "dry towel, torch",
    [leaksFound(kind.steams), tightness("water"), ...(kind.steamGauge ? [tightness("steam")] : [])],
    {
      cautions: kind.supply === "plumbed" ? ["water", "hot"] : ["hot"],
      after: [WARM, ["refit", "The cover goes back on first."], ["steam-refit", "The cover goes back on first."]],
    },
  );
}

/** Tight, or what leaks is on record: one of the two, and never both. */
const tightness = (side: "water" | "steam"): Task => ({
  id: `leaks.${side}`,
  label: `${side === "water" ? "Water" : "Steam"} side under full pressure`,
  kind: "choice",
  options: [
    {
      value: "tight",
      label: `No leak on the ${side} side`,
      refused: (r) =>
        leaksLeft(r).some((leak) => leak.side === side)
          ? "A row above still leaks on this side. Save what was mended as a row that is tight, or answer that a leak is left."
          : "",
    },
    {
      value: "left",
      label: `A leak is left on the ${side} side`,
      refused: (r) =>
        leaksLeft(r).some((leak) => leak.side === side)
          ? ""
          : "First save the leak above: where it is, and that it still leaks.",
      remedy: "It stands on the report. A boiler that leaks is not handed over.",
    },
  ],
});

/** A leak: where, on which side, under what pressure, what was tried, and whether it was tight after. */
function leaksFound(steams: boolean): Task {
  const choice = (name: string, label: string, options: readonly (readonly [string, string])[]) => ({
    name,
    label,
    type: { kind: "choice" as const, options: options.map(([value, said]) => ({ value, label: said })) },
  });
  return table(
    LEAKS_TASK,
    "Leaks found",
    "leaks",
    [
      choice("where", "Where", [
        ["tray", "tray or grid"],
        ["group", "group gasket"],
        ["basket", "portafilter, basket"],
        ["hose", "hose or fitting"],
        ["valve", "valve or OPV"],
        ["pump", "pump"],
        ["boiler", "boiler, element, probe"],
        ["wand", "wand or tap"],
        ["tank", "tank or its seat"],
      ]),
      {
        ...choice("cause", "Cause", [
          ["seal", "seal or gasket worn"],
          ["loose", "fitting loose"],
          ["cracked", "cracked or corroded"],
          ["scale", "scale or dirt on the seat"],
          ["seat", "does not sit right"],
          ["unknown", "not known yet"],
        ]),
        optional: true,
      },
      choice("side", "Side", [["water", "water"], ...(steams ? [["steam", "steam"] as const] : [])]),
      read("pressure", "Under", "pressure", [0, 25], { display: true, optional: true }),
      choice("tried", "Tried", [
        ["wiped", "wiped tray and grid, watched"],
        ["tightened", "tightened"],
        ["seal", "seal or gasket renewed"],
        ["part", "part renewed"],
        ["nothing", "nothing yet"],
      ]),
      choice("after", "After", [
        ["leaks", "still leaks"],
        ["tight", "tight"],
      ]),
    ],
    { hint: "Tray and grid first: wipe them dry and watch where it comes from." },
  );
}

/** Cleaning, as the kind and the workshop’s schools have it. */
export function clean(question: SheetQuestion): Station | null {
  const { kind, card, schools } = question;
  if (!has(question, "clean")) return null;
  const flush = schools.backFlush === "daily" ? "plain water daily, cleaner weekly" : "after every session";
  const rule = descalingRule(card.descaling, schools.ownerDescaling);
  if (kind.groups === 0)
    return station("clean", "Clean", "brush, vacuum", [tick("clean.burrs", "Chamber and chute brushed and vacuumed")], {
      cautions: ["burrs"],
    });
  return station(
    "clean",
    "Clean",
    "cleaner, brush, cloths",
    [
      asksDescaling(rule),
      rinsed,
      ...(kind.threeWayValve && kind.pump !== "none"
        ? [backFlushed(flush), { ...tick("clean.bled", BLOCKED.confirm), when: blocked }]
        : [tick("clean.screen", "Shower screen brushed and wiped")]),
      tick("clean.wipe", kind.steams ? "Group, wand and tray wiped" : "Group and tray wiped"),
    ],
    {
      cautions: ["acid"], // A method never permits what the model forbids, and is no choice there.
      schools: ["backFlush", ...(card.descaling === "owner-cycle" ? (["ownerDescaling"] as const) : [])],
      hardStop: BLOCKED,
    },
  );
}

/** The three-way valve lets nothing go: the pressure stands behind the blind basket. */
const BLOCKED: HardStop = {
  title: "Trapped pressure",
  lines: [
    "No water came back: the three-way valve is blocked, and up to 10 bar stand behind the blind basket long after the pump has stopped.",
    "Pump off. Let it stand, then ease the handle a few millimetres at a time under a towel, face and hands away, until nothing hisses.",
    "Only then take the portafilter out.",
    LOCAL_RULES,
  ],
  confirm: "The pressure is out, the portafilter is off",
};

const blocked = (r: SheetRecords) => r.values.has("clean.bled") || chosen(r, BACK_FLUSH_TASK) === "none";

/** The return watched: pressure that is let go comes back into the tray. */
function backFlushed(often: string): Task {
  return {
    id: BACK_FLUSH_TASK,
    label: "Back-flushed, return watched",
    hint: `Water returns to the tray after each cycle. This is normal. For the owner: ${often}.`,
    kind: "choice",
    options: [
      { value: "returns", label: "Water came back into the tray" },
      {
        value: "none",
        label: "No water came back",
        remedy: "Three-way valve blocked or stuck: clean or renew it, then back-flush again.",
      },
    ],
  };
}

/** Asked once acid went through: how much water went after it. */
const rinsed: Task = {
  id: RINSE_TASK,
  label: "Rinsed after descaling with",
  hint: "Clear water through boiler, group and wand until it tastes of nothing, at least two fillings of the boiler.",
  kind: "figure",
  dimension: "volume",
  possible: [0, 200_000],
  usual: [500, 30_000],
  resolution: 100,
  unit: "l",
  when: (r) => r.values.has(RINSE_TASK) || acidUsed(r),
};

/** Asked for by many owners, answered by the rule of the model. */
function asksDescaling({ says, owner, throughTank, instead }: DescalingRule): Task {
  return {
    id: "clean.descaling",
    label: "Owner asks for descaling",
    hint: [says, instead].filter(Boolean).join(" "),
    kind: "choice",
    optional: true,
    options: [
      { value: "no", label: "Not asked" },
      ...(owner ? [{ value: "shown", label: "Yes: cycle shown" }] : []),
      ...(throughTank ? [{ value: "done", label: owner ? "Yes: cycle run" : "Yes: descaled by the workshop" }] : []),
      ...(owner ? [] : [{ value: "instead", label: `Yes: not permitted. ${instead}` }]),
    ],
  };
}

/** Under this task name it is kept how far the owner came with a part. */
export const shownTaskId = (part: PartId) => `hand-over.${part}`;

/** The owner shown, part by part, and told what must not be changed. */
export function handOver(question: SheetQuestion): Station | null {
  const { kind, schools } = question;
  if (!has(question, "hand-over")) return null;
  return station(
    "hand-over",
    "Hand over",
    "the owner present",
    [
      ...demonstrationOf(kind, schools).map(shownTask),
      tick("hand-over.leave", "Told: what not to change, what is normal, when to call", {
        hint: kind.forbidden.join(" "),
      }),
      {
        id: "hand-over.given",
        label: "Accessories given",
        hint: "Count them against those found: the owner’s card has both.",
        kind: "text",
        optional: true,
      },
      // Without work it has its place here.
      ...(has(question, "work") ? [] : [faultsLeft]),
      { id: "hand-over.issues", label: "Anything else the owner should know", kind: "text", optional: true },
    ],
    {
      cautions: ["hot"],
      after: [
        ["shots", "A calibration shot comes first."],
        ["clean", "Cleaning comes first."],
      ],
    },
  );
}

/** One part of the demonstration: what to say, what to show, and how far the owner came with it. */
function shownTask({ id, label, say, show, tries }: DemonstrationPart): Task {
  return {
    id: shownTaskId(id),
    label,
    kind: "choice",
    guide: [
      { act: "Say", lines: [say] },
      { act: "Show", lines: show },
      { act: "Owner", lines: [tries] },
    ],
    options: [
      { value: "tried", label: "Owner did it" },
      { value: "shown", label: "Shown only" },
      { value: "not-shown", label: "Not shown" },
    ],
  };
}

/** The end of every visit. */
export function sign(): Station {
  return station("sign", "Sign", "your name", [{ id: "sign", label: "Signature", hint: LOCAL_RULES, kind: "sign" }], {
    skippable: false,
  });
}
