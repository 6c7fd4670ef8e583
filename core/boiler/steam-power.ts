import { liquidWater } from "../steam";

/** Heat capacity of whole milk near 40 °C, kJ/(kg K). From memory. */
const MILK = 3.93;

export interface SteamTest {
  readonly liquid: "milk" | "water";
  /** g */
  readonly mass: number;
  readonly uMass: number;
  /** °C */
  readonly from: number;
  readonly to: number;
  readonly uTemperature: number;
  /** s */
  readonly seconds: number;
  readonly uSeconds: number;
}

export interface SteamPower {
  watts: number;
  /** Standard uncertainty, W. */
  u: number;
  /** What one 150 g jug of milk from 5 to 60 °C takes at this power, s. */
  jug: number;
}

/** One jug of milk, g. Common practice. */
const JUG_G = 150;

/**
 * Power that steam gives to a jug: mass × enthalpy difference ÷ time. Water by IAPWS R7-97 region 1, milk by a constant heat capacity.
 * Steam condensing into the jug adds heat and mass together; what is weighed before is what counts here.
 *
 * @throws RangeError when nothing was heated or no time passed
 */
export function steamPower(test: SteamTest): SteamPower {
  const { liquid, mass, from, to, seconds } = test;
  if (!(mass > 0)) throw new RangeError("Weigh what is in the jug first.");
  if (!(to > from)) throw new RangeError("It ends hotter than it began.");
  if (!(seconds > 0)) throw new RangeError("It takes some time.");
  const perGram = liquid === "water" ? liquidWater(to, 1.5).h - liquidWater(from, 1.5).h : MILK * (to - from);
  const watts = (mass * perGram) / seconds;
  const share = Math.hypot(test.uMass / mass, (Math.SQRT2 * test.uTemperature) / (to - from), test.uSeconds / seconds);
  return { watts, u: watts * share, jug: (JUG_G * MILK * 55) / watts };
}

/**
 * Steam power that is usual for a size, W: a jug (150 g of milk, 5 to 60 °C) in the time that is common practice for it.
 *
 * @param heavy a commercial machine
 */
export const usualSteamWatts = (heavy: boolean): number =>
  (JUG_G * MILK * 55) / (heavy ? JUG_SECONDS.commercial : JUG_SECONDS.home);

/** About 40 s for a jug on a small home boiler, about 10 s on a commercial one. Common practice. */
export const JUG_SECONDS = { home: 40, commercial: 10 } as const;
