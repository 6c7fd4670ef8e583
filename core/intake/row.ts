import type { KnobAt } from "../knobs";
import { type Dimension, type Unit, formatQuantity, baseUnit, parseQuantity, unitById } from "../quantity";
import { DAY_ORDER_WORDS, type DayOrder, type DayProblem, readDay } from "./day";
import { NOT_TAKEN, type Plan, TO_NOTE } from "./plan";
import { plainSerial } from "./serial";
import { type FigureTarget, type Phase, TARGETS, type Target } from "./targets";

/** One row of a spreadsheet of visits, as it would be stored; or what is wrong with it, cell by cell. */

export interface PastFigure extends KnobAt {
  readonly phase: Phase;
  readonly dimension: Dimension;
  readonly typed: string;
  /** Its id */
  readonly unit: string;
  /** Stored unit */
  readonly value: number;
}

export interface PastRow {
  readonly machineId: string;
  /** ISO day */
  readonly doneOn: string;
  readonly doneBy: string;
  readonly work: string;
  readonly note: string;
  readonly figures: readonly PastFigure[];
}

export interface CellError {
  /** The head of its column, or which it is. */
  readonly column: string;
  readonly typed: string;
  readonly reason: string;
  /** What would mend it. */
  readonly fix: string;
  /** A serial that no machine has. */
  readonly serial?: string;
}

export type ReadRow =
  { readonly ok: true; readonly row: PastRow } | { readonly ok: false; readonly errors: readonly CellError[] };

/** Longest that is kept of a name, and of words. */
const LONGEST_NAME = 200;
const LONGEST_WORDS = 4000;
const SHOWN = 40;

const DAY_WORDS: Readonly<Record<DayProblem, (order: string) => [reason: string, fix: string]>> = {
  empty: () => ["No day", "Type the day of the visit."],
  "not-a-day": (order) => ["Not a day", `Type it as ${order}, like 2021-06-03 or 3 June 2021.`],
  serial: () => [
    "The number of a day in a spreadsheet, not a day",
    "Format the column as a date there, and save it again.",
  ],
  "no-such-day": (order) => [
    "There is no such day",
    `Read as ${order}. Correct the day, or choose another order above.`,
  ],
  "too-early": () => ["Before 1950", "Type the year with four digits."],
  future: () => ["In the future", "Correct the year."],
};

export interface Reader {
  /** @param cells of one row, with as many as there are */
  read(cells: readonly string[]): ReadRow;
}

/** A column of the plan, with what its cells are read as. */
interface Column {
  readonly name: string;
  readonly target: string;
  readonly of: Target | undefined;
  readonly unit: Unit | null;
}

/** What a cell comes to: something of the row, nothing, or what is wrong with it. */
type Cell = Partial<PastRow> | { readonly figure: PastFigure } | { readonly more: string } | Wrong | null;
interface Wrong extends Pick<CellError, "reason" | "fix" | "serial"> {
  readonly wrong: true;
}
const wrong = (reason: string, fix: string, serial?: string): Wrong => ({
  wrong: true,
  reason,
  fix,
  ...(serial === undefined ? {} : { serial }),
});

/**
 * A reader of rows by a plan, made once for a file.
 *
 * @param machineOf the id of the machine with a serial in lower case; undefined where none has it
 * @param today ISO day
 * @throws RangeError when the plan has no order for days
 */
export function readerOf(plan: Plan, machineOf: (serial: string) => string | undefined, today: string): Reader {
  const { dayOrder } = plan;
  if (!dayOrder) throw new RangeError("The order of days is not known.");
  const columns = plan.columns.map(({ head, target, unit }, i): Column => ({
    ...{ target, name: head || `Column ${i + 1}`, of: TARGETS[target] },
    unit: unit ? unitById(unit) : null,
  }));
  const dayCell = daysOf(dayOrder, today);

  function cellOf(typed: string, { target, of, name, unit }: Column): Cell {
    if (target !== NOT_TAKEN && UNREADABLE.test(typed))
      return wrong("A letter in it can’t be read", "Choose another encoding of the file.");
    if (target === TO_NOTE) return typed ? { more: `${name}: ${typed}` } : null;
    switch (of?.form) {
      case undefined:
        return null;
      case "day":
        return dayCell(typed);
      case "serial":
        return serialCell(typed, (key) => plan.serials[key] ?? machineOf(key));
      case "words":
        return wordsCell(typed, target);
      case "figure":
        return figureCell(numberText(typed, plan.decimals), typed, of, unit ?? baseUnit(of.dimension));
    }
  }

  return {
    read(cells) {
      const errors: CellError[] = [];
      const figures: PastFigure[] = [];
      const more: string[] = [];
      const row = { machineId: "", doneOn: "", doneBy: "", work: "", note: "" };
      for (const [i, column] of columns.entries()) {
        const typed = (cells[i] ?? "").trim();
        const cell = cellOf(typed, column);
        if (cell === null) continue;
        if ("wrong" in cell) {
          const { reason, fix, serial } = cell;
          errors.push({ column: column.name, typed: short(typed), reason, fix, ...(serial ? { serial } : {}) });
        } else if ("figure" in cell) figures.push(cell.figure);
        else if ("more" in cell) more.push(cell.more);
        else Object.assign(row, cell);
      }
      const note = [row.note, ...more].filter(Boolean).join("; ");
      const whole = { ...row, note, figures };
      const all = errors.length > 0 ? errors : wholeRow(whole);
      return all.length > 0 ? { ok: false, errors: all } : { ok: true, row: whole };
    },
  };
}

/** What is wrong with a row whose cells are all well. */
function wholeRow({ note, work, figures }: PastRow): CellError[] {
  if (note.length > LONGEST_WORDS)
    return [
      {
        column: "Note",
        typed: short(note),
        reason: `With what goes to it, longer than ${LONGEST_WORDS} letters`,
        fix: "Send fewer columns to the note.",
      },
    ];
  if (figures.length === 0 && !work && !note)
    return [
      {
        ...{ column: "Row", typed: "" },
        reason: "Nothing but a day and a machine",
        fix: "Choose more columns to store, or delete the row.",
      },
    ];
  return [];
}

/** Days of a file are few: each is read once. */
function daysOf(order: DayOrder, today: string): (typed: string) => Cell {
  const known = new Map<string, string>();
  return (typed) => {
    const before = known.get(typed);
    if (before) return { doneOn: before };
    const day = readDay(typed, order, today);
    if (!day.ok) return wrong(...DAY_WORDS[day.problem](DAY_ORDER_WORDS[order]));
    if (known.size < 20_000) known.set(typed, day.iso);
    return { doneOn: day.iso };
  };
}

function serialCell(typed: string, machineOf: (key: string) => string | undefined): Cell {
  if (!typed) return wrong("No serial", "Type the serial of the machine.");
  if (typed.length > LONGEST_NAME) return wrong("Too long for a serial", "Type the serial alone.");
  const machineId = machineOf(plainSerial(typed).toLowerCase());
  if (machineId) return { machineId };
  return wrong("No machine here has this serial", "Register it first, or choose which machine it is.", typed);
}

function wordsCell(typed: string, target: string): Cell {
  const most = target === "doneBy" ? LONGEST_NAME : LONGEST_WORDS;
  return typed.length > most ? wrong(`Longer than ${most} letters`, "Shorten it.") : { [target]: typed };
}

/** What stands for bytes that are no letter in the encoding chosen, and what no text holds. */
// eslint-disable-next-line no-control-regex
const UNREADABLE = /[\uFFFD\u0000-\u0008]/;

/** What people put where there is no number. */
const NONE = /^[-–—/?.]*$|^n\.?\/?a\.?$/i;

function figureCell(number: string, typed: string, of: FigureTarget, unit: Unit): Cell {
  if (NONE.test(typed)) return null;
  const parsed = parseQuantity(number, of.dimension, unit);
  if (!parsed.ok)
    return wrong(
      firstSentence(parsed.message),
      unit.symbol ? `Type a number in ${unit.symbol}, or leave it empty.` : "Type a number, or leave it empty.",
    );
  const [least, most] = of.possible;
  if (parsed.value < least || parsed.value > most) {
    const base = baseUnit(of.dimension);
    return wrong(
      `Outside ${formatQuantity(least, 0.1, base)} to ${formatQuantity(most, 0.1, base)}: not a ${of.title.toLowerCase()}`,
      "Correct the number, or choose the unit of the column.",
    );
  }
  const { knob, group, button, phase, dimension } = of;
  return {
    figure: { knob, group, button, phase, dimension, typed: short(typed), unit: parsed.unit.id, value: parsed.value },
  };
}

/** With the comma for decimals a point stands between thousands, and the other way round. */
function numberText(typed: string, decimals: Plan["decimals"]): string {
  return decimals === "comma"
    ? typed.replace(/(?<=\d)[.\u00a0\u202f’'](?=\d{3}(?!\d))/g, "").replace(/(?<=\d),(?=\d)/, ".")
    : typed.replace(/(?<=\d)[,\u00a0\u202f’'](?=\d{3}(?!\d))/g, "");
}

const firstSentence = (message: string) => message.split(/(?<=[.?])\s/)[0]!.replace(/\.$/, "");
const short = (text: string) => (text.length > SHOWN ? `${text.slice(0, SHOWN - 1)}…` : text);

/** All that is stored of a row, in one text of one order: two rows with the same are the same visit. */
export function rowText({ machineId, doneOn, doneBy, work, note, figures }: PastRow): string {
  const all = figures.map((f) => [f.knob, f.group ?? "", f.button ?? "", f.phase, f.value].join(" ")).sort();
  return [machineId, doneOn, doneBy, work, note, ...all].join("\u0000");
}
