/**
 * Machine kinds: what is special about each for the work. Common practice in the trade; models belong to the library.
 * The pressure check uses pump, three-way valve, where the over-pressure valve is reached and where the gauge sits.
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
}

const kind = (
  id: KindId,
  label: string,
  pump: MachineKind["pump"],
  threeWayValve: boolean,
  opv: OpvAccess,
  gauge: MachineKind["gauge"],
): MachineKind => ({ id, label, pump, threeWayValve, opv, gauge, gaugeDrop: gauge === "pump" ? 1 : 0 });

export const KINDS: Readonly<Record<KindId, MachineKind>> = {
  K1: kind("K1", "Home machine with built-in grinder", "vibratory", true, "inside", "group"),
  K2: kind("K2", "Home single boiler, thermostat", "vibratory", true, "inside", "none"),
  K3: kind("K3", "Home single boiler, digital temperature control", "vibratory", true, "inside", "none"),
  K4: kind("K4", "Home dual boiler with settings menu", "vibratory", true, "outside", "pump"),
  K5: kind("K5", "Home dual boiler, boiler and group apart", "vibratory", true, "inside", "pump"),
  K6: kind("K6", "Grinds and tamps by itself", "vibratory", true, "inside", "none"),
  K7: kind("K7", "Compact heat exchanger, tank", "vibratory", true, "inside", "pump"),
  K8: kind("K8", "Tank machine with thermosiphon and isolation tap", "vibratory", true, "isolation-tap", "pump"),
  K9: kind("K9", "Old heat exchanger brought back into service", "vibratory", true, "inside", "pump"),
  K10: kind("K10", "Spring lever, plumbed", "none", true, "none", "none"),
  K11: kind("K11", "Two-group volumetric, plumbed", "rotary", true, "outside", "pump"),
  K12: kind("K12", "Saturated group with flow control", "vibratory", true, "inside", "group"),
  K13: kind("K13", "Small machine, pressurised basket", "vibratory", false, "spring", "none"),
  K14: kind("K14", "On-demand grinder", "none", false, "none", "none"),
};
