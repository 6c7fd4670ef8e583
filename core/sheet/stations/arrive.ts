import type { MachineKind } from "../../kind";
import { chosen } from "../records";
import type { SheetQuestion, Station, Task } from "../plan";
import { station, tick } from "./build";

/** Arriving: the machine as it stands, its place, and the tools. */

/** Areas a condition note is pinned to. */
export function areasOf(kind: MachineKind): string[] {
  if (kind.groups === 0) return ["Front", "Hopper", "Burrs", "Chute", "Rear", "Cord and plug", "Sound"];
  return [
    "Front",
    "Left side",
    "Right side",
    "Rear",
    "Top",
    ...(kind.groups === 2 ? ["Group 1", "Group 2"] : ["Group"]),
    "Portafilter and baskets",
    "Steam wand",
    "Tray",
    kind.supply === "plumbed" ? "Water line and drain" : "Tank",
    ...(kind.boiler === "lever" ? ["Lever and spring", "Sight glass"] : []),
    ...(kind.grinder === "separate" ? [] : ["Grinder"]),
    "Inside",
    "Cord and plug",
    "Sound",
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

export function lookOver({ type, kind }: SheetQuestion): Station {
  const damage: Task[] =
    type === "install"
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
    "eyes, phone camera",
    [
      { id: "look-over.condition", label: "Condition as it stands", kind: "condition" },
      ...damage,
      ...(type === "check"
        ? []
        : [
            {
              id: "look-over.accessories",
              label: "Accessories present",
              hint: `Count what is there: ${accessoriesOf(kind).join(", ").toLowerCase()}.`,
              kind: "text" as const,
            },
          ]),
    ],
    { skippable: false },
  );
}

export function place({ type, kind }: SheetQuestion): Station | null {
  if (type !== "install") return null;
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

export function tools(question: SheetQuestion): Station {
  return station("tools", "Tools", "from the case", [tick("tools", "All laid out")], {
    ...(question.kind.groups === 0 ? { cautions: ["burrs"] } : {}),
  });
}

/** Tools for the job, known from the kind. Common practice. */
export function toolsFor({ type, kind }: Pick<SheetQuestion, "type" | "kind">): string[] {
  if (kind.groups === 0) return [...new Set([...kind.tools, "Towel"])];
  const list = ["Blind basket", ...(kind.pump === "none" ? [] : ["Portafilter gauge"]), "Towel"];
  if (kind.opv === "outside") list.push("Flat screwdriver");
  if (kind.opv === "inside" || kind.opv === "isolation-tap") list.push("Flat screwdriver", "Hex keys 2, 2.5 and 3 mm");
  if (type !== "check")
    list.push("Scale to 0.1 g", "Thermometer, thin probe", "Timer", "Hardness strip", "Jug", ...kind.tools);
  return [...new Set(list)];
}
