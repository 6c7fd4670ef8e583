import { rectangular } from "../metrology";
import { saturationPressure, saturationTemperature } from "../steam";

/** Weather moves the air pressure of a place by about this much either way, bar. From memory. */
const WEATHER = 0.02;

export interface SteamCheck {
  /** Temperature that gauge and air pressure stand for on the saturation line, °C. */
  expected: number;
  /** Thermometer less expected, °C. */
  difference: number;
  /** Expanded uncertainty of the difference (k = 2), °C. */
  U: number;
  agree: boolean;
  /** What may explain a disagreement, likeliest first, with what tells. */
  explanations: { cause: string; tells: string }[];
  /** The gauge reading that would belong to the thermometer, bar gauge. */
  gaugeFor: number;
}

/**
 * Gauge against thermometer through the saturation line: gauge pressure + local air pressure must boil water at the temperature read.
 * Source: IAPWS R7-97(2012) region 4; both uncertainties carried through (GUM 5.1).
 *
 * @param read gauge in bar gauge with its standard uncertainty; thermometer in °C with its; air in bar absolute (ISO 2533 at the site)
 * @throws RangeError when gauge and air pressure together leave the saturation line
 */
export function steamCheck(read: {
  gauge: number;
  uGauge: number;
  celsius: number;
  uCelsius: number;
  air: number;
}): SteamCheck {
  const absolute = read.gauge + read.air;
  const expected = saturationTemperature(absolute);
  const perBar = (saturationTemperature(absolute + 0.01) - saturationTemperature(absolute - 0.01)) / 0.02;
  const uAbsolute = Math.hypot(read.uGauge, rectangular(WEATHER));
  const U = 2 * Math.hypot(perBar * uAbsolute, read.uCelsius);
  const difference = read.celsius - expected;
  const agree = Math.abs(difference) <= U;
  return {
    expected,
    difference,
    U,
    agree,
    explanations: agree ? [] : difference < 0 ? COOLER : HOTTER,
    gaugeFor: saturationPressure(read.celsius) - read.air,
  };
}

/** Cooler than its pressure. Air adds to the gauge and nothing to the temperature. Common practice. */
const COOLER = [
  {
    cause: "Air trapped in the boiler",
    tells: "Let steam through the wand for some seconds and read both again: with air gone they agree.",
  },
  {
    cause: "Scale on the probe, or the probe not in the steam",
    tells: "Read with another thermometer at the wand’s foot.",
  },
  { cause: "The gauge reads high", tells: "Let the boiler go cold: the gauge must fall to zero." },
];

/** Hotter than its pressure: steam over water can't be. */
const HOTTER = [
  {
    cause: "The gauge reads low, or its pipe is choked",
    tells: "Read with a second gauge, or tap it: a stuck needle jumps.",
  },
  { cause: "The thermometer reads high", tells: "Check it in boiling water at this altitude." },
];
