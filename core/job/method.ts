import { type KnobId, moduleOf } from "../knobs";
import type { Reading } from "./job";
import type { MethodId } from "./methods";

/** How a run of readings was come by. Null with no reading. */
export function methodOf(run: readonly Reading[], knob: KnobId): MethodId | null {
  const last = run.at(-1);
  if (!last) return null;
  if (new Set(run.map((r) => `${r.instrument.id} ${r.place}`)).size > 1) return "several";
  const { quantity } = moduleOf(knob).reads;
  if (quantity === "mass") return "weighed";
  if (quantity === "temperature") return last.detail.by ? `probe-${last.detail.by}` : "probe";
  return last.place === "boiler" ? "boiler-band" : `gauge-${last.place}`;
}
