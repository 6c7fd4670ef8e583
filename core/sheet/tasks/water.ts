import type { KitInstrument } from "../../metrology";
import { addMonths, format } from "date-fns";
import { noonOf } from "../../day";
import { parseRange } from "../../quantity";
import { PURGE_LITRES, cartridgeDue, judgeHardness, purgeStep } from "../../water";
import { figure, latest } from "../records";
import { type TaskModule, type Typed, Unfit, sayAny } from "./task";
import { late, quantityOf, readBy, short, unitOf } from "./typed";

/** Hardness by the strip, litres through a new cartridge, and when it is changed next. */

export interface HardnessTask {
  readonly kind: "hardness";
}

/** mg/L CaCO₃. From memory: no tap water gives more. */
const HARDEST = 1500;

export const hardness: TaskModule<HardnessTask> = {
  done: (task, { records }) => figure(records, task.id) !== undefined,
  read(_, { typed, unit, instrument, today }) {
    const parsed = parseRange(typed, "hardness", unitOf("hardness", unit));
    if (!parsed.ok)
      throw new Unfit(
        parsed.problem === "empty" ? "Type what the strip shows, like 4 °dH or 3–4 °dH." : parsed.message,
      );
    // A strip read to one colour is anywhere within its step.
    const step = parsed.low === parsed.high ? stepOf(instrument, unit) / 2 : 0;
    const low = Math.max(0, parsed.low - step);
    const high = parsed.high + step;
    if (parsed.low < 0) throw new Unfit("Hardness is a number of 0 or more.");
    if (high > HARDEST) throw new Unfit(`Over ${HARDEST} mg/L CaCO₃ no tap gives. Check the unit: °dH, °fH, ppm …`);
    if (instrument && instrument.quantity !== "hardness")
      throw new Unfit("That instrument measures something else.", "instrumentId");
    return {
      form: "figure",
      value: (parsed.low + parsed.high) / 2,
      ...(low === high ? {} : { low, high }),
      // A tube of strips has a date too. Its step is already the width of what was read.
      ...(instrument ? readBy(instrument, today) : {}),
    };
  },
  say(_, value, { schools, typed }) {
    if (value.form !== "figure") return sayAny(value);
    const { low = value.value, high = value.value } = value;
    const { verdict } = judgeHardness(low, high, schools.hardness);
    const figures = low === high ? short(low) : `${short(low)} to ${short(high)}`;
    const own = typed && !/mg|ppm/i.test(typed) ? ` (${typed})` : "";
    return { text: `${figures} mg/L CaCO₃${own}${late(value)}`, verdict };
  },
};

/** A strip's step where no instrument says so: one degree of the scale it is printed in, mg/L CaCO₃. Common practice. */
function stepOf(instrument: KitInstrument | null, unit: string): number {
  if (instrument) return instrument.resolution;
  const printed = unitOf("hardness", unit);
  return printed.id === "mg/L" ? 0 : printed.factor;
}

export interface PurgeTask {
  readonly kind: "purge";
}

export const purge: TaskModule<PurgeTask> = {
  done: (task, { records }) => (figure(records, task.id) ?? 0) >= PURGE_LITRES.least,
  read(task, typed) {
    const litres = quantityOf(typed, "volume", "l", [0, 1_000_000], "Type the litres, like 16 L.") / 1000;
    const step = purgeStep(figure(typed.records, task.id) ?? 0, litres);
    if (!step.ok) throw new Unfit(step.message);
    return { form: "figure", value: litres };
  },
  say: (_, value) => (value.form === "figure" ? { text: `${short(value.value)} L` } : sayAny(value)),
  remedy(task, records) {
    const litres = figure(records, task.id);
    return litres !== undefined && litres < PURGE_LITRES.least
      ? `${(PURGE_LITRES.least - litres).toFixed(1)} L more before the inlet opens.`
      : "";
  },
};

export interface CartridgeTask {
  readonly kind: "cartridge";
}

export const cartridge: TaskModule<CartridgeTask> = {
  done: (task, { records }) => latest(records, task.id) !== undefined,
  read(_, typed) {
    const fittedOn = dayOf(typed);
    const capacity = countOf(typed, "capacity", "Litres it treats", [10, 100_000]);
    const perDay = countOf(typed, "perDay", "Litres a day", [0.1, 5000]);
    const months = countOf(typed, "months", "Months", [1, 36]);
    if (months === undefined) throw new Unfit("Say how many months it may stay in at most.", "months");
    const due = cartridgeDue(fittedOn, {
      capacity: capacity ?? Infinity,
      perDay: capacity ? perDay : undefined,
      months,
    });
    return { form: "cartridge", fittedOn: iso(fittedOn), dueOn: iso(due.on), by: due.by };
  },
  say: (_, value) =>
    value.form === "cartridge"
      ? { text: `fitted ${day(value.fittedOn)}, next change ${day(value.dueOn)} by ${value.by}` }
      : sayAny(value),
};

function dayOf({ typed, today }: Typed): Date {
  const said = typed.trim();
  const fittedOn = noonOf(said);
  if (!fittedOn) throw new Unfit("Say when this cartridge was fitted.");
  if (fittedOn < addMonths(noonOf(today)!, -1200)) throw new Unfit("No cartridge here is that old. Check the year.");
  if (said > today) throw new Unfit("It can’t have been fitted on a day still to come.");
  return fittedOn;
}

const iso = (date: Date) => format(date, "yyyy-MM-dd");

function countOf(
  typed: Typed,
  field: "capacity" | "perDay" | "months",
  name: string,
  [least, most]: readonly [number, number],
): number | undefined {
  const said = (typed[field] ?? "").trim();
  if (!said) return undefined;
  const value = Number(said.replace(",", "."));
  if (!Number.isFinite(value) || value < least || value > most)
    throw new Unfit(`${name}: a number from ${least} to ${most}.`, field);
  return value;
}

const day = (isoDay: string) => format(noonOf(isoDay)!, "d MMM yyyy");
