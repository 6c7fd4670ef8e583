import type { MachineKind } from "../../kind";
import { chosen } from "../records";
import type { Scope } from "../visit";
import { type Carried, type SheetQuestion, type Station, carriedTask, has } from "../plan";
import type { Task } from "../tasks";
import { station, tick } from "./build";

/** Arriving: the machine as it stands, its place, and the tools. */

/** Areas a condition note is pinned to. */
export function areasOf(kind: MachineKind): string[] {
  if (kind.groups === 0) return ["Front", "Hopper", "Burrs", "Chute", "Rear", "Cord and plug", "Noise"];
  return [
    "Front",
    "Left side",
    "Right side",
    "Rear",
    "Top",
    ...(kind.groups > 1 ? Array.from({ length: kind.groups }, (_, i) => `Group ${i + 1}`) : ["Group"]),
    "Portafilter and baskets",
    "Steam wand",
    "Tray",
    kind.supply === "plumbed" ? "Water line and drain" : "Tank",
    ...(kind.boiler === "lever" ? ["Lever and spring", "Sight glass"] : []),
    ...(kind.grinder === "separate" ? [] : ["Grinder"]),
    "Inside",
    "Cord and plug",
    "Noise",
    "Modifications",
  ];
}

const ACCESSORIES = [
  "Single basket",
  "Double basket",
  "Single-wall baskets",
  "Blind basket",
  "Tamper",
  "Jug",
  "Hoses",
  "Test strip",
];

/** Accessories to count for a kind. */
export function accessoriesOf(kind: MachineKind): string[] {
  if (kind.groups === 0) return ["Hopper and lid", "Fork or holder", "Brush"];
  return ACCESSORIES.filter((a) => a !== "Hoses" || kind.supply === "plumbed");
}

/** The machine as it stands, before anything is touched; on a new one whether it was hurt on its way. */
export function lookOver(question: SheetQuestion): Station {
  const { kind } = question;
  const damage: Task[] = has(question, "setup")
    ? [
        {
          id: "look-over.damage",
          label: "Transport damage, box and machine",
          kind: "choice",
          options: [
            { value: "none", label: "None seen" },
            { value: "found", label: "Damage found" },
          ],
        },
        {
          id: "look-over.decision",
          label: "Reported. What was decided",
          hint: "Report it before going on.",
          kind: "choice",
          when: (r) => chosen(r, "look-over.damage") === "found",
          options: [
            { value: "go-on", label: "Go on with it, damage on record" },
            { value: "return", label: "Stop: the machine goes back" },
          ],
        },
      ]
    : [];
  return station(
    "look-over",
    "Look over",
    "phone camera",
    [
      { id: "look-over.condition", label: "Condition as it stands", kind: "condition" },
      ...(question.carried ?? []).map(stillThere),
      ...damage,
      ...(has(question, "setup") || has(question, "work") || has(question, "hand-over")
        ? [
            {
              id: "look-over.accessories",
              label: "Accessories present",
              hint: `Count what is there: ${accessoriesOf(kind).join(", ").toLowerCase()}.`,
              kind: "text" as const,
            },
          ]
        : []),
    ],
    { skippable: false, ...(kind.heavy ? { cautions: ["lift" as const] } : {}) },
  );
}

/** What an earlier visit left in or put off, asked for before anything is touched. */
function stillThere({ id, kind, what, since, said }: Carried): Task {
  const fault = kind === "fault";
  return {
    id: carriedTask(id),
    label: fault ? `Still there? ${what}` : `Put off before: ${what}`,
    hint: `${since}: ${said}`,
    kind: "choice",
    options: fault
      ? [
          { value: "still", label: "Still there" },
          { value: "gone", label: "Gone by itself" },
          { value: "mended", label: "Mended on this visit" },
        ]
      : [
          { value: "still", label: "Put off again" },
          { value: "done", label: "Done on this visit" },
          { value: "dropped", label: "Not wanted any more" },
        ],
  };
}

/** Where a new machine stands. */
export function place(question: SheetQuestion): Station | null {
  const { kind } = question;
  if (!has(question, "setup")) return null;
  return station(
    "place",
    "Set it down",
    kind.heavy ? "two people" : "level surface",
    [
      tick(
        "place.level",
        "Stable, level surface",
        kind.heavy ? { hint: "Lift with hands at group and rear, two people." } : {},
      ),
      ...(kind.groups > 0 ? [tick("place.room", "Room for the rear, the cord and the tank or hoses")] : []),
    ],
    { cautions: kind.heavy ? ["lift"] : [] },
  );
}

/** What the visit will need, laid out before hands are wet. */
export function tools(question: SheetQuestion): Station {
  return station("tools", "Tools", "from the case", [tick("tools", "All set out")], {
    list: toolsFor(question),
    ...(question.kind.groups === 0 ? { cautions: ["burrs"] } : {}),
  });
}

/** Tools for the job, known from the kind. Common practice. */
export function toolsFor(question: Pick<SheetQuestion, "scopes" | "kind">): string[] {
  const { kind } = question;
  const any = (...scopes: Scope[]) => scopes.some((scope) => has(question, scope));
  if (kind.groups === 0) return [...new Set([...kind.tools, "Towel"])];
  const pressure = has(question, "pressure");
  const inside = kind.opv === "inside" || kind.opv === "isolation-tap";
  return [
    ...new Set([
      ...(any("pressure", "clean") ? ["Blind basket"] : []),
      ...(pressure && kind.pump !== "none" ? ["Portafilter gauge"] : []),
      "Towel",
      ...(pressure && (inside || kind.opv === "outside") ? ["Flat screwdriver"] : []),
      ...(pressure && inside ? ["Hex keys 2, 2.5 and 3 mm"] : []),
      ...(any("volumes", "grinder", "shots") ? ["Scale to 0.1 g"] : []),
      ...(any("temperature", "steam", "hand-over") ? ["Thermometer, thin probe"] : []),
      ...(any("setup", "steam", "temperature", "volumes", "shots") ? ["Timer"] : []),
      ...(any("water", "setup") ? ["Hardness strip"] : []),
      ...(any("setup", "steam", "volumes", "hand-over") ? ["Jug"] : []),
      ...(any("setup", "work", "grinder", "volumes", "hand-over") ? kind.tools : []),
    ]),
  ];
}
