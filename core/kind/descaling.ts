import type { SchoolsOf } from "../school";
import type { ModelCard } from "./kinds";

/** Whether a machine may be descaled, and by whom: a permission of the model, whatever a workshop's methods say. */

export interface DescalingRule {
  /** The rule, as sheet and report say it. */
  readonly says: string;
  /** Whether an owner may run a cycle. */
  readonly owner: boolean;
  /** Whether acid may go through the tank at all. */
  readonly throughTank: boolean;
  /** What is done where the owner asks for it and it is not permitted; "" where it is. */
  readonly instead: string;
}

/**
 * What the model permits, narrowed by the workshop's method: a method never permits what the model forbids.
 */
export function descalingRule(
  descaling: ModelCard["descaling"],
  method: SchoolsOf["ownerDescaling"] = "cycle",
): DescalingRule {
  if (descaling === "dismantle-only")
    return {
      says: "Descaling: never acid through the tank. The workshop dismantles the machine and descales its parts.",
      owner: false,
      throughTank: false,
      instead: "No cycle is run: softer water or a filter now, and dismantling in the workshop when scale shows.",
    };
  if (descaling === "workshop-only" || method === "never")
    return {
      says:
        descaling === "workshop-only"
          ? "Descaling: by the workshop only, as the model requires."
          : "Descaling: by the workshop only (workshop method).",
      owner: false,
      throughTank: true,
      instead: "The owner runs no cycle: softer water or a filter, and the workshop descales at a service.",
    };
  return {
    says: "Descaling: by the owner’s cycle, as often as the hardness asks.",
    owner: true,
    throughTank: true,
    instead: "",
  };
}
