import type { MachineKind, ModelCard } from "../kind";

/** What a visit is for. A sheet is built from its scopes; the usual visits are sets of them that can be changed while the job is open. */

export const SCOPES = {
  setup: { title: "Set up and fill", about: "from boxes to a filled machine" },
  water: { title: "Water", about: "hardness, cartridge, line" },
  pressure: { title: "Pressure", about: "as found, set, as left" },
  steam: { title: "Boiler and steam", about: "pressurestat, gauge, steam" },
  temperature: { title: "Temperature", about: "offset, or timing where there is none" },
  volumes: { title: "Volumes and buttons", about: "meters, what buttons give, teaching them" },
  grinder: { title: "Grinder and dose", about: "dose by the scale" },
  shots: { title: "Shots", about: "until one is the recipe" },
  work: { title: "Work and parts", about: "what was done, renewed or declined" },
  clean: { title: "Clean", about: "back-flush, wipe" },
  "hand-over": { title: "Hand over", about: "milk, and the owner shown" },
} as const satisfies Record<string, { title: string; about: string }>;

export type Scope = keyof typeof SCOPES;
export const SCOPE_IDS = Object.keys(SCOPES) as [Scope, ...Scope[]];

/** Usual visits. Common practice in the trade. */
export const PRESETS = {
  install: {
    title: "Install",
    about: "from boxes to a hot machine in spec, the owner taught",
    scopes: ["setup", "water", "pressure", "steam", "temperature", "volumes", "grinder", "shots", "clean", "hand-over"],
  },
  service: {
    title: "Service",
    about: "as found, work and parts, as left",
    scopes: ["water", "pressure", "steam", "temperature", "volumes", "grinder", "work", "clean"],
  },
  handover: {
    title: "Handover",
    about: "demonstration, buttons and the owner’s card",
    scopes: ["water", "steam", "volumes", "grinder", "shots", "clean", "hand-over"],
  },
  check: {
    title: "Pressure check",
    about: "brew pressure only: as found, set, as left",
    scopes: ["pressure"],
  },
} as const satisfies Record<string, { title: string; about: string; scopes: readonly Scope[] }>;

export type Preset = keyof typeof PRESETS;
export const PRESET_IDS = Object.keys(PRESETS) as [Preset, ...Preset[]];

/** What there is to do on this machine. */
export function scopesFor(kind: MachineKind, card: Pick<ModelCard, "buttons" | "doseButtons">): Scope[] {
  const brews = kind.groups > 0;
  const applies: Record<Scope, boolean> = {
    setup: true,
    water: kind.supply !== "none",
    pressure: kind.pump !== "none" || kind.boiler === "lever",
    steam: kind.steams,
    temperature: brews,
    volumes: brews && card.buttons !== "none" && card.doseButtons > 0,
    grinder: kind.dosed,
    shots: brews,
    work: true,
    clean: true,
    "hand-over": true,
  };
  return SCOPE_IDS.filter((id) => applies[id]);
}

/** The scopes of a usual visit to this machine, those left out that it has nothing of. */
export function presetScopes(
  preset: Preset,
  kind: MachineKind,
  card: Pick<ModelCard, "buttons" | "doseButtons">,
): Scope[] {
  const here = scopesFor(kind, card);
  return PRESETS[preset].scopes.filter((id) => here.includes(id));
}

/** Which usual visit these scopes are on this machine; null when they are put together by hand. */
export function presetOf(
  scopes: readonly Scope[],
  kind: MachineKind,
  card: Pick<ModelCard, "buttons" | "doseButtons">,
): Preset | null {
  const here = scopesFor(kind, card).filter((id) => scopes.includes(id));
  const same = (of: readonly Scope[]) => of.length === here.length && of.every((id) => here.includes(id));
  return PRESET_IDS.find((preset) => same(presetScopes(preset, kind, card))) ?? null;
}

/**
 * What a visit is called: the usual name of its scopes, else a list of them.
 *
 * @example visitTitle(["temperature", "clean"], …) // "Temperature, clean"
 */
export function visitTitle(
  scopes: readonly Scope[],
  kind: MachineKind,
  card: Pick<ModelCard, "buttons" | "doseButtons">,
): string {
  const preset = presetOf(scopes, kind, card);
  if (preset) return PRESETS[preset].title;
  const words = SCOPE_IDS.filter((id) => scopes.includes(id)).map((id) => SCOPES[id].title.toLowerCase());
  return words.join(", ").replace(/^./, (c) => c.toUpperCase());
}
