/**
 * Liquid water, IAPWS R7-97(2012) region 1, equation 7: the Gibbs energy as a sum of n·(7.1 − π)^I·(τ − 1.222)^J with
 * π = p / 16.53 MPa and τ = 1386 K / T. Valid from 273.15 to 623.15 K, up to 100 MPa. Coefficients of table 2.
 */
const I = [0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 1, 1, 1, 1, 2, 2, 2, 2, 2, 3, 3, 3, 4, 4, 4, 5, 8, 8, 21, 23, 29, 30, 31, 32];
const J = [
  -2, -1, 0, 1, 2, 3, 4, 5, -9, -7, -1, 0, 1, 3, -3, 0, 1, 3, 17, -4, 0, 6, -5, -2, 10, -8, -11, -6, -29, -31, -38, -39,
  -40, -41,
];
const N = [
  0.14632971213167, -0.84548187169114, -0.3756360367204e1, 0.33855169168385e1, -0.95791963387872, 0.15772038513228,
  -0.16616417199501e-1, 0.81214629983568e-3, 0.28319080123804e-3, -0.60706301565874e-3, -0.18990068218419e-1,
  -0.32529748770505e-1, -0.21841717175414e-1, -0.5283835796993e-4, -0.47184321073267e-3, -0.30001780793026e-3,
  0.47661393906987e-4, -0.44141845330846e-5, -0.72694996297594e-15, -0.31679644845054e-4, -0.28270797985312e-5,
  -0.85205128120103e-9, -0.22425281908e-5, -0.65171222895601e-6, -0.14341729937924e-12, -0.40516996860117e-6,
  -0.12734301741641e-8, -0.17424871230634e-9, -0.68762131295531e-18, 0.14478307828521e-19, 0.26335781662795e-22,
  -0.11947622640071e-22, 0.18228094581404e-23, -0.93537087292458e-25,
];

/** Specific gas constant of water, kJ/(kg K). */
const R = 0.461526;

export interface Liquid {
  /** Specific volume, m³/kg. */
  v: number;
  /** Specific enthalpy, kJ/kg. */
  h: number;
  /** Isobaric heat capacity, kJ/(kg K). */
  cp: number;
}

/**
 * Liquid water. Source: IAPWS-IF97, region 1.
 *
 * @param celsius 0 … 350 °C
 * @param bar absolute pressure, bar, at least the saturation pressure, up to 1000
 * @throws RangeError outside the region
 */
export function liquidWater(celsius: number, bar: number): Liquid {
  if (!(celsius >= 0 && celsius <= 350) || !(bar > 0 && bar <= 1000))
    throw new RangeError("Liquid water is described from 0 to 350 °C and up to 1000 bar.");
  const T = celsius + 273.15;
  const p = bar / 10;
  const pi = p / 16.53;
  const tau = 1386 / T;
  const a = 7.1 - pi;
  const b = tau - 1.222;
  let byPi = 0;
  let byTau = 0;
  let byTau2 = 0;
  for (let k = 0; k < N.length; k++) {
    const n = N[k]!;
    const i = I[k]!;
    const j = J[k]!;
    byPi -= n * i * a ** (i - 1) * b ** j;
    byTau += n * a ** i * j * b ** (j - 1);
    byTau2 += n * a ** i * j * (j - 1) * b ** (j - 2);
  }
  return { v: (pi * byPi * R * T) / (p * 1000), h: tau * byTau * R * T, cp: -tau * tau * byTau2 * R };
}

/**
 * Density of water at a temperature and (absolute) pressure, kg/l.
 *
 * @param celsius 0 … 350
 * @param bar absolute, up to 1000
 */
export function densityOfWater(celsius: number, bar = 1.01325): number {
  return 1 / liquidWater(celsius, bar).v / 1000;
}
