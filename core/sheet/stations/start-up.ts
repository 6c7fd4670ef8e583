import { FILL, PRIME } from "../../startup";
import { WARM_WORDS, type WarmLevel } from "../../warmup";
import { warmTask } from "../early";
import { type SheetQuestion, type Station, type StationId, has } from "../plan";
import type { Scope } from "../visit";
import type { Task } from "../tasks";
import { measured, station, tick } from "./build";

/** Power, fill, purge, heat, and the waits. */

/** A machine that comes new, or dead, stands empty. */
const startsDry = (question: SheetQuestion) =>
  has(question, "setup") || (has(question, "work") && question.kind.mendedFirst);

/** The supply, before anything that stood empty or dead is switched on. */
export function power(question: SheetQuestion): Station | null {
  if (!startsDry(question)) return null;
  const { volts, watts, hertz } = question.card.ratingPlate;
  return station(
    "power",
    "Power",
    "rating plate",
    [
      tick("power.plate", `Supply as on the rating plate: ${volts} V, ${hertz} Hz, ${watts} W`, {
        hint: `${Math.ceil(watts / volts)} A at full load. Fuse and socket must carry it.`,
      }),
      tick("power.earth", "Cord, plug and earth OK"),
    ],
    { cautions: ["supply"], skippable: false },
  );
}

/** Water into a boiler that stands empty. */
export function fills(question: SheetQuestion): (Station | null)[] {
  const { kind } = question;
  if (!startsDry(question) || kind.boiler === "none") return [];
  const after: [StationId, string][] = [
    ["water", "Hardness before the first fill."],
    ["line", "Line pressure inside its limits before start-up."],
    ["power", "The supply is checked before anything is switched on."],
    ...(kind.mendedFirst
      ? [["parts", "Work and parts first: the boiler stays empty until they are done."] as [StationId, string]]
      : []),
  ];
  const filled: [StationId, string][] = [
    ["prime", "A dry boiler is primed first."],
    ["fill", "The boiler is filled first."],
  ];
  const prime: Task = {
    id: "prime.wand",
    label: "Pump runs, wand open",
    hint: "Until water flows from the wand, under a minute. Then the pump rests a few minutes.",
    kind: "bursts",
    rule: PRIME,
    running: "Pump running",
    ended: "Water flows from the wand",
  };
  const fill: Task = {
    id: "fill.boiler",
    label:
      kind.fill === "main-switch"
        ? "Main switch to position 1: pump and fill only"
        : "Switched on: the level control fills",
    hint:
      kind.fill === "main-switch"
        ? "The gauge climbs to about 9 bar while it fills. Inside 2 minutes, or the control stops it to save the element."
        : "Inside 2 minutes, or stop it: the element must not heat an empty boiler.",
    kind: "bursts",
    rule: FILL,
    running: "Filling",
    ended: "Full: pump and fill have stopped",
  };
  return [
    kind.fill === "wand"
      ? station(
          "prime",
          "Prime through the wand",
          "jug under the wand",
          [tick("prime.tank", "Tank filled, wand open over a jug"), prime],
          {
            cautions: ["dry-element", "hot"],
            after,
            skippable: false,
          },
        )
      : station("fill", "First fill", "timer runs here", [fill], {
          cautions: ["dry-element", ...(kind.supply === "plumbed" ? (["water"] as const) : [])],
          after,
          skippable: false,
        }),
    has(question, "setup")
      ? station(
          "rinse",
          "Rinse the new boiler",
          "jug",
          [
            {
              id: "rinse.volume",
              label:
                kind.steamGauge || kind.fill === "wand" ? "Rinsed through the wand" : "Rinsed through group and wand",
              hint: "About 0.6 L before the first shots.",
              kind: "figure",
              dimension: "volume",
              possible: [0, 20_000],
              usual: [300, 5000],
              resolution: 10,
              tolerance: { lower: 500 },
              mustHold: { below: "Rinse on: about 0.6 L in all.", above: "" },
            },
          ],
          { after: filled },
        )
      : null,
    station(
      "purge",
      kind.groups > 1 ? "Purge the groups" : "Purge the group",
      "10 s each",
      Array.from({ length: kind.groups }, (_, i) => ({
        id: `purge.group-${i + 1}`,
        label:
          kind.groups > 1
            ? `Group ${i + 1} runs`
            : kind.pump === "none"
              ? "Lever down, water through the group"
              : "Group runs",
        hint: "About 10 s, until the water comes without air.",
        kind: "timer" as const,
        seconds: 10,
      })),
      { cautions: ["hot"], after: filled, skippable: false },
    ),
  ];
}

/** Work on a machine that has to be warmed up for it. A pressure check by itself finds it hot. */
const WARM_WORK: readonly Scope[] = ["setup", "steam", "temperature", "volumes", "shots", "hand-over"];

/** What the machine shows when it is ready: steam and idle line pressure, where they can be read. */
function atReady({ kind, card }: SheetQuestion): Task[] {
  return [
    ...(kind.steamGauge
      ? [
          measured("ready.steam", "Steam pressure at ready", "pressure", {
            possible: [0, 4],
            usual: [0.5, 2],
            resolution: 0.05,
            place: "boiler",
            optional: true,
            tolerance: card.steamPressure ?? undefined,
          }),
        ]
      : []),
    ...(kind.supply === "plumbed"
      ? [
          measured("ready.line", "Idle line pressure at ready", "pressure", {
            possible: [0, 16],
            usual: [1, 8],
            place: "line",
            optional: true,
            tolerance: card.linePressure
              ? { lower: card.linePressure.lowest, upper: card.linePressure.highest }
              : undefined,
          }),
        ]
      : []),
  ];
}

const SIGNS = {
  light: "ready light on",
  display: "set point on the display",
  gauge: "pressure on the boiler gauge",
  none: "",
};

/** Heat, and the waits for the levels that the visit needs. */
export function warmUp(question: SheetQuestion): Station[] {
  const { kind, level, schools } = question;
  if (kind.boiler === "none" || !WARM_WORK.some((scope) => has(question, scope))) return [];
  const levels: WarmLevel[] = [
    "boiler-ready",
    "machine-warm",
    ...(kind.warmUp.heatSoaked === null ? [] : (["heat-soaked"] as const)),
  ];
  const wanted: WarmLevel = levels.includes(level) ? level : "machine-warm";
  const blank = schools.warmUp === "blank-shots";
  const position = kind.fill === "main-switch" ? "Main switch to position 2: heat" : "Heat on";
  const warm: WarmLevel = wanted === "heat-soaked" ? "heat-soaked" : "machine-warm";
  return [
    station(
      "heat",
      "Heat",
      "machine filled",
      [{ id: "heat.on", label: position, kind: "heat", levels: ["boiler-ready", warm] }],
      {
        cautions: ["dry-element", ...(kind.cautions.includes("gas") ? (["gas"] as const) : [])],
        skippable: false,
        after: [
          ["prime", "Never heat an empty boiler: prime it first."],
          ["fill", "Never heat an empty boiler: fill it first."],
          ["purge", kind.groups > 1 ? "Groups are purged before heat." : "The group is purged before heat."],
          ["line", "Line pressure inside its limits before start-up."],
          ["power", "The supply is checked before anything is switched on."],
          ["parts", kind.mendedFirst ? "Work and parts first." : ""],
        ].filter(([, because]) => because !== "") as [StationId, string][],
      },
    ),
    station(
      "boiler-ready",
      "Boiler ready",
      "time",
      [
        ...atReady(question),
        {
          id: warmTask("boiler-ready"),
          label: WARM_WORDS["boiler-ready"],
          hint: `Ready when: ${SIGNS[kind.readySign]}.`,
          kind: "warm",
          level: "boiler-ready",
        },
      ],
      { cautions: kind.boiler === "thermoblock" ? [] : ["hot"], after: [["heat", "Heat is not on yet."]] },
    ),
    station(
      "warm",
      WARM_WORDS[warm],
      blank && warm === "machine-warm" ? "two blank shots" : "time",
      [
        {
          id: warmTask(warm),
          label:
            blank && warm === "machine-warm"
              ? "One or two blank shots through the locked-in portafilter"
              : WARM_WORDS[warm],
          hint: "The portafilter lives in the group: a cold one costs degrees.",
          kind: "warm",
          level: warm,
        },
      ],
      { after: [["boiler-ready", "Boiler ready comes first."]], schools: ["warmUp"] },
    ),
  ];
}
