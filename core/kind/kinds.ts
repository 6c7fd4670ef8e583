import type { SchoolsOf } from "../school";
import type { CautionId } from "./cautions";

/**
 * Machine kinds: what is special about each for the work. Common practice in the trade; models belong to the library.
 */
export const KIND_IDS = [
  "K1",
  "K2",
  "K3",
  "K4",
  "K5",
  "K6",
  "K7",
  "K8",
  "K9",
  "K10",
  "K11",
  "K12",
  "K13",
  "K14",
] as const;
export type KindId = (typeof KIND_IDS)[number];

export type OpvAccess =
  /** Screw reached from outside. */
  | "outside"
  /** Screw behind the case: covers off. */
  | "inside"
  /** Isolation tap before the group: closed for setting. */
  | "isolation-tap"
  /** No screw: springs of different strength are swapped. */
  | "spring"
  /** No over-pressure valve at all. */
  | "none";

/** Knobs a technician turns on it; each goes through the one engine. */
export type KindKnob =
  | "opv"
  | "spring"
  | "pressurestat"
  | "line-regulator"
  | "offset"
  | "dose-button"
  | "pre-infusion"
  | "grind"
  | "dose-dial"
  | "dose-stop"
  | "timer";

export interface MachineKind {
  readonly id: KindId;
  /** One line for lists. */
  readonly label: string;
  readonly pump: "vibratory" | "rotary" | "none";
  /** Without a three-way valve, pressure stays behind a blanked portafilter. */
  readonly threeWayValve: boolean;
  readonly opv: OpvAccess;
  readonly gauge: "group" | "pump" | "none";
  /** Approximate drop from a pump-side gauge to the group, bar; 0 for others. */
  readonly gaugeDrop: number;
  readonly boiler: "thermoblock" | "single" | "dual" | "heat-exchanger" | "lever" | "none";
  readonly supply: "tank" | "plumbed" | "none";
  /** How an empty boiler gets its water: through the open wand, by its own level control, or by a main switch that fills first. */
  readonly fill: "wand" | "own" | "main-switch" | "none";
  readonly groups: number;
  /** Coffee is dosed into a basket by hand or grinder; false where it comes portioned. */
  readonly dosed: boolean;
  /** Makes steam worth working on. */
  readonly steams: boolean;
  /** Comes in dead: it is mended before anything can be read as found. */
  readonly mendedFirst: boolean;
  /** A pressure dial without figures, and the smallest step of an offset, °C. */
  readonly bareDial: boolean;
  /** A valve before the group throttles the flow on every machine of the kind. */
  readonly flowControl: boolean;
  readonly offsetStep: number;
  /** What says that the boiler is ready. */
  readonly readySign: "light" | "display" | "gauge" | "none";
  /** Boiler pressure can be read. */
  readonly steamGauge: boolean;
  /** Element, water and switch-off temperature to begin with; the model card has its own. Null where nothing is heated. */
  readonly heating: { readonly watts: number; readonly litres: number; readonly to: number } | null;
  /** Usual minutes from switching the heat on; null where the level means nothing. */
  readonly warmUp: { readonly boilerReady: number; readonly machineWarm: number; readonly heatSoaked: number | null };
  /** What may be done against scale, before the model card says otherwise. */
  readonly descaling: "owner-cycle" | "workshop-only" | "dismantle-only";
  readonly heavy: boolean;
  /** What the dose buttons store; unknown until tested. */
  readonly buttons: "volume" | "time" | "unknown" | "none";
  readonly grinder: "built-in" | "itself" | "separate";
  readonly knobs: readonly KindKnob[];
  readonly cautions: readonly CautionId[];
  /** Tools beyond the usual ones. */
  readonly tools: readonly string[];
  /** What must never be done on it. */
  readonly forbidden: readonly string[];
  /** What is special for the work. */
  readonly special: readonly string[];
  /** How its OPV is meant, where that is not the workshop’s to choose first. */
  readonly opvSchool?: SchoolsOf["opv"];
}

type Given = Omit<MachineKind, "id" | "gaugeDrop">;

const HOME: Omit<Given, "label"> = {
  pump: "vibratory",
  threeWayValve: true,
  opv: "inside",
  gauge: "none",
  boiler: "single",
  supply: "tank",
  fill: "wand",
  groups: 1,
  dosed: true,
  steams: true,
  mendedFirst: false,
  bareDial: false,
  flowControl: false,
  offsetStep: 0.5,
  readySign: "light",
  steamGauge: false,
  heating: { watts: 1200, litres: 0.3, to: 96 },
  warmUp: { boilerReady: 3, machineWarm: 20, heatSoaked: null },
  descaling: "owner-cycle",
  heavy: false,
  buttons: "none",
  grinder: "separate",
  knobs: ["opv", "grind"],
  cautions: ["live-parts", "hot", "dry-element", "supply"],
  tools: [],
  forbidden: [],
  special: [],
};

const BIG: Pick<Given, "heavy" | "descaling" | "readySign" | "steamGauge" | "cautions" | "fill"> = {
  heavy: true,
  descaling: "workshop-only",
  readySign: "gauge",
  steamGauge: true,
  fill: "own",
  cautions: ["live-parts", "hot", "dry-element", "pressure-vessel", "lift", "supply"],
};

const GIVEN: Readonly<Record<KindId, Partial<Given> & Pick<Given, "label">>> = {
  K1: {
    label: "Home machine with built-in grinder",
    bareDial: true,
    gauge: "group",
    boiler: "thermoblock",
    fill: "own",
    heating: { watts: 1600, litres: 0.08, to: 94 },
    warmUp: { boilerReady: 1, machineWarm: 10, heatSoaked: null },
    buttons: "unknown",
    grinder: "built-in",
    knobs: ["opv", "dose-button", "grind", "dose-dial"],
    cautions: ["live-parts", "hot", "supply"],
    tools: ["Grinder brush"],
    forbidden: ["The OPV inside is not for the owner to adjust."],
    special: ["The dial has no numbers: about 12 to 1 o’clock is 9 bar.", "Factory reset clears both buttons."],
  },
  K2: {
    label: "Home single boiler, thermostat",
    heating: { watts: 1100, litres: 0.2, to: 105 },
    cautions: ["live-parts", "hot", "dry-element", "supply"],
    forbidden: ["Never leave it steamed out: refill the boiler straight after steaming."],
    special: [
      "No display: brew moments are timed against the light cycle.",
      "An opened wand bleeds pressure for a soft start.",
    ],
  },
  K3: {
    label: "Home single boiler, digital temperature control",
    readySign: "display",
    knobs: ["opv", "offset", "grind"],
    special: [
      "Primed through the open wand with the pump running until water flows.",
      "Cool-down flush after steaming.",
    ],
  },
  K4: {
    label: "Home dual boiler with settings menu",
    opv: "outside",
    gauge: "pump",
    boiler: "dual",
    fill: "own",
    readySign: "display",
    heating: { watts: 1400, litres: 0.6, to: 125 },
    warmUp: { boilerReady: 5, machineWarm: 25, heatSoaked: null },
    knobs: ["opv", "offset", "pre-infusion", "grind"],
    special: ["Menu: pre-infusion and pause, offset, shot timer, steam temperature, standby."],
  },
  K5: {
    label: "Home dual boiler, boiler and group apart",
    offsetStep: 1,
    gauge: "pump",
    boiler: "dual",
    fill: "own",
    readySign: "display",
    heating: { watts: 1400, litres: 0.9, to: 125 },
    warmUp: { boilerReady: 5, machineWarm: 30, heatSoaked: null },
    knobs: ["opv", "offset", "grind"],
    special: ["The offset hides in a start-up mode and moves in whole degrees."],
  },
  K6: {
    label: "Grinds and tamps by itself",
    boiler: "thermoblock",
    fill: "own",
    readySign: "display",
    heating: { watts: 1600, litres: 0.08, to: 94 },
    warmUp: { boilerReady: 1, machineWarm: 10, heatSoaked: null },
    buttons: "volume",
    grinder: "built-in",
    knobs: ["opv", "dose-button", "grind", "dose-stop"],
    cautions: ["live-parts", "hot", "supply", "burrs"],
    tools: ["Grinder brush"],
    special: [
      "The dose is set by a threaded stop: about 1 g a thread to begin with. Which way gives more is the model’s.",
      "Keep more than 2.5 cm of beans in the hopper.",
    ],
  },
  K7: {
    label: "Compact heat exchanger, tank",
    ...BIG,
    heavy: false,
    cautions: ["live-parts", "hot", "dry-element", "pressure-vessel", "supply"],
    gauge: "pump",
    boiler: "heat-exchanger",
    heating: { watts: 1400, litres: 1.2, to: 125 },
    warmUp: { boilerReady: 12, machineWarm: 30, heatSoaked: null },
    descaling: "owner-cycle",
    knobs: ["opv", "pressurestat", "grind"],
    special: ["OPV at the rear with the case off, about half a turn per bar."],
  },
  K8: {
    label: "Tank machine with thermosiphon and isolation tap",
    ...BIG,
    opv: "isolation-tap",
    gauge: "pump",
    boiler: "heat-exchanger",
    heating: { watts: 1400, litres: 1.5, to: 125 },
    warmUp: { boilerReady: 15, machineWarm: 30, heatSoaked: null },
    descaling: "dismantle-only",
    knobs: ["opv", "offset", "grind"],
    forbidden: ["No acid through the tank, ever: a workshop dismantles and descales."],
    special: ["Tap closed, set the OPV, tap open.", "Four temperature steps."],
  },
  K9: {
    label: "Old heat exchanger brought back into service",
    mendedFirst: true,
    ...BIG,
    gauge: "pump",
    boiler: "heat-exchanger",
    heating: { watts: 1800, litres: 2.5, to: 125 },
    warmUp: { boilerReady: 20, machineWarm: 40, heatSoaked: null },
    knobs: ["opv", "pressurestat", "grind"],
    cautions: ["live-parts", "hot", "dry-element", "pressure-vessel", "acid", "lift", "supply"],
    tools: ["Multimeter", "Spanners", "Food-safe grease", "Thread seal"],
    special: [
      "A cracked safety valve is never cleaned and refitted into use.",
      "Descale, element, safety valve, pressurestat, steam spindle, wiring: parts replaced, with reasons.",
    ],
  },
  K10: {
    label: "Spring lever, plumbed",
    ...BIG,
    pump: "none",
    opv: "none",
    boiler: "lever",
    supply: "plumbed",
    heating: { watts: 2400, litres: 6, to: 120 },
    warmUp: { boilerReady: 30, machineWarm: 50, heatSoaked: 120 },
    knobs: ["pressurestat", "line-regulator", "pre-infusion", "grind"],
    cautions: [
      "live-parts",
      "hot",
      "dry-element",
      "pressure-vessel",
      "gas",
      "lift",
      "water",
      "back-flow",
      "carbon-fines",
      "supply",
    ],
    tools: ["Line pressure gauge", "Spanners"],
    forbidden: ["Never let go of a cocked lever without resistance: it flies up."],
    special: [
      "No pump: line pressure makes the pre-infusion, the spring the shot.",
      "Sight glass and pressurestat band.",
    ],
  },
  K11: {
    label: "Two-group volumetric, plumbed",
    ...BIG,
    pump: "rotary",
    opv: "outside",
    gauge: "pump",
    boiler: "heat-exchanger",
    supply: "plumbed",
    fill: "main-switch",
    groups: 2,
    heating: { watts: 3800, litres: 11, to: 124 },
    warmUp: { boilerReady: 30, machineWarm: 60, heatSoaked: 120 },
    buttons: "volume",
    knobs: ["opv", "pressurestat", "line-regulator", "dose-button", "grind"],
    cautions: [
      "live-parts",
      "hot",
      "dry-element",
      "pressure-vessel",
      "lift",
      "water",
      "back-flow",
      "carbon-fines",
      "supply",
    ],
    tools: ["Line pressure gauge", "Bucket, 10 L", "Spanners"],
    special: [
      "Set the pump with the line connected and the other group closed.",
      "A flow meter and two or four dose buttons per group.",
    ],
  },
  K12: {
    label: "Saturated group with flow control",
    flowControl: true,
    gauge: "group",
    boiler: "dual",
    fill: "own",
    readySign: "display",
    heating: { watts: 1400, litres: 1.1, to: 128 },
    warmUp: { boilerReady: 8, machineWarm: 35, heatSoaked: null },
    descaling: "workshop-only",
    knobs: ["opv", "offset", "pre-infusion", "grind"],
    opvSchool: "ceiling",
    special: ["The OPV is a ceiling at about 12 bar.", "Where the gauge is tapped changes what it shows."],
  },
  K13: {
    label: "Small machine, pressurised basket",
    dosed: false,
    steams: false,
    threeWayValve: false,
    opv: "spring",
    boiler: "thermoblock",
    heating: { watts: 1100, litres: 0.06, to: 94 },
    warmUp: { boilerReady: 1, machineWarm: 10, heatSoaked: null },
    buttons: "time",
    knobs: ["spring", "dose-button"],
    cautions: ["live-parts", "hot", "trapped-pressure", "supply"],
    forbidden: ["Never turn the handle while pressure is trapped behind it."],
    special: ["No screw: a spring change instead."],
  },
  K14: {
    label: "On-demand grinder",
    steams: false,
    pump: "none",
    threeWayValve: false,
    opv: "none",
    boiler: "none",
    supply: "none",
    fill: "none",
    groups: 0,
    readySign: "none",
    heating: null,
    warmUp: { boilerReady: 0, machineWarm: 0, heatSoaked: null },
    descaling: "dismantle-only",
    grinder: "itself",
    knobs: ["timer", "grind"],
    cautions: ["burrs", "supply"],
    tools: ["Scale to 0.1 g", "Grinder brush", "Vacuum"],
    forbidden: ["No water near the burrs."],
    special: ["Doses by seconds: grams a second depend on the setting, so a grind change asks for re-timing."],
  },
};

export const KINDS = Object.fromEntries(
  KIND_IDS.map((id) => {
    const given = { ...HOME, ...GIVEN[id] };
    return [id, { id, gaugeDrop: given.gauge === "pump" ? 1 : 0, ...given } satisfies MachineKind];
  }),
) as Readonly<Record<KindId, MachineKind>>;

/** Springs a model without a screw is served with, weakest first. From memory; the model card has its own. */
export const USUAL_SPRINGS = [
  { name: "soft", bar: 8 },
  { name: "medium", bar: 9.5 },
  { name: "stiff", bar: 11 },
  { name: "extra stiff", bar: 13 },
] as const;

/** 12 to 1 o’clock is 9 bar (common practice); rest at 8 and all the way at 3 from memory. */
export const USUAL_DIAL = [
  [8, 0],
  [12.5, 9],
  [15, 14],
] as const;

/** What a model says of itself, over what its kind says. */
export interface ModelCard {
  readonly ratingPlate: { readonly volts: number; readonly watts: number; readonly hertz: 50 | 60 };
  readonly boilerLitres: number;
  readonly elementWatts: number;
  readonly descaling: MachineKind["descaling"];
  /** Where its over-pressure valve is reached. */
  readonly opvAccess: OpvAccess;
  readonly buttons: MachineKind["buttons"];
  /** How a dose button is set: by typing pulses, or only by teaching it. */
  readonly programming: "pulses" | "teach";
  /** Groups it has: a model may have more than its kind usually does, 1 to 4; 0 for a grinder. */
  readonly groups: number;
  /** Dose buttons a group has, 0 to 6. */
  readonly doseButtons: number;
  /** Its grinder’s scale, where it has one built in: +1 where a larger figure is finer, the smallest step, and where it ends, if known. */
  readonly grindScale: {
    readonly finer: 1 | -1;
    readonly step: number;
    readonly lowest?: number | undefined;
    readonly highest?: number | undefined;
  };
  /** Springs it can be fitted with where there is no screw, weakest first. */
  readonly springs: readonly { readonly name: string; readonly bar: number }[];
  /** A dial without figures: [hour on a clock face, bar], ascending; null where the dial has figures. */
  readonly dial: readonly (readonly [number, number])[] | null;
  /** Degrees the display is corrected by, at least, and whether a positive offset makes the water hotter. Null: no offset. */
  readonly offset: { readonly step: number; readonly raises: boolean } | null;
  /** What more threads showing of its dose stop give. Asked before the first adjustment where nobody has found out; null without a stop. */
  readonly stopThreads: "more" | "less" | "unknown" | null;
  /** Idle line pressure allowed, bar; null for tank machines. */
  readonly linePressure: { readonly lowest: number; readonly highest: number } | null;
  /** Steam pressure that passes, bar; null where it can't be read. */
  readonly steamPressure: { readonly lower: number; readonly upper: number } | null;
  readonly note: string;
}

/** The card a model starts with: its kind's usual figures. */
export function usualCard(kind: MachineKind): ModelCard {
  return {
    ratingPlate: { volts: 230, watts: (kind.heating?.watts ?? 250) + (kind.pump === "none" ? 0 : 60), hertz: 50 },
    boilerLitres: kind.heating?.litres ?? 0,
    elementWatts: kind.heating?.watts ?? 0,
    descaling: kind.descaling,
    opvAccess: kind.opv,
    buttons: kind.buttons,
    programming: kind.groups > 1 ? "pulses" : "teach",
    groups: kind.groups,
    doseButtons: 2,
    grindScale: { finer: -1, step: 1 },
    springs: kind.opv === "spring" ? USUAL_SPRINGS : [],
    dial: kind.bareDial ? USUAL_DIAL : null,
    offset: kind.knobs.includes("offset") ? { step: kind.offsetStep, raises: true } : null,
    stopThreads: kind.knobs.includes("dose-stop") ? "unknown" : null,
    linePressure: kind.supply === "plumbed" ? { lowest: 3, highest: 6 } : null,
    steamPressure: !kind.steamGauge
      ? null
      : kind.boiler === "lever"
        ? { lower: 1, upper: 1.2 }
        : { lower: 1.2, upper: 1.4 },
    note: "",
  };
}
