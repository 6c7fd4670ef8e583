import type { MachineKind, ModelCard } from "../kind";
import { descalingRule } from "../kind";
import { CRITICAL_PARTS, type CriticalPartId } from "./critical";
import type { How } from "./line";

/** Lines that come up on most machines of a kind. Common practice of the trade. */

export interface UsualLine {
  readonly what: string;
  readonly how: How;
  readonly reason?: string;
  /** Chosen from the safety-critical parts, not typed. */
  readonly critical?: CriticalPartId;
}

/**
 * Lines to choose from.
 *
 * @returns in the order in which they are mostly done, never one that a rule refuses on this model
 */
export function usualWork(kind: MachineKind, card: Pick<ModelCard, "descaling">): UsualLine[] {
  const renewed = (what: string): UsualLine => ({ what, how: "renewed" });
  const critical = (id: CriticalPartId): UsualLine => ({ ...renewed(CRITICAL_PARTS[id].label), critical: id });
  const built = kind.grinder !== "separate" || kind.groups === 0;
  const burrs: UsualLine[] = built ? [{ what: "Burrs", how: "adjusted", reason: "realigned" }, renewed("Burrs")] : [];
  if (kind.groups === 0) return [...burrs, { what: "Chamber and chute", how: "cleaned" }, renewed("Hopper seal")];
  const rule = descalingRule(card.descaling);
  return [
    renewed("Shower screen"),
    renewed("Group gasket"),
    ...(kind.threeWayValve && kind.pump !== "none"
      ? [{ what: "Three-way valve", how: "cleaned" as const }, renewed("Solenoid valve")]
      : []),
    ...(rule.throughTank ? [{ what: "Boiler", how: "descaled" as const, reason: "scale" }] : []),
    ...(kind.steams ? [{ what: "Steam tip", how: "cleaned" as const }, renewed("Steam spindle seals")] : []),
    ...(kind.steamGauge ? [renewed("Pressurestat"), critical("safety-valve"), renewed("Vacuum breaker")] : []),
    ...(kind.mendedFirst ? [critical("element"), critical("wiring")] : []),
    ...(kind.pump === "none" ? [] : [renewed("Pump")]),
    renewed("Hose"),
    { what: "Drip tray", how: "adjusted", reason: "did not sit right" },
    ...burrs,
  ];
}
