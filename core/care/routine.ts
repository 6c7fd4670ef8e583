import { type MachineKind, type ModelCard, descalingRule } from "../kind";
import type { SchoolsOf } from "../school";

/** What an owner does to keep a machine well: by kind, by where it works, and as the workshop’s methods have it. Common practice of the trade. */

export const WHENS = {
  shot: "After each shot",
  steam: "After steaming",
  day: "At the end of the day",
  week: "Each week",
  month: "Each month",
  use: "By how much it makes",
} as const;
export type When = keyof typeof WHENS;

export interface Care {
  readonly when: When;
  readonly what: string;
}

type Schools = Pick<SchoolsOf, "backFlush" | "ownerDescaling">;

/** Water as it goes into the machine. */
export interface OwnWater {
  /** mg/L as CaCO3; null where nobody has read it. */
  readonly hardness: number | null;
}

/** Calcium carbonate that may pass a machine between two descalings, mg. Our choice: 50 L of water at 200 mg/L. */
const SCALE_MG = 10_000;
/** L; harder or softer water is not counted further. */
const DESCALE_LITRES = { least: 20, most: 200 } as const;
/** Water through the machine for one double with its flushes, ml. Common practice. */
export const SHOT_ML = 120;
/** Shots of one group gasket and shower screen; home machines do fewer a year, shops more. Common practice. */
export const GASKET_SHOTS = { home: 2000, shop: 20_000 } as const;

/**
 * Litres after which a machine is descaled where its owner may do so.
 *
 * @param hardness mg/L as CaCO3, > 0
 * @example descaleEvery(200) // 50
 */
export function descaleEvery(hardness: number): number {
  const litres = SCALE_MG / hardness;
  return Math.round(Math.min(DESCALE_LITRES.most, Math.max(DESCALE_LITRES.least, litres)) / 5) * 5;
}

/**
 * What is done when.
 *
 * @returns the oftenest first
 */
export function routineOf(
  kind: MachineKind,
  card: Pick<ModelCard, "descaling">,
  schools: Schools,
  { hardness }: OwnWater = { hardness: null },
): Care[] {
  // Plumbed in, it works in a shop.
  const shop = kind.supply === "plumbed";
  const does = (when: When, ...whats: (string | false)[]): Care[] =>
    whats.flatMap((what) => (what ? [{ when, what }] : []));
  if (kind.groups === 0)
    return [
      ...does(
        "day",
        "Brush the chute and wipe what lies around.",
        shop && "Empty the hopper and close the beans away.",
      ),
      ...does("week", "Unplug it, wipe the hopper out, brush burrs as far as they can be seen."),
      ...does("month", "Time the dose again; also after every change of the grind."),
    ];
  const flushes = kind.threeWayValve && kind.pump !== "none";
  const descaling = descalingRule(card.descaling, schools.ownerDescaling);
  const litres = descaling.owner && hardness !== null && hardness > 0 ? descaleEvery(hardness) : null;
  const often = schools.backFlush === "every-session" || shop;
  return [
    ...does("shot", "Knock out, rinse the portafilter, run a short flush, wipe the group."),
    ...does(
      "steam",
      kind.steams && "Wipe the wand at once with a damp cloth and purge it.",
      kind.steams &&
        kind.boiler === "single" &&
        "Refill the boiler straight away: run water through until it flows cold of steam.",
    ),
    ...does(
      "day",
      flushes &&
        (often ? "Back-flush with plain water, in a shop several times a day." : "Back-flush with plain water."),
      !flushes && "Brush the shower screen and wipe the seal.",
      kind.supply === "tank" && "Empty the drip tray, fill the tank with fresh water.",
      shop && "Soak portafilters and baskets, rinse the drain.",
    ),
    ...does(
      "week",
      flushes && "Back-flush with cleaner, then five times with plain water.",
      "Soak baskets and screen in cleaner, rinse well.",
      kind.grinder !== "separate" && "Brush the grinder’s chute; wipe the hopper dry.",
    ),
    ...does("month", litres === null && descaling.says, "Look at gaskets and hoses for drips."),
    ...does(
      "use",
      litres !== null &&
        `Descale by the owner’s cycle every ${litres} L, about ${shots(litres)} doubles, at the hardness read (${hardness!.toFixed(0)} mg/L). Sooner with harder water.`,
      flushes
        ? `Gasket and shower screen: new about every ${(shop ? GASKET_SHOTS.shop : GASKET_SHOTS.home).toLocaleString("en-GB")} shots, or at the next service.`
        : "Seal of the group: new when coffee creeps past it, or at the next service.",
    ),
  ];
}

/** Doubles that so many litres make, rounded to fifty. */
const shots = (litres: number) => Math.round((1000 * litres) / SHOT_ML / 50) * 50;

/** What worries owners and is as it should be. */
export function normalOn(kind: MachineKind): string[] {
  if (kind.groups === 0) return ["A few grams stay in the chute: the first dose after a pause is old coffee."];
  return [
    "The puck is wet and may stick: the coffee is what counts.",
    ...(kind.pump !== "none" && kind.opv !== "none"
      ? [
          `Surplus water runs back to the ${kind.supply === "tank" ? "tank or tray" : "tray"} during a shot: the valve at work.`,
        ]
      : []),
    ...(kind.threeWayValve ? ["A short gush into the tray when the shot ends: the pressure is let go."] : []),
    ...(kind.supply === "plumbed" ? ["The pump runs for a moment by itself: the boiler fills up."] : []),
    ...(kind.pump === "vibratory" && kind.gauge !== "none" ? ["The needle trembles by a few tenths of a bar."] : []),
  ];
}
