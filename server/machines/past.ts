import { settingTitle } from "../../core/job";
import { keyOf, unitOf } from "../../core/knobs";
import { formatFigure, formatQuantity, unitById } from "../../core/quantity";
import type { PastVisit } from "../../db/queries/past";

/** What such readings are written to: nobody knows the step of the instrument any more. */
const STEP = 0.1;

/** A visit from before, in words: each setting as found and as left. */
export function sayPast({ figures, work, note, ...visit }: PastVisit, groups: number, pressureUnit: string) {
  const readings = [...new Set(figures.map(keyOf))].map((id) => {
    const own = figures.filter((f) => keyOf(f) === id);
    const unit = unitById(unitOf({ judged: own[0]!.dimension }, pressureUnit));
    const [found, left] = ["as-found", "as-left"].map((phase) => own.find((f) => f.phase === phase));
    const title = settingTitle(own[0]!, groups).toLowerCase();
    if (found && left)
      return `${title} ${formatFigure(found.value, STEP, unit)} → ${formatQuantity(left.value, STEP, unit)}`;
    return `${title} ${formatQuantity((found ?? left)!.value, STEP, unit)} ${found ? "found" : "left"}`;
  });
  const said = readings.join(", ");
  return { ...visit, readings: said.charAt(0).toUpperCase() + said.slice(1), words: [work, note].filter(Boolean) };
}
