import { type InstrumentQuantity } from "../../core/loop";
import { measure, outOfDate } from "../../core/metrology";
import { type Dimension, type Unit, formatQuantity, parseQuantity, parseRange, unitsOf } from "../../core/quantity";
import { type Cell, type Column, type SheetRecords, type Task, type TaskValue, figure } from "../../core/sheet";
import { cartridgeDue, purgeStep } from "../../core/water";
import type { instrument } from "../../db/schema";
import { instrumentOf } from "./events";
import { optionalDay } from "../fields";
import { Refused } from "../refused";

/** From what was typed to what is kept: understood, inside what can be, or refused with the reason beside its field. */

export type InstrumentRow = typeof instrument.$inferSelect;

export interface EntryInput {
  task: string;
  typed: string;
  unit: string;
  sure: boolean;
  /** Of a cartridge: litres it treats, litres a day, months. */
  capacity?: string;
  perDay?: string;
  months?: string;
  /** What a figure was read with. */
  instrumentId?: string | undefined;
}

export function valueOf(
  task: Task,
  input: EntryInput,
  records: SheetRecords,
  instrument: InstrumentRow | null = null,
): TaskValue {
  const typed = input.typed.trim();
  switch (task.kind) {
    case "text":
      if (!typed) throw new Refused("Write it down, even “nothing”.", "typed");
      if (typed.length > 2000) throw new Refused("Keep it under 2000 characters.", "typed");
      return { form: "text", text: typed };
    case "choice":
      if (!task.options.some((o) => o.value === typed)) throw new Refused("Choose one.", "typed");
      return { form: "choice", choice: typed };
    case "hardness":
      return { ...hardnessOf(input), ...strips(instrument) };
    case "purge": {
      const litres = quantityOf(input, "volume", "l", [0, 1_000_000], `Type the litres, like 16 L.`) / 1000;
      const before = figure(records, task.id) ?? 0;
      const step = purgeStep(before, litres);
      if (!step.ok) throw new Refused(step.message, "typed");
      return { form: "figure", value: litres };
    }
    case "cartridge":
      return cartridgeOf(input);
    case "figure":
      return { form: "figure", ...readWith(figureOf(task, input), instrument, task.instrument) };
    default:
      throw new Refused("Nothing is typed for that.");
  }
}

function quantityOf(
  { typed }: EntryInput,
  dimension: Dimension,
  unit: string,
  [least, most]: readonly [number, number],
  missing: string,
): number {
  const parsed = parseQuantity(typed, dimension, unitOf(dimension, unit));
  if (!parsed.ok) throw new Refused(parsed.problem === "empty" ? missing : parsed.message, "typed");
  if (parsed.value < least || parsed.value > most)
    throw new Refused(`${formatQuantity(parsed.value, 0.1, parsed.unit)} can’t be. Check figure and unit.`, "typed");
  return parsed.value;
}

/** The unit chosen beside a figure; where it is none of the quantity’s, the quantity’s first. */
function unitOf(dimension: Dimension, id: string): Unit {
  const known = unitsOf(dimension);
  return known.find((u) => u.id === id) ?? known[0]!;
}

function figureOf(task: Extract<Task, { kind: "figure" }>, input: EntryInput): number {
  const unit = unitOf(task.dimension, input.unit);
  const value = quantityOf(input, task.dimension, unit.id, task.possible, `Type the figure for “${task.label}”.`);
  const [low, high] = task.usual;
  if ((value < low || value > high) && !input.sure)
    throw new Refused(
      `${formatQuantity(value, task.resolution, unit)} is unusual. If it is really so, tick the box and save again.`,
      "sure",
    );
  return value;
}

/** A tube of strips has a date too. Its step is already the width of what was read. */
function strips(instrument: InstrumentRow | null) {
  if (!instrument) return {};
  if (instrument.quantity !== "hardness") throw new Refused("That instrument measures something else.", "instrumentId");
  const late = outOfDate(instrument, new Date().toISOString().slice(0, 10));
  return { instrument: instrument.name, ...(late ? { outOfDate: true } : {}) };
}

/** A figure read with an instrument: corrected, with its uncertainty. Without one half a step is all that is known. */
function readWith(
  indicated: number,
  instrument: InstrumentRow | null,
  quantity: InstrumentQuantity | undefined,
  field = "typed",
) {
  if (!instrument || !quantity) return { value: indicated };
  if (instrument.quantity !== quantity) throw new Refused("That instrument measures something else.", "instrumentId");
  if (indicated < instrument.lowest || indicated > instrument.highest)
    throw new Refused(
      `${instrument.name} goes from ${instrument.lowest} to ${instrument.highest}. It can’t have shown that.`,
      field,
    );
  try {
    const { value, u, U } = measure([indicated], instrumentOf(instrument));
    const late = outOfDate(instrument, new Date().toISOString().slice(0, 10));
    return { value, u, U, instrument: instrument.name, ...(late ? { outOfDate: true } : {}) };
  } catch (error) {
    if (error instanceof RangeError) throw new Refused(error.message, field);
    throw error;
  }
}

/**
 * A row of a table, cell by cell.
 * @param typed what was typed, by column
 * @param instruments what each column was read with
 */
export function rowOf(
  columns: readonly Column[],
  typed: Readonly<Record<string, string>>,
  instruments: ReadonlyMap<string, InstrumentRow>,
  pressureUnit: string,
): TaskValue {
  const cells: Record<string, Cell> = {};
  for (const column of columns) {
    const text = (typed[column.name] ?? "").trim();
    const field = `cell.${column.name}`;
    if (!text && column.optional) continue;
    if (!text) throw new Refused(`${column.label}: nothing is typed.`, field);
    cells[column.name] = cellOf(column, text, field, instruments.get(column.name) ?? null, pressureUnit);
  }
  return { form: "row", cells };
}

function cellOf(
  column: Column,
  text: string,
  field: string,
  instrument: InstrumentRow | null,
  pressureUnit: string,
): Cell {
  const { type } = column;
  if (type.kind === "choice") {
    if (!type.options.some((o) => o.value === text)) throw new Refused(`${column.label}: choose one.`, field);
    return { choice: text };
  }
  const [least, most] = type.possible;
  if (type.kind === "count") {
    if (!/^\d+$/.test(text)) throw new Refused(`${column.label}: a whole number.`, field);
    const value = Number(text);
    if (value < least || value > most) throw new Refused(`${column.label}: from ${least} to ${most}.`, field);
    return { value };
  }
  const parsed = parseQuantity(text, type.dimension, unitOf(type.dimension, pressureUnit));
  if (!parsed.ok) throw new Refused(parsed.message, field);
  if (parsed.value < least || parsed.value > most)
    throw new Refused(
      `${column.label}: ${formatQuantity(parsed.value, type.resolution, parsed.unit)} can’t be.`,
      field,
    );
  const {
    value,
    u,
    instrument: name,
  } = { u: undefined, instrument: undefined, ...readWith(parsed.value, instrument, type.instrument, field) };
  return { value, ...(u === undefined ? {} : { u }), ...(name === undefined ? {} : { instrument: name }) };
}

const HARDEST = 1500;

function hardnessOf(input: EntryInput): Extract<TaskValue, { form: "figure" }> {
  const parsed = parseRange(input.typed, "hardness", unitOf("hardness", input.unit));
  if (!parsed.ok)
    throw new Refused(
      parsed.problem === "empty" ? "Type what the strip shows, like 4 °dH or 3–4 °dH." : parsed.message,
      "typed",
    );
  if (parsed.low < 0) throw new Refused("Hardness is a figure of 0 or more.", "typed");
  if (parsed.high > HARDEST)
    throw new Refused(`Over ${HARDEST} mg/L CaCO₃ no tap gives. Check the unit: °dH, °fH, ppm …`, "typed");
  const value = (parsed.low + parsed.high) / 2;
  return parsed.low === parsed.high
    ? { form: "figure", value }
    : { form: "figure", value, low: parsed.low, high: parsed.high };
}

function cartridgeOf(input: EntryInput): TaskValue {
  const number = (text: string | undefined, field: string, name: string, [least, most]: [number, number]) => {
    const value = Number((text ?? "").trim().replace(",", "."));
    if (!(text ?? "").trim()) return undefined;
    if (!Number.isFinite(value) || value < least || value > most)
      throw new Refused(`${name}: a figure from ${least} to ${most}.`, field);
    return value;
  };
  const day = optionalDay.safeParse(input.typed);
  if (!day.success || !day.data) throw new Refused("Say when this cartridge was fitted.", "typed");
  const fittedOn = new Date(`${day.data}T12:00:00Z`);
  if (fittedOn.getTime() > Date.now() + 864e5)
    throw new Refused("It can’t have been fitted on a day still to come.", "typed");
  const capacity = number(input.capacity, "capacity", "Litres it treats", [10, 100_000]);
  const perDay = number(input.perDay, "perDay", "Litres a day", [0.1, 5000]);
  const months = number(input.months, "months", "Months", [1, 36]);
  if (months === undefined) throw new Refused("Say how many months it may stay in at most.", "months");
  const due = cartridgeDue(fittedOn, { capacity: capacity ?? Infinity, perDay: capacity ? perDay : undefined, months });
  return { form: "cartridge", fittedOn: iso(fittedOn), dueOn: iso(due.on), by: due.by };
}

const iso = (date: Date) => date.toISOString().slice(0, 10);
