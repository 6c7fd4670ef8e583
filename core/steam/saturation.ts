/** The saturation line of water, IAPWS R7-97(2012) region 4, equations 29 to 31. Valid from 273.15 to 647.096 K. */
const N = [
  0.11670521452767e4, -0.72421316703206e6, -0.17073846940092e2, 0.1202082470247e5, -0.32325550322333e7,
  0.1491510861353e2, -0.48232657361591e4, 0.40511340542057e6, -0.23855557567849, 0.65017534844798e3,
] as const;

/**
 * Pressure at which water boils at a temperature.
 *
 * @param celsius 0 … 373.9 °C
 * @returns bar absolute
 * @throws RangeError outside the line
 */
export function saturationPressure(celsius: number): number {
  const T = celsius + 273.15;
  if (!(T >= 273.15 && T <= 647.096)) throw new RangeError("The saturation line runs from 0 to 373.9 °C.");
  const theta = T + N[8] / (T - N[9]);
  const A = theta * theta + N[0] * theta + N[1];
  const B = N[2] * theta * theta + N[3] * theta + N[4];
  const C = N[5] * theta * theta + N[6] * theta + N[7];
  return 10 * ((2 * C) / (-B + Math.sqrt(B * B - 4 * A * C))) ** 4;
}

/**
 * Temperature at which water boils under a pressure.
 *
 * @param bar absolute, 0.0062 … 220.64 bar
 * @returns °C
 * @throws RangeError outside the line
 */
export function saturationTemperature(bar: number): number {
  if (!(bar >= 0.00611213 && bar <= 220.64))
    throw new RangeError("The saturation line runs from 0.0062 to 220.64 bar.");
  const beta = (bar / 10) ** 0.25;
  const E = beta * beta + N[2] * beta + N[5];
  const F = N[0] * beta * beta + N[3] * beta + N[6];
  const G = N[1] * beta * beta + N[4] * beta + N[7];
  const D = (2 * G) / (-F - Math.sqrt(F * F - 4 * E * G));
  return (N[9] + D - Math.sqrt((N[9] + D) ** 2 - 4 * (N[8] + N[9] * D))) / 2 - 273.15;
}
