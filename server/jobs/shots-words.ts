import { type Pull, fromWords } from "../../core/shot";
import type { SheetRow } from "../../db/queries/jobs";
import { adviceWords, dialling, judgeShot, standingShots } from "./dialling";
import { type Stand, SHOTS_TASK } from "./stand";

/** Shots in words: a line each, what they came to for the sheet, and the lines of the report. */

/** One shot in a line: "10 · 18.0 g → 36.1 g in 27.2 s from the pump, even, balanced". */
export function sayPull(pull: Pull): string {
  const cup = pull.yield === null ? "nothing" : `${pull.yield.toFixed(1)} g`;
  return [
    `${pull.dose.toFixed(1)} g to ${cup} in ${pull.choked ? "over " : ""}${pull.seconds.toFixed(1)} s ${fromWords(pull.from)}`,
    pull.choked ? "choked" : "",
    pull.flow ?? "",
    pull.taste ?? "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** "18.0 g to 36 g in 22 to 28 s from button or pump" */
export function recipeWords({ recipe }: Pick<Stand, "recipe">): string {
  const { dose, yield: cup, seconds, from } = recipe;
  const span = `${seconds.lower.toFixed(0)} to ${seconds.upper.toFixed(0)} s`;
  return `${dose.target.toFixed(1)} g to ${cup.target.toFixed(0)} g in ${span} ${from === "first-drop" ? "from the first drop" : "from button or pump"}`;
}

/** The shots in a few lines, for the sheet and its report. */
export function shotsBrief(row: SheetRow, stand: Stand) {
  const shots = standingShots(row);
  const taken = stand.records.values.get(SHOTS_TASK)?.at(-1);
  const accepted = taken?.form === "accepted" ? shots.find((s) => s.id === taken.shot) : undefined;
  const last = shots.at(-1);
  return {
    count: shots.length,
    recipe: recipeWords(stand),
    headline: shots.length === 0 ? "" : adviceWords(dialling(row, stand)).headline,
    last: last
      ? { said: `${last.pull.setting}: ${sayPull(last.pull)}`, verdict: judgeShot(last, row, stand).verdict }
      : null,
    accepted: accepted
      ? {
          said: `${sayPull(accepted.pull)}, grind ${accepted.pull.setting}`,
          coffee: accepted.pull.coffee.name,
          verdict: judgeShot(accepted, row, stand).verdict,
          reason: taken?.form === "accepted" ? taken.reason : "",
        }
      : null,
  };
}

/** Lines of the report: each try, and the one taken. */
export function shotLines(row: SheetRow, stand: Stand) {
  const shots = standingShots(row).filter((s) => !s.amends);
  const brief = shotsBrief(row, stand);
  return [
    ...shots.map((s) => ({
      label: `Shot ${s.sequence}`,
      text: `${s.pull.coffee.name}, grind ${s.pull.setting}: ${sayPull(s.pull)}${s.early ? ", pulled before the machine was warm" : ""}`,
      verdict: judgeShot(s, row, stand).verdict as string,
    })),
    ...(brief.accepted
      ? [
          {
            label: "Taken as the recipe",
            text: [
              brief.accepted.said,
              `holds for ${brief.accepted.coffee}, this grinder and this dose only`,
              brief.accepted.reason,
            ]
              .filter(Boolean)
              .join("; "),
          },
        ]
      : []),
  ];
}
