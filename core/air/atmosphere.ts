/** Sea-level pressure, temperature and lapse of the standard atmosphere. ISO 2533:1975, equation 12 and table 1. */
const SEA_LEVEL_BAR = 1.01325;
const SEA_LEVEL_K = 288.15;
const LAPSE = 0.0065;
const EXPONENT = 9.80665 / (287.05287 * LAPSE);

/**
 * Air pressure at an altitude.
 *
 * @param metres altitude of the site, −500 … 5000 m, taken as geopotential: at 5000 m the geometric one is 4 m more
 * @returns bar absolute
 * @throws RangeError outside that range
 * @example airPressure(1000) // 0.89874… bar
 */
export function airPressure(metres: number): number {
  if (!(metres >= -500 && metres <= 5000)) throw new RangeError("An altitude lies between −500 and 5000 m.");
  return SEA_LEVEL_BAR * (1 - (LAPSE * metres) / SEA_LEVEL_K) ** EXPONENT;
}
