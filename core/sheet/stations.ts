import type { MachineKind } from "../kind";
import { pressureCheck } from "../pressure";

export type StationId =
  "look-over" | "tools" | "covers" | "as-found" | "adjust" | "as-left" | "release" | "refit" | "sign";

export interface Station {
  readonly id: StationId;
  readonly title: string;
  /** What it will need, told before it is reached. */
  readonly needs: string;
  /** A hard stop covers the sheet until it is confirmed. */
  readonly hardStop?: { readonly title: string; readonly lines: readonly string[]; readonly confirm: string };
  readonly tasks?: readonly string[];
}

/** Two readings at least: one alone shows no slip. Common practice: "read, note, repeat". */
export const READINGS_NEEDED = 2;

/**
 * Stations of a brew-pressure check in a service, in working order, for one kind of machine.
 * @throws RangeError for kinds that have no pump: the check does not apply to them.
 */
export function stationsFor(kind: MachineKind): Station[] {
  const check = pressureCheck(kind);
  if (check === "not-applicable")
    throw new RangeError(`A brew pressure check does not apply to this kind: ${kind.label}.`);
  const covers = check === "adjustable" && kind.opv !== "outside";
  const stations: (Station | false)[] = [
    { id: "look-over", title: "Look over", needs: "eyes, phone camera" },
    { id: "tools", title: "Tools", needs: "from the case", tasks: toolsFor(kind) },
    covers && COVERS,
    { id: "as-found", title: "As found", needs: "gauge in, machine hot" },
    check === "adjustable" && {
      id: "adjust",
      title: "Next move",
      needs: kind.opv === "isolation-tap" ? "screwdriver, tap closed" : "screwdriver",
    },
    check === "adjustable" && { id: "as-left", title: "As left", needs: "gauge" },
    !kind.threeWayValve && RELEASE,
    covers && REFIT,
    { id: "sign", title: "Sign", needs: "your name" },
  ];
  return stations.filter((s): s is Station => s !== false);
}

/** Tools for the check, known from the kind. Common practice. */
export function toolsFor(kind: MachineKind): string[] {
  const tools = ["Blind basket", "Portafilter gauge", "Towel"];
  if (kind.opv === "outside") tools.push("Flat screwdriver");
  if (kind.opv === "inside" || kind.opv === "isolation-tap") tools.push("Flat screwdriver", "Hex keys 2, 2.5 and 3 mm");
  return tools;
}

const LOCAL_RULES = "Local codes and licensed practice decide who may do this.";

const COVERS: Station = {
  id: "covers",
  title: "Covers off",
  needs: "dry hands, clear bench",
  hardStop: {
    title: "Covers off: live parts",
    lines: [
      "With the cover off and the machine on, terminals are live and pipes are hot.",
      "Switch off and unplug before the cover comes off. Keep it off only as long as the work needs.",
      "Dry hands, no rings, one hand behind you near live parts.",
      LOCAL_RULES,
    ],
    confirm: "Understood, cover is off",
  },
};

const RELEASE: Station = {
  id: "release",
  title: "Let the pressure out",
  needs: "towel, time",
  hardStop: {
    title: "Trapped pressure",
    lines: [
      "This machine has no three-way valve. Up to 10 bar stay behind the blanked portafilter long after the pump has stopped.",
      "Loosen the gauge slowly under a towel and let it bleed. Do not turn the handle.",
      "Wait until the gauge reads zero.",
      LOCAL_RULES,
    ],
    confirm: "The gauge reads zero",
  },
};

const REFIT: Station = {
  id: "refit",
  title: "Cover back on",
  needs: "switched off, unplugged",
  hardStop: {
    title: "Off and unplugged first",
    lines: [
      "Switch the machine off and pull the plug before the cover goes back on.",
      "No wire pinched, no tool left inside, every screw back in.",
      LOCAL_RULES,
    ],
    confirm: "It was unplugged, cover is on",
  },
};
