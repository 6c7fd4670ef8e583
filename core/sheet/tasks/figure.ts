import { type InstrumentQuantity, type Place, type Tolerance, aim, judge } from "../../metrology";
import {
  type Dimension,
  type Unit,
  baseUnit,
  formatFigure,
  formatQuantity,
  formatUncertainty,
  parseRange,
  unitById,
} from "../../quantity";
import { figure as figureIn } from "../records";
import { type TaskModule, Unfit, sayAny } from "./task";
import { late, quantityOf, readWith, unitOf } from "./typed";

/** A figure, read with an instrument or said. */
export interface FigureTask {
  readonly kind: "figure";
  readonly dimension: Dimension;
  /** Outside is refused as impossible, stored unit. */
  readonly possible: readonly [number, number];
  /** Outside is asked about. */
  readonly usual: readonly [number, number];
  readonly tolerance?: Tolerance;
  /** The station is not done until it lies inside; what to do on either side. */
  readonly mustHold?: { readonly below: string; readonly above: string };
  /** Digits shown, stored unit. */
  readonly resolution: number;
  /** A range may be typed for it, like “18 to 20”: what is wanted, not what was read. */
  readonly range?: boolean;
  /** In which unit it is typed and said, where that is not the stored one. */
  readonly unit?: string;
  /** Read with an instrument of the kit: it names itself and its uncertainty. */
  readonly instrument?: InstrumentQuantity;
  /** Where a pressure gauge has to sit for it. */
  readonly place?: Place;
  /** Comes out cool and pale on a machine that is not warm yet. */
  readonly countsWarm?: boolean;
}

export const figure: TaskModule<FigureTask> = {
  done(task, { records }) {
    const value = figureIn(records, task.id);
    return value !== undefined && remedyFor(task, value) === null;
  },
  read(task, typed) {
    const unit = unitOf(task.dimension, typed.unit);
    const range = task.range ? rangeOf(typed.typed, task, unit) : null;
    const value = range
      ? (range.low + range.high) / 2
      : quantityOf(typed, task.dimension, unit.id, task.possible, `Type the number for “${task.label}”.`);
    const [low, high] = task.usual;
    if ((value < low || value > high) && !typed.sure)
      throw new Unfit(
        `${formatQuantity(value, task.resolution, unit)} is unusual. If it is really so, tick the box and save again.`,
        "sure",
      );
    if (range) return { form: "figure", value, ...range };
    return { form: "figure", ...readWith(value, typed.instrument, task.instrument, typed.today) };
  },
  say({ dimension, resolution, tolerance, unit: own }, value, { rule }) {
    if (value.form !== "figure") return sayAny(value);
    const unit = own ? unitById(own) : baseUnit(dimension);
    const { u, U, low, high } = value;
    if (low !== undefined && high !== undefined)
      return { text: `${formatFigure(low, resolution, unit)} to ${formatQuantity(high, resolution, unit)}` };
    const plain = formatQuantity(value.value, resolution, unit);
    const text = `${plain}${U === undefined ? "" : ` ± ${formatUncertainty(U, resolution, unit)}`}${late(value)}`;
    if (!tolerance) return { text };
    if (u !== undefined && U !== undefined)
      return { text, verdict: judge({ value: value.value, u, U }, tolerance, rule).verdict };
    // No instrument is named: half a step of what was read is all that is claimed.
    const half = resolution / 2;
    return {
      text,
      verdict: judge({ value: value.value, u: half / Math.sqrt(3), U: half }, tolerance, "simple").verdict,
    };
  },
  remedy(task, records) {
    const value = figureIn(records, task.id);
    return value === undefined ? "" : (remedyFor(task, value) ?? "");
  },
};

/**
 * Both ends of a range that was typed; null where it is one figure.
 *
 * @throws Unfit where an end lies outside what can be
 */
function rangeOf(typed: string, { dimension, possible }: FigureTask, unit: Unit): { low: number; high: number } | null {
  const parsed = parseRange(typed, dimension, unit);
  if (!parsed.ok || parsed.low === parsed.high) return null;
  if (parsed.low < possible[0] || parsed.high > possible[1])
    throw new Unfit(`From ${formatFigure(possible[0], 1, unit)} to ${formatQuantity(possible[1], 1, unit)}.`);
  return { low: parsed.low, high: parsed.high };
}

/**
 * What to do about a figure that must hold and does not; null when it does.
 *
 * @param value stored unit
 */
export function remedyFor({ mustHold, tolerance }: FigureTask, value: number): string | null {
  if (!mustHold || !tolerance) return null;
  const { lower = -Infinity, upper = Infinity } = tolerance;
  if (value >= lower && value <= upper) return null;
  return value < aim(tolerance) ? mustHold.below : mustHold.above;
}
