import { mean as meanOf, sum } from "d3-array";
import { type BudgetLine, type Combined, combine, rectangular } from "./budget";
import { AT_THE_GROUP, type GaugePlace, type Instrument, correctionAt, driftSince, maximumError } from "./instrument";

export interface Measured extends Combined {
  /** Mean of what the instrument showed. */
  indicated: number;
  /** After all corrections. */
  value: number;
  corrections: { source: string; amount: number }[];
  budget: BudgetLine[];
  /** Part of u that stays when the reading is repeated with the same instrument. */
  uCommon: number;
}

/** Weight given to the instrument's known repeatability, as if that many readings stood behind it. */
const PRIOR_DOF = 8;

/**
 * From what an instrument showed to the value at the group, with its uncertainty budget.
 *
 * value = mean(indicated) + certificate correction + gauge-place correction.
 * Repeatability pools the scatter of these readings with what is known of the instrument (GUM 4.2.4), so that two
 * readings that happen to agree do not promise more than two readings can.
 *
 * @param coverage probability that U stands for, 0 to 1
 * @param more budget lines that come from elsewhere, like the swing of a needle; in the unit of the result
 * @param at when it was read: a calibration ages
 * @param indicated one or more readings of one steady state, stored unit, each within the span
 * @throws RangeError with no reading, a reading outside the span, or outside the correction table
 */
export function measure(
  indicated: readonly number[],
  instrument: Instrument,
  at: Date,
  place: GaugePlace = AT_THE_GROUP,
  coverage = 0.95,
  more: readonly BudgetLine[] = [],
): Measured {
  const n = indicated.length;
  if (n === 0) throw new RangeError("There is no reading to work out.");
  for (const one of indicated)
    if (!(one >= instrument.lowest && one <= instrument.highest))
      throw new RangeError(`${one} is outside the instrument’s span, ${instrument.lowest} to ${instrument.highest}.`);

  const mean = meanOf(indicated)!;
  const certificate = correctionAt(instrument, mean);
  const corrections = [];
  if (instrument.corrections?.length) corrections.push({ source: "certificate correction", amount: certificate });
  if (place.place !== "group") corrections.push({ source: "gauge place, to the group", amount: place.toGroup });

  const budget = [repeatabilityLine(indicated, mean, instrument), ...instrumentLines(instrument, at), ...more];
  if (place.place !== "group") budget.push(bLine("place", "pressure drop from gauge to group", "normal", place.u));
  const uCommon = Math.hypot(...budget.filter((line) => line.common).map((line) => line.sensitivity * line.u));
  return {
    indicated: mean,
    value: mean + corrections.reduce((sum, c) => sum + c.amount, 0),
    corrections,
    budget,
    uCommon,
    ...combine(budget, coverage),
  };
}

function repeatabilityLine(indicated: readonly number[], mean: number, instrument: Instrument): BudgetLine {
  const n = indicated.length;
  const squares = sum(indicated, (x) => (x - mean) ** 2);
  const known = instrument.repeatability > 0 ? (instrument.repeatabilityDof ?? PRIOR_DOF) : 0;
  const dof = known + n - 1;
  const pooled = dof === 0 ? 0 : Math.sqrt((known * instrument.repeatability ** 2 + squares) / dof);
  return {
    kind: "repeatability",
    source: n === 1 ? "repeatability (one reading)" : `repeatability (mean of ${n} readings)`,
    type: "A",
    distribution: "t",
    u: pooled / Math.sqrt(n),
    sensitivity: 1,
    dof: Math.max(1, dof),
    common: false,
  };
}

function instrumentLines(instrument: Instrument, at: Date): BudgetLine[] {
  const { error, resolution } = instrument;
  const limit = maximumError(error, instrument.lowest, instrument.highest);
  const papers =
    error.form === "certificate"
      ? bLine("instrument", "calibration certificate", "normal", error.U / error.k)
      : bLine(
          "instrument",
          error.form === "class" ? `accuracy class ${error.percentOfSpan}` : "limit of error",
          "rectangular",
          rectangular(limit),
        );
  const drift = driftSince(instrument, at);
  const lines = [papers];
  if (drift > 0) lines.push(bLine("drift", "drift since its calibration", "rectangular", rectangular(drift)));
  // A value may have been come to from above or from below: half the gap either way (GUM 4.3.7), and repeating it the same way does not lessen it.
  if (instrument.hysteresis)
    lines.push(bLine("hysteresis", "hysteresis", "rectangular", rectangular(instrument.hysteresis / 2)));
  // Reading to the nearest step errs by at most half of it.
  return [
    ...lines,
    { ...bLine("resolution", "resolution", "rectangular", rectangular(resolution / 2)), common: false },
  ];
}

function bLine(
  kind: BudgetLine["kind"],
  source: string,
  distribution: BudgetLine["distribution"],
  u: number,
): BudgetLine {
  return { kind, source, type: "B", distribution, u, sensitivity: 1, dof: Infinity, common: true };
}
