import { BASKETS, type BasketId, doseTolerance } from "../grinder";
import { type Tolerance, aim } from "../metrology";
import type { SchoolsOf } from "../school";
import { type SpecLine, type WantedRange, toleranceFor, wantedTolerance } from "../spec";

/** What a shot is held against: dose, yield, and the window of seconds, by the schools chosen or by a published definition. */
export interface Recipe {
  readonly dose: Required<Tolerance>;
  readonly yield: Required<Tolerance>;
  readonly seconds: Required<Tolerance>;
  /** Which event the clock counts from: part of the value. */
  readonly from: SchoolsOf["shotClock"];
  /** g in the cup that the method keeps all the same; null where an order or a definition sets the limits itself. */
  readonly band: { readonly lower: number; readonly upper: number } | null;
  /** Taste outranks the clock. Common practice; not where a published definition sets the seconds. */
  readonly byTaste: boolean;
  /** ml in the cup, crema included, where a definition says so. */
  readonly volume?: Tolerance;
  /** bar at the group, and °C of the water leaving it, where a definition says so. */
  readonly pressure?: Tolerance;
  readonly temperature?: Tolerance;
}

/** 25 ± 3 s, 20–30 s or 25–30 s: schools. Common practice. */
const WINDOWS: Record<SchoolsOf["shotWindow"], Required<Tolerance>> = {
  "25-3": { lower: 22, target: 25, upper: 28 },
  "20-30": { lower: 20, target: 25, upper: 30 },
  "25-30": { lower: 25, target: 27.4, upper: 30 },
};

/** Four grams of yield in all. Common practice. */
const YIELD_MARGIN = 2;

/** A cup this near the target is kept, or taught again; one further off is taught or pulled again, g. Common practice. */
export const YIELD_BAND = 4;

const bandAbout = (target: number) => ({ lower: target - YIELD_BAND, upper: target + YIELD_BAND });

/** A basket still takes this much over the target, g. Common practice. */
export const MOST_OVER = 1;

/**
 * The limits of a dose as a shot is judged: where a fast shot is answered with more coffee, the basket takes some over.
 *
 * @param school what moves where a shot is too fast
 */
export function doseRoom({ dose }: Pick<Recipe, "dose">, school: SchoolsOf["grindOrDose"]): Required<Tolerance> {
  return school === "coarser-more" ? { ...dose, upper: dose.upper + MOST_OVER } : dose;
}

/** 44 ml in the cup and 36 g are the same target. Common practice. */
export const GRAMS_PER_ML = 36 / 44;

/**
 * 18 g → 36 g, a school goes to 1 : 2.5. Common practice.
 *
 * @param dose in the basket, g, > 0
 */
export function recipeFor(schools: Pick<SchoolsOf, "shotWindow" | "shotClock" | "ratio">, dose = 18): Recipe {
  const least = 2 * dose;
  const most = schools.ratio === "to-1-2.5" ? 2.5 * dose : least;
  return {
    dose: doseTolerance(dose),
    yield: { lower: least - YIELD_MARGIN, target: (least + most) / 2, upper: most + YIELD_MARGIN },
    seconds: WINDOWS[schools.shotWindow],
    from: schools.shotClock,
    band: bandAbout((least + most) / 2),
    byTaste: true,
  };
}

export interface RecipeQuestion {
  readonly schools: Pick<SchoolsOf, "shotWindow" | "shotClock" | "ratio">;
  /** Limits of the spec card of the job. */
  readonly spec: readonly SpecLine[];
  readonly basket: BasketId;
  /** g wanted where the job says so itself. */
  readonly dose?: number | undefined;
  /** A range of doses wanted of the machine or for the visit. */
  readonly range?: WantedRange | undefined;
  readonly yield?: number | undefined;
  /** Ends of dose and yield, where a range was asked for. */
  readonly doseLimits?: Required<Tolerance>;
  readonly yieldLimits?: Required<Tolerance>;
}

/**
 * The recipe of a job. A published definition, told by its volume in the cup, sets dose, volume, seconds, pressure and temperature;
 * else the schools set ratio and window about the dose of the basket or the card.
 */
export function recipeOf(question: RecipeQuestion): Recipe {
  const { schools, spec, basket, dose, range, yield: wanted, doseLimits, yieldLimits } = question;
  const volume = toleranceFor(spec, "shot-volume");
  if (volume) return defined(volume, spec, schools);
  const own = toleranceFor(spec, "dose");
  const asked = dose === undefined && range && basket === "double" ? wantedTolerance(range) : null;
  const target = dose ?? asked?.target ?? (basket === "double" && own ? aim(own) : BASKETS[basket].usual);
  const recipe = recipeFor(schools, target);
  // Limits of the card hold at its own dose and ratio only.
  const asCard = own && dose === undefined && !asked && basket === "double";
  const card = asCard && schools.ratio === "1-2" ? toleranceFor(spec, "yield") : undefined;
  const cup = wanted !== undefined ? aboutYield(wanted) : card ? whole(card) : recipe.yield;
  return {
    ...recipe,
    ...(asked ? { dose: asked } : asCard ? { dose: whole(own) } : {}),
    ...(yieldLimits ? { yield: yieldLimits, band: null } : { yield: cup, band: bandAbout(cup.target) }),
    ...(doseLimits ? { dose: doseLimits } : {}),
  };
}

const aboutYield = (target: number) => ({ lower: target - YIELD_MARGIN, target, upper: target + YIELD_MARGIN });

/** One cup of a published definition; grams of its volume as the trade takes them. */
function defined(volume: Tolerance, spec: readonly SpecLine[], schools: RecipeQuestion["schools"]): Recipe {
  const ml = whole(volume);
  const usual = recipeFor(schools, 7);
  const dose = toleranceFor(spec, "dose");
  const seconds = toleranceFor(spec, "shot-time");
  const pressure = toleranceFor(spec, "brew-pressure");
  const temperature = toleranceFor(spec, "group-temperature");
  return {
    dose: dose ? whole(dose) : usual.dose,
    yield: { lower: ml.lower * GRAMS_PER_ML, target: ml.target * GRAMS_PER_ML, upper: ml.upper * GRAMS_PER_ML },
    seconds: seconds ? whole(seconds) : usual.seconds,
    from: schools.shotClock,
    band: null,
    byTaste: false,
    volume,
    ...(pressure ? { pressure } : {}),
    ...(temperature ? { temperature } : {}),
  };
}

/** A tolerance with all three figures: a side that is open lies as far off as the other. */
function whole(tolerance: Tolerance): Required<Tolerance> {
  const target = aim(tolerance);
  const { lower = 2 * target - tolerance.upper!, upper = 2 * target - lower } = tolerance;
  return { lower, target, upper };
}
