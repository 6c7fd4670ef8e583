/**
 * Units of the trade, each as a linear map onto one stored unit per dimension:
 * bar gauge, °C, g, ml, s, turns, mg/L CaCO3; marks of a grinder’s own scale are bare figures.
 *
 * Factors are the exact definitions of NIST SP 811 (2008) Appendix B where one exists (psi, kgf, ounces, gallons, °F);
 * hardness grades follow from their definitions with M(CaCO3) = 100.0869 g/mol and M(CaO) = 56.0774 g/mol.
 */

export const DIMENSIONS = [
  "pressure",
  "temperature",
  "temperatureDifference",
  "mass",
  "volume",
  "time",
  "angle",
  "hardness",
  "mark",
] as const;
export type Dimension = (typeof DIMENSIONS)[number];

export interface Unit {
  /** Short stable name, used in storage. */
  readonly id: string;
  readonly dimension: Dimension;
  /** As shown after a figure. */
  readonly symbol: string;
  /** stored = factor × typed + shift */
  readonly factor: number;
  readonly shift: number;
  /** What people type for it, lower case, without spaces. The symbol counts too. */
  readonly spellings: readonly string[];
}

/** Exact by the definitions of pound, inch, grain and gallon; printed, some rounded, in NIST SP 811, appendix B. */
const PSI_IN_BAR = 6894.757293168 / 1e5;
const GRAIN_MG = 64.79891;
const US_GALLON_L = 3.785411784;
const UK_GALLON_L = 4.54609;

function unit(
  dimension: Dimension,
  id: string,
  symbol: string,
  factor: number,
  spellings: readonly string[] = [],
  shift = 0,
): Unit {
  return { id, dimension, symbol, factor, shift, spellings: [id, symbol, ...spellings].map(foldUnit) };
}

/** Folds a spelling for comparison: lower case, no spaces or full stops, one kind of degree and superscript. */
export function foldUnit(text: string): string {
  return text
    .toLowerCase()
    .replace(/[\s.]/g, "")
    .replace(/[º˚]/g, "°")
    .replace(/²/g, "2")
    .replace(/₃/g, "3")
    .replace(/µ/g, "u");
}

export const UNITS: readonly Unit[] = [
  unit("pressure", "bar", "bar", 1, ["bars", "barg", "bar(g)"]),
  unit("pressure", "psi", "psi", PSI_IN_BAR, ["psig", "lb/in2", "lbs", "pounds"]),
  unit("pressure", "kPa", "kPa", 0.01, ["kilopascal"]),
  unit("pressure", "MPa", "MPa", 10, ["megapascal"]),
  unit("pressure", "mbar", "mbar", 0.001, ["hpa"]),
  unit("pressure", "kgf/cm2", "kgf/cm²", 0.980665, ["kg/cm2", "at"]),

  unit("temperature", "C", "°C", 1, ["degc", "celsius", "°", "degrees", "degree", "deg", "degreesc", "degreec"]),
  unit("temperature", "F", "°F", 5 / 9, ["degf", "fahrenheit", "degreesf", "degreef"], -160 / 9),
  unit("temperatureDifference", "dC", "°C", 1, [
    "c",
    "k",
    "kelvin",
    "degc",
    "°",
    "degrees",
    "degree",
    "deg",
    "degreesc",
  ]),
  unit("temperatureDifference", "dF", "°F", 5 / 9, ["f", "degf"]),

  unit("mass", "g", "g", 1, ["gram", "grams", "gr"]),
  unit("mass", "kg", "kg", 1000),
  unit("mass", "oz", "oz", 28.349523125, ["ounce", "ounces"]),

  unit("volume", "ml", "ml", 1, ["cc", "cm3", "millilitre", "milliliter"]),
  unit("volume", "cl", "cl", 10, ["centilitre", "centiliter"]),
  unit("volume", "l", "L", 1000, ["litre", "litres", "liter", "liters"]),
  unit("volume", "floz", "US fl oz", 29.5735295625, ["fl oz", "oz", "usfloz"]),
  unit("volume", "gal", "US gal", 1000 * US_GALLON_L, ["gallon", "gallons"]),

  unit("time", "s", "s", 1, ["sec", "secs", "second", "seconds", "”", "″", '"', "''"]),
  unit("time", "min", "min", 60, ["mins", "minute", "minutes", "m", "′", "'"]),
  unit("time", "h", "h", 3600, ["hr", "hour", "hours"]),

  unit("angle", "turn", "turn", 1, ["turns", "rev", "t"]),
  unit("angle", "deg", "°", 1 / 360, ["degree", "degrees", "deg"]),

  unit("hardness", "mg/L", "mg/L CaCO₃", 1, ["ppm", "mg/l", "ppmcaco3", "mg/lcaco3"]),
  unit("hardness", "dH", "°dH", (10 / 56.0774) * 100.0869, ["dgh", "gh", "°gh", "dh", "°d"]),
  unit("hardness", "fH", "°fH", 10, ["fh", "°f", "tf"]),
  unit("hardness", "e", "°e", GRAIN_MG / UK_GALLON_L, ["clark", "°clark"]),
  unit("hardness", "gpg", "gpg", GRAIN_MG / US_GALLON_L, ["grains", "gr/gal", "grains/gal"]),
  unit("hardness", "mmol/L", "mmol/L", 100.0869, ["mmol"]),

  unit("mark", "mark", "", 1, ["mark", "marks", "click", "clicks", "step", "steps"]),
];

const byId = new Map(UNITS.map((u) => [u.id, u]));

/**
 * The unit with this id.
 *
 * @throws RangeError when there is none.
 */
export function unitById(id: string): Unit {
  const found = byId.get(id);
  if (!found) throw new RangeError(`No unit is called “${id}”.`);
  return found;
}

/** The stored unit of a dimension (factor 1). */
export function baseUnit(dimension: Dimension): Unit {
  return UNITS.find((u) => u.dimension === dimension && u.factor === 1 && u.shift === 0)!;
}

/** The units of a dimension, the stored one first. */
export function unitsOf(dimension: Dimension): Unit[] {
  return UNITS.filter((u) => u.dimension === dimension);
}

/**
 * A figure in its unit, to the stored unit of its dimension.
 *
 * @param value in the unit given
 * @example toBase(130, unitById("psi")) // 8.963… bar
 */
export function toBase(value: number, u: Unit): number {
  return value * u.factor + u.shift;
}

/**
 * A figure in the stored unit, to another unit of its dimension.
 *
 * @param value in the stored unit
 * @example fromBase(9, unitById("psi")) // 130.5…
 */
export function fromBase(value: number, u: Unit): number {
  return (value - u.shift) / u.factor;
}
