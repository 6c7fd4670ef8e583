import { randomLcg, randomNormal } from "d3-random";
import { type Grinder, type Shot, USUAL_GRINDER, dialIn, recipeFor } from "../../../core/shot";
import { type GrinderTwin, ownSeconds, pullShot } from "../../../core/twin";
import { USUAL_SCHOOLS } from "../../../core/school";

/**
 * Dialling in on grinders that nobody has seen. Populations: the level of a coffee in a grinder as it stands is anywhere about the window
 * by a factor of 1.6 (one standard deviation); the worth of a step is lognormal about what the card says. From memory, like the prior.
 */

type Window = "25-3" | "20-30" | "25-30";

interface Population {
  name: string;
  window: Window;
  slope: { mean: number; sd: number };
  odd?: number;
  /** Steps that the scale goes on from where it stands, finer and coarser; false: the window lies beyond. */
  reach?: boolean;
  grinder?: Grinder;
}

export interface Tally {
  name: string;
  n: number;
  moves: number;
  shots: number;
  /** Kept where the setting’s own time is outside. */
  falseKeeps: number;
  /** Moves of the dose, between two steps. */
  doses: number;
  /** Said not to reach. */
  namedReach: number;
  unended: number;
}

const BUILT_IN: Grinder = { ...USUAL_GRINDER, slope: { mean: 0.28, sd: 0.14 } };

export const POPULATIONS: readonly Population[] = [
  { name: "25 to 30 s", window: "25-30", slope: { mean: 0.12, sd: 0.048 } },
  { name: "22 to 28 s", window: "25-3", slope: { mean: 0.12, sd: 0.048 } },
  { name: "20 to 30 s", window: "20-30", slope: { mean: 0.12, sd: 0.048 } },
  { name: "25 to 30 s, one shot in 25 odd", window: "25-30", slope: { mean: 0.12, sd: 0.048 }, odd: 0.04 },
  { name: "22 to 28 s, clicks worth half as much", window: "25-3", slope: { mean: 0.06, sd: 0.024 } },
  { name: "22 to 28 s, clicks worth twice as much", window: "25-3", slope: { mean: 0.24, sd: 0.096 } },
  { name: "22 to 28 s, built in", window: "25-3", slope: { mean: 0.28, sd: 0.12 }, grinder: BUILT_IN },
  { name: "25 to 30 s, window beyond the end", window: "25-30", slope: { mean: 0.12, sd: 0.048 }, reach: false },
];

const lognormal = ({ mean, sd }: { mean: number; sd: number }, normal: () => number) => {
  const sigma = Math.sqrt(Math.log1p((sd / mean) ** 2));
  return Math.exp(Math.log(mean) - sigma ** 2 / 2 + sigma * normal());
};

export function runDialIn(of: Population, n: number, seed: number): Tally {
  const random = randomLcg(seed);
  const normal = randomNormal.source(random)(0, 1);
  const tally: Tally = { name: of.name, n, moves: 0, shots: 0, falseKeeps: 0, doses: 0, namedReach: 0, unended: 0 };
  const recipe = recipeFor({ ...USUAL_SCHOOLS, shotWindow: of.window });
  const { lower, upper, target } = recipe.seconds;
  const grinder = of.grinder ?? USUAL_GRINDER;
  for (let i = 0; i < n; i++) {
    const slope = lognormal(of.slope, normal);
    const start = 10;
    const seconds = target * Math.exp(0.47 * normal());
    // Where the middle of the window lies, steps finer than where it stands.
    const away = Math.log(target / seconds) / slope;
    // The scale ends before the window begins, by some steps; or far beyond it.
    const half = Math.log(upper / lower) / 2 / slope;
    const end =
      of.reach === false ? Math.sign(away) * Math.max(0, Math.floor(Math.abs(away) - half - 1.5 - 3 * random())) : 0;
    if (of.reach === false && Math.abs(away) < half + 1.5) {
      i--;
      continue;
    }
    const ends: [number, number] =
      of.reach === false
        ? away > 0
          ? [start - end, start + 30]
          : [start - 30, start - end]
        : [start - 60, start + 60];
    const twin: GrinderTwin = { at: start, seconds, slope, finer: -1, step: 1, ends, noise: 0.06, odd: of.odd ?? 0 };
    const shots: Shot[] = [];
    let setting = start;
    let dose = 18;
    let ended = false;
    for (let k = 0; k < 15; k++) {
      const weighed = dose + 0.1 * normal();
      const took = pullShot(twin, setting, weighed / 18, random);
      shots.push(
        took === null
          ? { setting, dose: weighed, yield: null, seconds: 60, choked: true }
          : { setting, dose: weighed, yield: 36 + 0.6 * normal(), seconds: took },
      );
      tally.shots++;
      const { change } = dialIn({ recipe, shots, grinder, school: "grind", ends });
      if (change.kind === "keep") {
        const own = ownSeconds(twin, setting) * (dose / 18) ** 2.5;
        if (own < lower || own > upper) tally.falseKeeps++;
        ended = true;
      } else if (change.kind === "grind") {
        setting = change.setting;
        tally.moves++;
      } else if (change.kind === "dose") {
        dose = Math.max(10, shots.at(-1)!.dose + change.by);
        tally.doses++;
      } else if (change.kind === "reach") {
        tally.namedReach++;
        ended = true;
      }
      if (ended) break;
    }
    if (!ended) tally.unended++;
  }
  return tally;
}
