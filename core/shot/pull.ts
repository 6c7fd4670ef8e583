import type { BasketId } from "../grinder";
import type { SchoolsOf } from "../school";
import { BUTTONS } from "../volume";
import type { Shot, Taste } from "./log";
import { GRAMS_PER_ML, type Recipe } from "./recipe";

/** A calibration shot as it is recorded: everything that decides what it was. Stored units. */

export const COUNTS_FROM = ["button", "pump", "first-drop"] as const;
export type CountsFrom = (typeof COUNTS_FROM)[number];

export const FLOWS = ["gush", "even", "drip", "spray", "died"] as const;
export type Flow = (typeof FLOWS)[number];

export const TASTES = ["sour", "balanced", "bitter"] as const satisfies readonly Taste[];
export const STRENGTHS = ["weak", "right", "strong"] as const;
export const ROASTS = ["light", "medium", "dark"] as const;

/** How it was ended: by hand, or by a button that measures. */
export const PULLED_BY = ["manual", ...BUTTONS] as const;
export type PulledBy = (typeof PULLED_BY)[number];

export interface Coffee {
  readonly name: string;
  readonly roast?: (typeof ROASTS)[number] | undefined;
  /** ISO day */
  readonly roastedOn?: string | undefined;
}

export interface Pull {
  readonly group: number;
  readonly by: PulledBy;
  readonly coffee: Coffee;
  /** The grinder, and how its scale runs: +1 where a larger figure is finer. */
  readonly grinder: {
    readonly name: string;
    readonly finer: 1 | -1;
    readonly step: number;
    /** Where its scale ends, where that is known. */
    readonly lowest?: number | undefined;
    readonly highest?: number | undefined;
  };
  readonly setting: number;
  /** Where the amount of coffee is set: seconds, clock hours, threads. */
  readonly amount?: number | undefined;
  readonly dose: number;
  readonly basket: BasketId;
  readonly preInfusion?: number | undefined;
  readonly pause?: number | undefined;
  /** Set point on the display, °C. */
  readonly setPoint?: number | undefined;
  /** Highest and steady pressure, bar at the group. */
  readonly peak?: number | undefined;
  readonly plateau?: number | undefined;
  /** s in all, and the event they count from: part of the value. */
  readonly seconds: number;
  readonly from: CountsFrom;
  /** s from button or pump to the first drop, where it was seen. */
  readonly firstDrop?: number | undefined;
  /** g in the cup at the end; null when it choked before anything was worth weighing. */
  readonly yield: number | null;
  /** g on the scale at the moment of the stop. */
  readonly atStop?: number | undefined;
  /** ml in the cup, crema included, where it was read. */
  readonly volume?: number | undefined;
  /** ml of water that went in, by the meter. */
  readonly waterIn?: number | undefined;
  /** The yield was read as a volume, crema included or not, and carried over to grams. */
  readonly byVolume?: "with-crema" | "without" | undefined;
  /** ml of water caught in the tray while it ran: what came back through the OPV. */
  readonly trayMl?: number | undefined;
  /** Ground elsewhere: there is no grind to change. */
  readonly preGround?: boolean | undefined;
  readonly choked: boolean;
  readonly flow?: Flow | undefined;
  readonly taste?: Taste | undefined;
  readonly strength?: (typeof STRENGTHS)[number] | undefined;
  /** Dissolved solids, %. */
  readonly tds?: number | undefined;
  readonly note?: string | undefined;
}

/** Seconds of a shot counted from the event a school counts from; null where the first drop was not seen and would be needed. */
export function secondsFrom(pull: Pick<Pull, "seconds" | "from" | "firstDrop">, school: SchoolsOf["shotClock"]) {
  const dropped = pull.from === "first-drop";
  if (dropped === (school === "first-drop")) return pull.seconds;
  if (pull.firstDrop === undefined) return null;
  return dropped ? pull.seconds + pull.firstDrop : pull.seconds - pull.firstDrop;
}

const DAY = 864e5;

/**
 * Whole days from roasting to a day; null where the roast date is not known.
 *
 * @param today ISO day
 */
export function coffeeAge({ roastedOn }: Coffee, today: string): number | null {
  if (!roastedOn) return null;
  return Math.round((Date.parse(today) - Date.parse(roastedOn)) / DAY);
}

/** Coffee this many days from its roast runs fast and flat whatever the grind, and a bag is used up. Common practice: about two months. */
export const STALE_DAYS = 60;

/** The day its coffee was roasted, where it can be the same bag still; undefined else. */
export function sameBag(coffee: Coffee, today: string): string | undefined {
  const age = coffeeAge(coffee, today);
  return age !== null && age >= 0 && age <= STALE_DAYS ? coffee.roastedOn : undefined;
}

/** What is known of a shot without its seconds; where a definition speaks of millilitres, they are the cup. */
export function toldFrom(pull: Pull, { from, volume }: Pick<Recipe, "from" | "volume">) {
  const firstDrop = from === "first-drop" ? 0 : pull.firstDrop;
  return {
    dose: pull.dose,
    yield: volume && pull.volume !== undefined && pull.yield !== null ? pull.volume * GRAMS_PER_ML : pull.yield,
    choked: pull.choked,
    ...(firstDrop === undefined ? {} : { firstDrop }),
    ...(pull.taste ? { taste: pull.taste } : {}),
  };
}

/** What dialling in needs of it; null where its seconds can’t be told from the event that counts. */
export function asShot(
  pull: Pull,
  { recipe, today, cold }: { recipe: Pick<Recipe, "from" | "volume">; today: string; cold: boolean },
): Shot | null {
  const seconds = secondsFrom(pull, recipe.from);
  if (seconds === null || seconds <= 0) return null;
  return {
    ...toldFrom(pull, recipe),
    setting: pull.setting,
    seconds,
    cold,
    byButton: pull.by !== "manual",
    setPoint: pull.setPoint ?? null,
    roast: pull.coffee.roast ?? null,
    age: coffeeAge(pull.coffee, today),
    ...(pull.flow ? { flow: pull.flow } : {}),
    ...(pull.peak === undefined ? {} : { peak: pull.peak }),
  };
}

export interface PullProblem {
  readonly field: keyof Pull | "roastedOn" | "coffeeName" | "highest";
  readonly message: string;
  /** It can be, if it was meant so. */
  readonly unusual?: boolean;
}

/** Outside these no shot, machine or grinder is: marks, seconds, °C, bar, g, ml. Wider than anything of the trade. */
const POSSIBLE = {
  setting: [-1000, 10_000],
  amount: [-1000, 1000],
  preInfusion: [0, 180],
  pause: [0, 180],
  setPoint: [50, 140],
  peak: [0, 25],
  plateau: [0, 25],
  firstDrop: [0, 180],
  atStop: [0, 400],
  volume: [0, 1000],
  waterIn: [0, 2000],
  trayMl: [0, 2000],
} as const;

/**
 * What can’t be, and what is asked about.
 *
 * @param today ISO day
 */
export function problemsOf(pull: Pull, today: string): PullProblem[] {
  const found: PullProblem[] = [];
  const no = (field: PullProblem["field"], message: string) => found.push({ field, message });
  const odd = (field: PullProblem["field"], message: string) => found.push({ field, message, unusual: true });
  const { dose, seconds, firstDrop, tds, preInfusion, pause } = pull;
  const inCup = pull.yield;
  for (const [field, [least, most]] of Object.entries(POSSIBLE) as [
    keyof typeof POSSIBLE,
    readonly [number, number],
  ][]) {
    const value = pull[field];
    if (value !== undefined && !(value >= least && value <= most)) no(field, `From ${least} to ${most}.`);
  }
  const { step, lowest = -Infinity, highest = Infinity } = pull.grinder;
  if (!(step > 0 && step <= 100)) no("setting", "A grinder’s step is above 0, 100 at most.");
  if (lowest >= highest) no("highest", "The highest setting lies above the lowest.");
  else if (!pull.preGround && (pull.setting < lowest || pull.setting > highest))
    no("setting", `The scale of this grinder runs from ${lowest} to ${highest}.`);

  if (!(dose > 0)) no("dose", "Nothing was dosed: a shot has coffee in it.");
  else if (dose > 60) no("dose", `No basket holds ${dose} g. Was it ${(dose / 10).toFixed(1)} g?`);
  else if (dose < 5 || dose > 30) odd("dose", `${dose} g is unusual for a basket.`);

  if (!(seconds > 0)) no("seconds", "Type the seconds of the shot.");
  else if (seconds > 180) no("seconds", "Over 3 minutes: the timer was left running. Type the seconds.");
  if (firstDrop !== undefined && pull.from !== "first-drop" && firstDrop >= seconds)
    no("firstDrop", "The first drop can’t come after the stop.");
  if (firstDrop !== undefined && firstDrop < 0) no("firstDrop", "The first drop comes after the pump.");
  if ((preInfusion ?? 0) + (pause ?? 0) > seconds && pull.from !== "first-drop")
    no("preInfusion", "Pre-infusion and pause together are longer than the shot.");

  if (inCup === null) {
    if (!pull.choked) no("yield", "Weigh what is in the cup, or say that it choked.");
  } else if (!(inCup > 0)) no("yield", "Weigh what is in the cup, or say that it choked.");
  else if (inCup > 400) no("yield", `${inCup} g is no shot.`);
  else if (!pull.choked && pull.flow !== "drip" && pull.flow !== "died" && inCup < dose)
    odd("yield", `${inCup} g from ${dose} g of coffee is less than the coffee. Did it choke?`);
  else if (inCup > 6 * dose) odd("yield", `${inCup} g from ${dose} g of coffee is unusual.`);
  if (pull.atStop !== undefined && inCup !== null && pull.atStop > inCup)
    no("atStop", "More at the stop than in the cup after it can’t be.");
  if (pull.waterIn !== undefined && inCup !== null && pull.waterIn < inCup)
    no("waterIn", "More came out than went in. Look at the meter.");

  if (tds !== undefined && !(tds > 0 && tds < 30))
    no("tds", `${tds} % can’t be: a shot holds about 7 to 13 % dissolved.`);
  else if (tds !== undefined && (tds < 4 || tds > 18)) odd("tds", `${tds} % is unusual for a shot.`);

  const age = coffeeAge(pull.coffee, today);
  if (!pull.coffee.name) no("coffeeName", "Name the coffee: the settings are valid for it alone.");
  if (age !== null && Number.isNaN(age)) no("roastedOn", "That is no date.");
  else if (age !== null && age < 0) no("roastedOn", "It can’t have been roasted on a day still to come.");
  else if (age !== null && age > 730) odd("roastedOn", "More than two years old?");
  return found;
}
