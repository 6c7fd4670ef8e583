import { airPressure } from "../../../core/air";
import type { Standing } from "../../../core/job";
import { figure, latest } from "../../../core/sheet";
import { saturationTemperature } from "../../../core/steam";
import { FITTED_UP_TO, indexRange, scaleWord } from "../../../core/water";

/** Steam boilers without a gauge run at about 1.7 bar. Common practice. */
const UNREAD_STEAM = 130;

/** What this water does at group and at steam temperature; null until its hardness is known. */
export function scaleForecast({ job, records, card }: Standing) {
  const hardness = latest(records, "water.hardness");
  if (hardness?.form !== "figure") return null;
  const { value, low = value, high = value } = hardness;
  const known = { hardness: [low, high] as const, alkalinity: figure(records, "water.alkalinity") || undefined };
  const steam = card.steamPressure;
  const steamAt = steam
    ? saturationTemperature(steam.upper + airPressure(Math.min(5000, Math.max(-500, job.particulars.altitude))))
    : UNREAD_STEAM;
  return [
    { where: "group", celsius: 93 },
    { where: "steam", celsius: Math.round(steamAt) },
  ].map(({ where, celsius }) => {
    const range = indexRange(known, celsius);
    return { where, celsius, ...range, word: scaleWord(range), beyond: celsius > FITTED_UP_TO };
  });
}
