import type { Wording } from "../../core/adjust";
import { type OpvModel, turnDirection } from "../../core/pressure";
import { formatQuantity, formatTurnsLong, formatUncertainty, unitById } from "../../core/quantity";

/** How the engine's figures are worded for one person: their unit, the gauge's resolution, this valve's direction. */
export function wordingFor(unitId: string, resolution: number, opv: OpvModel): Wording {
  const unit = unitById(unitId);
  return {
    value: (x) => formatQuantity(x, resolution, unit),
    spread: (x) => formatUncertainty(x, resolution, unit),
    amount: (a) => `${formatTurnsLong(a)} ${turnDirection(a, opv.raises)}`,
    act: "Turn the screw",
  };
}
