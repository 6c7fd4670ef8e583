import { mean } from "d3-array";
import { randomLcg, randomNormal } from "d3-random";
import {
  AT_THE_GROUP,
  type DecisionRule,
  type ErrorStatement,
  type GaugePlace,
  type Instrument,
  judge,
  measure,
  widestRectangle,
} from "../../../core/metrology";

/**
 * What is said of figures whose truth is known: values even over twice the tolerance, so that half of them are outside and many near a limit.
 * An instrument of a class errs anywhere inside it (EN 837-1 promises no more); a certificate’s error is normal; readings scatter by 0.1 and
 * are read to the step.
 */

export interface Gauges {
  name: string;
  error: ErrorStatement;
  resolution: number;
  place: GaugePlace;
}

export const GAUGES: readonly Gauges[] = [
  { name: "class 1.6", error: { form: "class", percentOfSpan: 1.6 }, resolution: 0.1, place: AT_THE_GROUP },
  {
    name: "class 2.5, steps of 0.2",
    error: { form: "class", percentOfSpan: 2.5 },
    resolution: 0.2,
    place: AT_THE_GROUP,
  },
  { name: "certified, U 0.06", error: { form: "certificate", U: 0.06, k: 2 }, resolution: 0.05, place: AT_THE_GROUP },
  {
    name: "class 1.6, pump side",
    error: { form: "class", percentOfSpan: 1.6 },
    resolution: 0.1,
    place: { place: "pump", toGroup: -1, u: 0.3 },
  },
];

const TOLERANCE = { lower: 8.5, target: 9, upper: 9.5 };
const SCATTER = 0.1;
const TENTHS = 10;

export interface Verdicts {
  inside: number;
  outside: number;
  open: number;
  /** Said to be inside, and outside; the other way round. */
  falseAccepts: number;
  falseRejects: number;
  /** P(inside) as stated and whether it was so, by tenth. */
  tenths: { stated: number[]; so: number }[];
}

export function verdictsOf(
  { error, resolution, place }: Gauges,
  rule: DecisionRule,
  n: number,
  seed: number,
): Verdicts {
  const random = randomLcg(seed);
  const normal = randomNormal.source(random)(0, 1);
  const instrument: Instrument = { lowest: 0, highest: 16, resolution, error, repeatability: SCATTER };
  const tally: Verdicts = {
    inside: 0,
    outside: 0,
    open: 0,
    falseAccepts: 0,
    falseRejects: 0,
    tenths: Array.from({ length: TENTHS }, () => ({ stated: [], so: 0 })),
  };
  for (let i = 0; i < n; i++) {
    const truth = 8 + 2 * random();
    const most = error.form === "class" ? (error.percentOfSpan / 100) * 16 : 0;
    const off = error.form === "certificate" ? (error.U / error.k) * normal() : most * (2 * random() - 1);
    const sits = place.u * normal() - place.toGroup;
    const shown = [0, 1].map(() => {
      const at = truth + sits + off + SCATTER * normal();
      return Math.round(at / resolution) * resolution;
    });
    const m = measure(shown, instrument, new Date(), place);
    const { verdict, pInside } = judge({ ...m, half: widestRectangle(m.budget) }, TOLERANCE, rule);
    const isInside = truth >= TOLERANCE.lower && truth <= TOLERANCE.upper;
    if (verdict === "can't tell") tally.open++;
    else if (verdict === "off") {
      tally.outside++;
      if (isInside) tally.falseRejects++;
    } else {
      tally.inside++;
      if (!isInside) tally.falseAccepts++;
    }
    const tenth = tally.tenths[Math.min(TENTHS - 1, Math.floor(TENTHS * pInside))]!;
    tenth.stated.push(pInside);
    if (isInside) tenth.so++;
  }
  return tally;
}

/** Rows of stated against true, tenths of several runs together. */
export function byTenth(runs: readonly Verdicts[]): string[][] {
  return Array.from({ length: TENTHS }, (_, i) => {
    const stated = runs.flatMap((r) => r.tenths[i]!.stated);
    const so = runs.reduce((sum, r) => sum + r.tenths[i]!.so, 0);
    return [
      `${(i / TENTHS).toFixed(1)} to ${((i + 1) / TENTHS).toFixed(1)}`,
      String(stated.length),
      (100 * (mean(stated) ?? 0)).toFixed(1),
      ((100 * so) / Math.max(1, stated.length)).toFixed(1),
    ];
  });
}
