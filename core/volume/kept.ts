import { weightsFrom } from "../metrology";

/** Water kept back by puck and headspace: kept = a + b·dose, fitted per machine from a prior of the kind. */

export interface KeptRun {
  /** g of coffee */
  readonly dose: number;
  /** ml of water through the meter */
  readonly water: number;
  /** g in the cup */
  readonly cup: number;
}

export interface Kept {
  /** ml */
  a: number;
  /** ml per g */
  b: number;
  /** Covariance of a and b. */
  covariance: readonly [aa: number, ab: number, bb: number];
  /** Standard deviation of one shot about the line, ml. */
  sd: number;
  runs: number;
}

/** The dose about which the spread is stated, g. */
const MIDDLE = 18;
/** More coffee soaks up more and leaves less room over it: what a gram more keeps back is known by little. Our choice: 0.4 ml. */
const SLOPE_VAR = 0.4 ** 2;

/** A spread of the kept water at the middle dose, ml², and of the slope, as the covariance of the line. */
const spreadAbout = (level: number): Kept["covariance"] => [
  level + MIDDLE ** 2 * SLOPE_VAR,
  -MIDDLE * SLOPE_VAR,
  SLOPE_VAR,
];

/** About half of 44 ml kept at 20 g and more: 4 ml of headspace and a millilitre a gram. Common practice, spread from memory. */
export const USUAL_KEPT: Kept = { a: 4, b: 0.95, covariance: spreadAbout(22), sd: 1.5, runs: 0 };

/**
 * What a kind keeps back in a basket, before this machine has shown its own. Without a three-way valve the water over the puck drips on into
 * the cup; how much room a single basket leaves over its coffee differs more than a double’s. Sizes from memory, wide.
 */
export function usualKept({ drains, basket }: { drains: boolean; basket: "single" | "double" }): Kept {
  return {
    ...USUAL_KEPT,
    a: drains ? USUAL_KEPT.a : USUAL_KEPT.a / 2,
    covariance: drains && basket === "double" ? USUAL_KEPT.covariance : spreadAbout(29),
  };
}

/** How much wider the kind’s prior may be than it is stated, as a standard deviation, and how often. Our choice: one machine in ten is another sort. */
const WIDER = [
  { times: 1, share: 0.9 },
  { times: 2, share: 0.07 },
  { times: 4, share: 0.03 },
] as const;

/**
 * Bayesian straight line: the prior is a normal for (a, b), each run adds what it saw with the standard deviation of a shot. A machine that
 * is nothing like its kind is believed: the prior is a mixture of the stated one and wider ones, weighed by how likely each made the runs.
 *
 * @throws RangeError when more came out than went in, or a dose is not above 0
 */
export function fitKept(runs: readonly KeptRun[], prior: Kept = USUAL_KEPT): Kept {
  if (runs.length === 0) return prior;
  const [priorAa, priorAb, priorBb] = prior.covariance;
  const lines = WIDER.map(({ times, share }) => {
    const v = times ** 2;
    const line = fitLine(runs, { ...prior, covariance: [v * priorAa, v * priorAb, v * priorBb] });
    return { ...line, weight: Math.log(share) + line.logLikelihood };
  });
  const weights = weightsFrom(lines.map((l) => l.weight));
  const mean = (of: (line: (typeof lines)[number]) => number) =>
    lines.reduce((sum, line, i) => sum + weights[i]! * of(line), 0);
  const [a, b] = [mean((l) => l.a), mean((l) => l.b)];
  const covariance = [
    mean((l) => l.covariance[0] + (l.a - a) ** 2),
    mean((l) => l.covariance[1] + (l.a - a) * (l.b - b)),
    mean((l) => l.covariance[2] + (l.b - b) ** 2),
  ] as const;
  return { a, b, covariance, sd: prior.sd, runs: prior.runs + runs.length };
}

function fitLine(runs: readonly KeptRun[], prior: Kept) {
  let { a, b } = prior;
  let [aa, ab, bb] = prior.covariance;
  let logLikelihood = 0;
  for (const { dose, water, cup } of runs) {
    if (!(dose > 0)) throw new RangeError("The dose is a mass above 0.");
    if (!(water >= cup)) throw new RangeError("More came out than went in: check water and cup.");
    // A Kalman step for one observation y = a + b·dose + noise.
    const variance = aa + 2 * dose * ab + dose * dose * bb + prior.sd ** 2;
    const gainA = (aa + dose * ab) / variance;
    const gainB = (ab + dose * bb) / variance;
    const miss = water - cup - (a + b * dose);
    logLikelihood -= 0.5 * ((miss * miss) / variance + Math.log(variance));
    a += gainA * miss;
    b += gainB * miss;
    const [oldAa, oldAb] = [aa, ab];
    aa -= gainA * (oldAa + dose * oldAb);
    ab -= gainA * (oldAb + dose * bb);
    bb -= gainB * (oldAb + dose * bb);
  }
  return { a, b, covariance: [aa, ab, bb] as const, logLikelihood };
}

/** A run this far off the line of all others was misread, or its coffee was another, ml. Common practice, from memory. */
const OFF_LINE = 4;

/** The runs, by their place, that do not fit what the others say, with how far they lie off it, ml. */
export function offTheLine(runs: readonly KeptRun[], prior: Kept = USUAL_KEPT): { at: number; by: number }[] {
  if (runs.length < 3) return [];
  return runs.flatMap((run, at) => {
    const others = fitKept(
      runs.filter((other) => other !== run),
      prior,
    );
    const by = run.water - run.cup - keptAt(others, run.dose).value;
    return Math.abs(by) > OFF_LINE ? [{ at, by }] : [];
  });
}

/**
 * Water kept at a dose, ml, with the standard uncertainty of the mean (one shot scatters by `sd` more).
 *
 * @param dose g, > 0
 */
export function keptAt(kept: Kept, dose: number): { value: number; u: number } {
  const [aa, ab, bb] = kept.covariance;
  return { value: kept.a + kept.b * dose, u: Math.sqrt(Math.max(0, aa + 2 * dose * ab + dose * dose * bb)) };
}
