import { scaleLinear } from "d3-scale";
import { differenceInDays, parseISO } from "date-fns";

/** What is known of an instrument's error, as its papers state it. */
export type ErrorStatement =
  /** Accuracy class: permissible error as % of span (EN 837-1 for gauges). */
  | { form: "class"; percentOfSpan: number }
  /** Limit of error in the unit of the quantity, ±. */
  | { form: "limit"; limit: number }
  /** Calibration certificate: expanded uncertainty with its coverage factor; errors are in the correction table. */
  | { form: "certificate"; U: number; k: number };

export interface Instrument {
  /** Span in the stored unit of its quantity. */
  readonly lowest: number;
  readonly highest: number;
  /** Smallest step that can be read, > 0. */
  readonly resolution: number;
  readonly error: ErrorStatement;
  /** Standard deviation of single readings seen with this kind of instrument on this kind of work; 0 if none is known. */
  readonly repeatability: number;
  /** Degrees of freedom that figure is known to, ≥ 1; left out, as if some ten readings stood behind it. */
  readonly repeatabilityDof?: number;
  /** Certificate points: [indicated, correction to add], ascending. */
  readonly corrections?: readonly (readonly [number, number])[];
  /** ± it may have gone astray in a year since it was calibrated, unit of the quantity; none where its papers don’t say. */
  readonly driftPerYear?: number | null;
  /** Gap between rising and falling readings of one value, unit of the quantity; none where it is part of its class or not known. */
  readonly hysteresis?: number | null;
  /** ISO date. */
  readonly calibratedOn?: string | null;
  /** ISO date after which its calibration is out of date. */
  readonly dueOn?: string | null;
}

type Stated = Omit<Instrument, "corrections"> & { readonly corrections?: Instrument["corrections"] | null | undefined };

/**
 * Whether the figures stated of an instrument can be worked with at all: finite, a scale that rises, a step and an error above or at 0.
 * What a form let in once, or a hand in the database, is not taken on trust.
 */
export function isUsable(stated: Stated): boolean {
  const { lowest, highest, resolution, error, repeatability, corrections } = stated;
  const [drift, hysteresis] = [stated.driftPerYear ?? 0, stated.hysteresis ?? 0];
  const finite = (...figures: unknown[]) => figures.every((x) => typeof x === "number" && Number.isFinite(x));
  const span = highest - lowest;
  if (!finite(lowest, highest, resolution, repeatability, span) || !(span > 0)) return false;
  if (!(resolution > 0 && resolution <= span && repeatability >= 0 && repeatability <= span)) return false;
  if (!finite(drift, hysteresis) || drift < 0 || drift > span || hysteresis < 0 || hysteresis > span) return false;
  const limit = maximumError(error, lowest, highest);
  if (!finite(limit) || limit < 0 || (error.form === "certificate" && !(error.k > 0 && error.k < 100))) return false;
  return (corrections ?? []).every(([at, add]) => finite(at, add));
}

/** Where a pressure gauge sits, and what must be added for the pressure at the group. */
export interface GaugePlace {
  readonly place: "group" | "pump";
  /** Added to the reading, in bar: 10 on a pump-side dial with 1 bar between is 9 at the group → −1. */
  readonly toGroup: number;
  /** Standard uncertainty of that figure. */
  readonly u: number;
}

export const AT_THE_GROUP: GaugePlace = { place: "group", toGroup: 0, u: 0 };

/**
 * Largest permissible error, in the unit of the quantity.
 *
 * @param lowest end of the span, its unit
 * @param highest other end of the span
 * @example maximumError({ form: "class", percentOfSpan: 1.6 }, 0, 16) // 0.256 (EN 837-1)
 */
export function maximumError(error: ErrorStatement, lowest: number, highest: number): number {
  if (error.form === "class") return (error.percentOfSpan / 100) * (highest - lowest);
  return error.form === "limit" ? error.limit : error.U;
}

/**
 * Correction from the certificate's table by linear interpolation.
 *
 * @param indicated what the instrument shows, its unit
 * @throws RangeError outside the table: a certificate says nothing there.
 */
export function correctionAt(instrument: Instrument, indicated: number): number {
  const table = instrument.corrections;
  if (!table || table.length === 0) return 0;
  const first = table[0]!;
  const last = table[table.length - 1]!;
  if (indicated < first[0] || indicated > last[0])
    throw new RangeError(`The correction table covers ${first[0]} to ${last[0]}; ${indicated} is outside it.`);
  if (table.length === 1) return first[1];
  return scaleLinear(
    table.map(([at]) => at),
    table.map(([, add]) => add),
  )(indicated);
}

/**
 * How far it may have gone astray since it was calibrated: its stated drift, for as long as that is ago.
 *
 * @param at when it is read
 * @returns half-width, unit of the quantity, ≥ 0; 0 where no drift is stated or nobody knows when it was calibrated
 */
export function driftSince({ driftPerYear, calibratedOn }: Instrument, at: Date): number {
  if (!driftPerYear || !calibratedOn) return 0;
  return driftPerYear * Math.max(0, differenceInDays(at, parseISO(calibratedOn)) / 365.25);
}

/** Whether its calibration was due before this day (ISO, as the workshop has it); false where it is never calibrated. */
export function outOfDate(instrument: Pick<Instrument, "dueOn">, isoDay: string): boolean {
  return instrument.dueOn != null && instrument.dueOn < isoDay;
}
