import { type Pull, fromWords } from "../shot";
import { adviceWords, dialling, judgeShot, takenShot } from "./dialling";
import { standingShots } from "./shots-standing";
import type { Standing } from "./standing";

/** Shots in words: a line each, what they came to for the sheet, and the lines of the report. */

/** One shot in a line: "10 · 18.0 g → 36.1 g in 27.2 s from the pump, even, balanced". */
export function sayPull(pull: Pull): string {
  const grams = pull.yield === null ? "nothing" : `${pull.yield.toFixed(1)} g`;
  // What was read is said before what it was carried over to.
  const cup = pull.byVolume && pull.volume !== undefined ? `${Number(pull.volume.toFixed(1))} ml (${grams})` : grams;
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
export function recipeWords({ recipe }: Pick<Standing, "recipe">): string {
  const { dose, yield: cup, seconds, from } = recipe;
  const span = `${seconds.lower.toFixed(0)} to ${seconds.upper.toFixed(0)} s`;
  return `${dose.target.toFixed(1)} g to ${cup.target.toFixed(0)} g in ${span} ${from === "first-drop" ? "from the first drop" : "from button or pump"}`;
}

/** The shots in a few lines, for the station in hand. */
export function shotsBrief(standing: Standing) {
  const shots = standingShots(standing.job);
  const last = shots.at(-1);
  return {
    count: shots.length,
    recipe: recipeWords(standing),
    headline: shots.length === 0 ? "" : adviceWords(dialling(standing), standing).headline,
    last: last
      ? { said: `${last.pull.setting}: ${sayPull(last.pull)}`, verdict: judgeShot(last, standing).verdict }
      : null,
    accepted: sayTaken(standing),
  };
}

/** The shot used as the recipe, in words; null while none is. */
export function sayTaken(standing: Standing) {
  const taken = takenShot(standing);
  if (!taken) return null;
  const { shot, reason } = taken;
  return {
    said: `${sayPull(shot.pull)}, grind ${shot.pull.setting}`,
    coffee: shot.pull.coffee.name,
    verdict: judgeShot(shot, standing).verdict,
    reason,
  };
}

/** Lines of the report: each try, and the one taken. */
export function shotLines(standing: Standing) {
  const shots = standingShots(standing.job).filter((s) => !s.amends);
  const taken = sayTaken(standing);
  return [
    ...shots.map((s) => ({
      label: `Shot ${s.sequence}`,
      text: `${s.pull.coffee.name}, grind ${s.pull.setting}: ${sayPull(s.pull)}${s.early ? "; not warmed up" : ""}`,
      verdict: judgeShot(s, standing).verdict as string,
    })),
    ...(taken
      ? [
          {
            label: "Used as the recipe",
            text: [taken.said, `valid for ${taken.coffee}, this grinder and this dose only`, taken.reason]
              .filter(Boolean)
              .join("; "),
          },
        ]
      : []),
  ];
}
