/**
 * Langelier's saturation index by the logarithmic simplification printed in Carrier's system design manual (1965). All concentrations in
 * mg/L, hardness and alkalinity as CaCO3.
 */
export interface WaterAnalysis {
  /** Total dissolved solids, mg/L, > 0. */
  readonly tds: number;
  /** Calcium hardness as CaCO3, mg/L, > 0. */
  readonly calcium: number;
  /** Alkalinity as CaCO3, mg/L, > 0. */
  readonly alkalinity: number;
  readonly ph: number;
}

/** Above this the simplification is carried on past the range it was fitted over; the sign still tells. */
export const FITTED_UP_TO = 90;

/**
 * pH at which the water would neither dissolve nor deposit lime.
 *
 * @param celsius 0 … 150
 * @throws RangeError outside that, or where an analysis has nothing in it
 */
export function saturationPh({ tds, calcium, alkalinity }: Omit<WaterAnalysis, "ph">, celsius: number): number {
  if (!(tds > 0) || !(calcium > 0) || !(alkalinity > 0))
    throw new RangeError("Dissolved solids, calcium and alkalinity are numbers above 0.");
  if (!(celsius >= 0 && celsius <= 150)) throw new RangeError("A water temperature lies between 0 and 150 °C.");
  const a = (Math.log10(tds) - 1) / 10;
  const b = -13.12 * Math.log10(celsius + 273) + 34.55;
  const c = Math.log10(calcium) - 0.4;
  const d = Math.log10(alkalinity);
  return 9.3 + a + b - c - d;
}

/**
 * Above 0 lime is deposited, below 0 dissolved.
 *
 * @param celsius 0 … 150
 */
export function langelier(water: WaterAnalysis, celsius: number): number {
  return water.ph - saturationPh(water, celsius);
}

export interface IndexRange {
  low: number;
  high: number;
}

export interface KnownOfWater {
  /** Total hardness as CaCO3, mg/L: one figure or what a strip leaves open. */
  readonly hardness: readonly [number, number];
  readonly alkalinity?: number | undefined;
  readonly ph?: number | undefined;
  readonly tds?: number | undefined;
}

/** Shares used where a strip says only the hardness. Common practice for tap water. */
const CALCIUM_SHARE: readonly [number, number] = [0.6, 1];
const ALKALINITY_SHARE: readonly [number, number] = [0.5, 1];
/** Tap water as supplied: pH 7 to 8, and dissolved solids somewhat over the hardness. From memory. */
const PH: readonly [number, number] = [7, 8];
const TDS_SHARE: readonly [number, number] = [1.2, 2];

/**
 * The index with all that is not known left open: the lowest and highest that fits.
 *
 * @param celsius 0 … 150
 */
export function indexRange(known: KnownOfWater, celsius: number): IndexRange {
  const [soft, hard] = known.hardness;
  const at = (end: 0 | 1) => {
    const hardness = Math.max(1, end === 0 ? soft : hard);
    return langelier(
      {
        calcium: hardness * CALCIUM_SHARE[end],
        alkalinity: known.alkalinity ?? hardness * ALKALINITY_SHARE[end],
        ph: known.ph ?? PH[end],
        // More dissolved solids make room for more lime: the lowest index goes with the most.
        tds: known.tds ?? hardness * TDS_SHARE[end === 0 ? 1 : 0],
      },
      celsius,
    );
  };
  return { low: at(0), high: at(1) };
}

/** What an index means, in a word. The band of ±0.3 around balance is common practice. */
export function scaleWord({ low, high }: IndexRange): "deposits lime" | "in balance" | "dissolves lime" | "open" {
  if (low > 0.3) return "deposits lime";
  if (high < -0.3) return "dissolves lime";
  return low >= -0.3 && high <= 0.3 ? "in balance" : "open";
}
