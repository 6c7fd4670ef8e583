import { liquidWater } from "../steam";

/** Ready is not one thing. */
export const WARM_LEVELS = ["boiler-ready", "machine-warm", "heat-soaked"] as const;
export type WarmLevel = (typeof WARM_LEVELS)[number];

export const WARM_WORDS: Record<WarmLevel, string> = {
  "boiler-ready": "Boiler ready",
  "machine-warm": "Machine warm",
  "heat-soaked": "Heat-soaked",
};

/** What is heated, and by what. */
export interface Heating {
  /** Power of the element, W, > 0. */
  readonly watts: number;
  /** Water in the boiler, l, > 0. */
  readonly litres: number;
  /** Where the thermostat or pressurestat switches off, °C. */
  readonly to: number;
}

/**
 * The shortest heat-up that any machine can do: all electric power into the water, nothing into metal or air. Energy conservation,
 * with the enthalpy difference of IAPWS R7-97 region 1 instead of m·c·ΔT.
 *
 * @param from °C the water starts at
 * @returns s; 0 when it is hot already
 * @throws RangeError when power or volume is not above 0
 */
export function shortestHeatUp({ watts, litres, to }: Heating, from: number): number {
  if (!(watts > 0) || !(litres > 0)) throw new RangeError("Power and volume are numbers above 0.");
  if (to <= from) return 0;
  // 10 bar absolute keeps it liquid all the way; pressure hardly matters to either figure.
  const cold = liquidWater(from, 10);
  const kilograms = litres / 1000 / cold.v;
  return (kilograms * (liquidWater(to, 10).h - cold.h) * 1000) / watts;
}

/** The warmest water a site feeds, °C; tank and mains lie between 5 and 30. From memory. */
const WARMEST_WATER = 30;
/** Mains may stand 10 % over their voltage (EN 50160), and a heating element takes the square of it. */
const MAINS_OVER = 1.1 ** 2;
/** A boiler that makes steam starts with room over its water: as little as this share is filled. From memory. */
const STEAM_FILL = 0.65;

/**
 * A bound for a heat-up from cold: no machine of these figures is faster, whatever its site. Warm feed water, mains at their highest, and
 * the fill that a boiler with steam over its water starts with.
 *
 * @param steams the boiler heated has steam over its water
 * @returns s
 * @throws RangeError when power or volume is not above 0
 */
export function heatUpBound({ watts, litres, to }: Heating, steams: boolean): number {
  return shortestHeatUp({ watts: watts * MAINS_OVER, litres: litres * (steams ? STEAM_FILL : 1), to }, WARMEST_WATER);
}

/**
 * How much a kind's usual time may be off for one machine, and how much one machine varies between visits: sd of the logarithm. From
 * memory, until visits have shown it.
 */
const BETWEEN_MACHINES = 0.35;
const BETWEEN_VISITS = 0.12;

export interface Prediction {
  /** s */
  seconds: number;
  /** Nine times in ten it takes between these, s. */
  low: number;
  high: number;
  /** Earlier times of this machine that it rests on. */
  from: number;
  /** The physical bound decided: nothing this kind shows would be as slow as the water needs. */
  bound: boolean;
}

/**
 * How long a level of warm-up will take: lognormal, the kind's usual time as the prior, this machine's own earlier times on top
 * (normal–normal update of the logarithm), and never under the physical bound.
 *
 * @param usual s, what machines of this kind take
 * @param earlier s, what this machine took before
 * @param shortest s, from {@link shortestHeatUp}
 * @throws RangeError when the usual time is not above 0
 */
export function predictWarmUp(usual: number, earlier: readonly number[], shortest = 0): Prediction {
  if (!(usual > 0) || earlier.some((s) => !(s > 0))) throw new RangeError("A warm-up time is a number above 0.");
  const prior = 1 / BETWEEN_MACHINES ** 2;
  const each = 1 / BETWEEN_VISITS ** 2;
  const weight = prior + earlier.length * each;
  const mean = (prior * Math.log(usual) + each * earlier.reduce((sum, s) => sum + Math.log(s), 0)) / weight;
  const sd = Math.sqrt(1 / weight + BETWEEN_VISITS ** 2);
  const at = (z: number) => Math.max(shortest, Math.exp(mean + z * sd));
  return {
    seconds: at(0),
    low: at(-1.645),
    high: at(1.645),
    from: earlier.length,
    bound: Math.exp(mean) < shortest,
  };
}

/**
 * A time nobody's water can have been heated in: mistyped, or the machine was warm when it was switched on.
 *
 * @param seconds timed
 * @param shortest that the power of the element allows, s
 */
export function tooFast(seconds: number, shortest: number): boolean {
  return seconds < 0.95 * shortest;
}
