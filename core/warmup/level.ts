import type { MachineKind } from "../kind";
import type { WarmLevel } from "./predict";

/**
 * The level of warm-up that readings count from where nobody chose one: a café's machine is heat-soaked when it serves, so it is read
 * so; at home warmed up is as far as it goes. Common practice.
 */
export function usualLevel({ supply, warmUp }: Pick<MachineKind, "supply" | "warmUp">): WarmLevel {
  return supply === "plumbed" && warmUp.heatSoaked !== null ? "heat-soaked" : "machine-warm";
}
