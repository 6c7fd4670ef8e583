import { parseISO } from "date-fns";
import { type InstrumentQuantity, type KitInstrument, measure, outOfDate } from "../../metrology";
import { type Dimension, type Unit, formatQuantity, parseQuantity, unitsOf } from "../../quantity";
import type { ReadBy } from "../records";
import { type Typed, Unfit } from "./task";

/** From typed words to figures, for every task that takes one. */

/** The unit chosen beside a figure; where it is none of the quantity’s, the quantity’s first. */
export function unitOf(dimension: Dimension, id: string): Unit {
  const known = unitsOf(dimension);
  return known.find((u) => u.id === id) ?? known[0]!;
}

/**
 * A typed figure, stored unit.
 *
 * @param range least and most that can be, stored unit
 * @throws Unfit when it is no figure, or outside what can be
 */
export function quantityOf(
  { typed }: Pick<Typed, "typed">,
  dimension: Dimension,
  unit: string,
  [least, most]: readonly [number, number],
  missing: string,
): number {
  const parsed = parseQuantity(typed, dimension, unitOf(dimension, unit));
  if (!parsed.ok) throw new Unfit(parsed.problem === "empty" ? missing : parsed.message);
  if (parsed.value < least || parsed.value > most)
    throw new Unfit(`${formatQuantity(parsed.value, 0.1, parsed.unit)} can’t be. Check number and unit.`);
  return parsed.value;
}

/**
 * A figure read with an instrument: corrected, with its uncertainty. Without one half a step is all that is known.
 *
 * @param indicated what the instrument shows, stored unit
 * @param today ISO day: a certificate may have run out by then
 * @throws Unfit when the instrument measures something else, or can’t have shown it
 */
export function readWith(
  indicated: number,
  instrument: KitInstrument | null,
  quantity: InstrumentQuantity | undefined,
  today: string,
  field = "typed",
): { value: number; u?: number; U?: number } & ReadBy {
  if (!instrument || !quantity) return { value: indicated };
  if (instrument.quantity !== quantity) throw new Unfit("That instrument measures something else.", "instrumentId");
  if (indicated < instrument.lowest || indicated > instrument.highest)
    throw new Unfit(
      `${instrument.name} goes from ${instrument.lowest} to ${instrument.highest}. It can’t have shown that.`,
      field,
    );
  try {
    const { value, u, U } = measure([indicated], instrument, parseISO(today));
    return { value, u, U, ...readBy(instrument, today) };
  } catch (error) {
    if (error instanceof RangeError) throw new Unfit(error.message, field);
    throw error;
  }
}

/** What a figure was read with, as it is kept beside it. */
export function readBy(instrument: KitInstrument, today: string): Required<Omit<ReadBy, "outOfDate">> & ReadBy {
  return {
    instrumentId: instrument.id,
    instrument: instrument.name,
    ...(outOfDate(instrument, today) ? { outOfDate: true } : {}),
  };
}

/** An instrument past its date can be used; the report says so. */
export function late({ outOfDate, instrument }: ReadBy): string {
  return outOfDate ? `, ${instrument}: calibration out of date` : "";
}

/**
 * Three figures at most: "180", "44.6".
 *
 * @param value any unit
 */
export function short(value: number): string {
  return value >= 100 ? value.toFixed(0) : String(Math.round(value * 10) / 10);
}
