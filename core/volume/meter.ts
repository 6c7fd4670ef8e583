import { mean } from "d3-array";
import { type Line, coverageFactor, fitLine } from "../metrology";
import { densityOfWater } from "../steam";

/** The meter factor: pulses a turbine gives per millilitre, from blank runs of different lengths weighed in a jug. */

export interface MeterRun {
  readonly pulses: number;
  /** g of water in the jug */
  readonly grams: number;
}

export interface MeterFactor {
  /** Pulses per ml. */
  K: number;
  /** Half-width of its 95 % interval. */
  U: number;
  u: number;
  /** ml that flow without a pulse (or pulse without flow) at each start. */
  start: number;
  /** Spread of single runs about the line, as a share of the mean run. */
  repeatability: number;
  verdict: "holds" | "off" | "can't tell";
  /** ml against pulses. */
  line: Line;
  points: { pulses: number; ml: number; residual: number }[];
}

/** Repeatability asked of a meter. Common practice. */
export const REPEATABILITY = 0.02;
/** A line, and one degree of freedom to doubt it. */
const LEAST_RUNS = 3;

/**
 * Straight line ml = start + pulses / K through the runs.
 *
 * @param celsius of the water weighed: turns g into ml
 * @throws RangeError with fewer than 3 runs, all of one length, or a line that does not rise
 */
export function fitMeter(runs: readonly MeterRun[], celsius = 20): MeterFactor {
  if (runs.length < LEAST_RUNS) throw new RangeError("Three blank runs at least, of different lengths.");
  const density = densityOfWater(celsius);
  const volumes = runs.map((r) => r.grams / density);
  const line = fitLine(runs.map((r, i) => ({ x: r.pulses, y: volumes[i]! })));
  if (!(line.slope > 0)) throw new RangeError("More pulses gave less water: check which figure is which.");
  const K = 1 / line.slope;
  const u = line.slopeU / line.slope ** 2;
  const meanVolume = mean(volumes)!;
  const repeatability = line.residualSd / meanVolume;
  return {
    K,
    u,
    U: coverageFactor(0.95, line.dof) * u,
    start: line.intercept,
    repeatability,
    verdict: repeatability <= REPEATABILITY ? "holds" : runs.length < 4 ? "can't tell" : "off",
    line,
    points: runs.map((r, i) => ({ pulses: r.pulses, ml: volumes[i]!, residual: line.residuals[i]! })),
  };
}

export interface GroupsCompared {
  /** Second over first, less 1. */
  difference: number;
  /** Half-width of its 95 % interval. */
  U: number;
  verdict: "alike" | "apart" | "can't tell";
  /** The one that gives fewer pulses for the same water, where they are apart. */
  worn: 1 | 2 | null;
}

/** Two meters of one machine, further apart than this, need programmes of their own, and a look at the slower. Common practice, from memory. */
const ALIKE = 0.03;

/** Group against group: a worn turbine slips and gives fewer pulses for the same water. */
export function compareMeters(first: MeterFactor, second: MeterFactor): GroupsCompared {
  const ratio = second.K / first.K;
  const difference = ratio - 1;
  const U = ratio * Math.hypot(first.U / first.K, second.U / second.K);
  const away = Math.abs(difference);
  const verdict = away > ALIKE && away > U ? "apart" : away + U <= ALIKE ? "alike" : away <= U ? "can't tell" : "alike";
  return { difference, U, verdict, worn: verdict !== "apart" ? null : difference < 0 ? 2 : 1 };
}
