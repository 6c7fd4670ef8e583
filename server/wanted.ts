import { formatFigure, parseRange, unitsOf } from "../core/quantity";
import { WANTED, type WantedId, type WantedRange } from "../core/spec";

/**
 * A range as people type it: "18 to 20", "1.0–1.2 bar". A single figure is no range: nobody holds a value to nothing.
 *
 * @returns ends in the stored unit, or what is wrong with it
 */
export function wantedRange(of: WantedId, typed: string, unit: string): Pick<WantedRange, "lower" | "upper"> | string {
  const { dimension, possible, label, resolution } = WANTED[of];
  const units = unitsOf(dimension);
  const shown = units.find((u) => u.id === unit) ?? units[0]!;
  const parsed = parseRange(typed, dimension, shown);
  if (!parsed.ok) return parsed.message;
  const [least, most] = possible;
  if (parsed.low === parsed.high) return "Type a range, like “18 to 20”.";
  if (parsed.low < least || parsed.high > most)
    return `${label}: from ${formatFigure(least, resolution, shown)} to ${formatFigure(most, resolution, shown)} ${shown.symbol}.`;
  return { lower: parsed.low, upper: parsed.high };
}
