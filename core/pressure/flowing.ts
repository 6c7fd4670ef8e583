import { type Tolerance, phi } from "../metrology";

/** The bleed a flowing test is made with, ml/s. Common practice. */
export const BLEED = { least: 1.5, most: 3 } as const;

/** A sound pump loses no more than this between blind and bleed, bar. Common practice, from memory. */
export const MOST_SAG = 1;

export interface FlowingTest {
  /** Static less flowing, bar. */
  sag: number;
  /** Probability that the true sag is more than a sound pump shows. */
  pSags: number;
  verdict: "holds under flow" | "sags" | "can't tell";
  means: string;
}

/**
 * A worn pump holds static pressure yet sags when water flows.
 *
 * @param test static and flowing pressure at the group, bar, and the standard uncertainty of their difference (what both share drops out)
 */
export function flowingTest(test: { static: number; flowing: number; u: number }): FlowingTest {
  const sag = test.static - test.flowing;
  const pSags = test.u > 0 ? phi((sag - MOST_SAG) / test.u) : sag > MOST_SAG ? 1 : 0;
  if (pSags >= 0.9)
    return {
      sag,
      pSags,
      verdict: "sags",
      means: "The pump is worn, or its inlet is starved: it gives pressure only without flow.",
    };
  if (pSags <= 0.1)
    return { sag, pSags, verdict: "holds under flow", means: "The pump keeps up with the flow of a shot." };
  return { sag, pSags, verdict: "can't tell", means: "Read both once more." };
}

/**
 * Millilitres a second from a bleed caught in a jug; says what is wrong with it when it does not make a flowing test.
 *
 * @param rate ml/s
 */
export function bleedProblem(rate: number): string | null {
  if (!(rate > 0)) return "A flowing test needs a bleed that flows.";
  if (rate < BLEED.least)
    return `${rate.toFixed(1)} ml/s is too little for a flowing test: ${BLEED.least} to ${BLEED.most} ml/s.`;
  return rate > BLEED.most
    ? `${rate.toFixed(1)} ml/s is more than a shot takes: ${BLEED.least} to ${BLEED.most} ml/s.`
    : null;
}

export type Returned = "seen" | "none" | "not-looked";

/**
 * "No return and over limit": water must be seen coming back through the valve while the pressure is over the limit. None ends the test.
 * @param value at the group, bar
 */
export function endsTheTest(value: number, returned: Returned, tolerance: Tolerance): boolean {
  return returned === "none" && tolerance.upper !== undefined && value > tolerance.upper;
}
