import type { GaugeSeat } from "../../core/job";
import type { machineChange } from "../../db/schema";

/** What was changed on a machine, in words. */

export const GAUGE_WORDS: Readonly<Record<GaugeSeat, string>> = {
  group: "at the group",
  pump: "on the pump side",
  flow: "behind a flow-control valve",
  none: "none on the machine",
};

export function sayChange(c: typeof machineChange.$inferSelect): string {
  if (c.kind !== "gauge") return c.text;
  const words = c.text ? ` (${c.text})` : "";
  const away = c.gaugeToGroup ? `, ${c.gaugeToGroup} ± ${2 * (c.gaugeToGroupU ?? 0)} bar to the group` : "";
  return `Gauge ${GAUGE_WORDS[c.gaugePlace ?? "none"]}${words}${away}`;
}
