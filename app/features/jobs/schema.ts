import { z } from "zod";
import { bandProblem } from "~core/boiler";
import { STOP_THREADS, AMOUNT_KINDS, type AmountKind, parseAmount } from "~core/grinder";
import { ABOUT_IDS, LONGEST_AMENDMENT, type ReadingDetail } from "~core/job";
import { LOOP_IDS, type LoopId, type Reads, atOf, moduleOf } from "~core/knobs";
import { PLACES } from "~core/metrology";
import { bleedProblem, parseClock } from "~core/pressure";
import { type Dimension, formatQuantity, parseQuantity, parseRange, unitById, unitsOf } from "~core/quantity";
import type { SchoolsOf } from "~core/school";
import { SCOPE_IDS } from "~core/sheet";
import { WANTED_IDS } from "~core/spec";
import { WARM_LEVELS } from "~core/warmup";
import { wantedRange } from "~server/wanted";
import { parseCurve, readCurve } from "~core/temperature";
import { schoolFields } from "~server/schools";
import { commandId, id } from "~server/web";
import { said, text, yes } from "~server/fields";

/** The forms of a sheet, one schema each; the action picks by `intent`. */

/** A typed quantity, understood in the unit chosen for it. */
function quantity(dimension: Dimension, missing: string) {
  return z.string(missing).transform((typed) => ({
    typed: typed.slice(0, 60),
    parse: (unit: string) => parseQuantity(typed, dimension, unitById(unit)),
  }));
}

export const noteSchema = z
  .object({
    commandId,
    station: z.enum(["look-over"]),
    area: text(60).default(""),
    text: text(4000).default(""),
    supersedes: id.nullish().transform((x) => x ?? null),
    reason: text(300).default(""),
    /** Counted in the same look over; alone, where the condition was written before. */
    accessories: text(2000).default(""),
  })
  .superRefine(({ text, accessories }, ctx) => {
    if (!text && !accessories)
      ctx.addIssue({ code: "custom", path: ["text"], message: "Write down what you see, even “no damage seen”." });
  });

export const noteUndoSchema = z.object({ commandId, noteId: id, reason: text(300).default("") });
export const tryAnewSchema = z.object({
  commandId,
  task: z.string().max(80),
  found: said(300, 3, "Say what was found and cleared: the report shows it."),
});
export const withdrawSchema = z.object({
  commandId,
  reason: said(500, 3, "Say why the job is withdrawn: it stays on record."),
});
export const levelSchema = z.object({ commandId, level: z.enum(WARM_LEVELS, "Choose a level.") });

/** A range wanted on this visit: "18 to 20", "1.0–1.2", or nothing for what the spec has. */
export const wantedSchema = z
  .object({
    commandId,
    of: z.enum(WANTED_IDS),
    typed: text(60).default(""),
    unit: z.string().max(20).default(""),
    reason: text(300).default(""),
  })
  .transform(({ typed, unit, ...rest }, ctx) => {
    const fail = (path: string, message: string) => {
      ctx.addIssue({ code: "custom", path: [path], message });
      return z.NEVER;
    };
    if (!typed) return { ...rest, range: null };
    const range = wantedRange(rest.of, typed, unit);
    if (typeof range === "string") return fail("typed", range);
    if (rest.reason.length < 3) return fail("reason", "Say why: the report shows it.");
    return { ...rest, range };
  });

export const tickSchema = z.object({ commandId, key: z.string().max(80) });

const task = z.string().max(80);

/** What is typed is understood by the task it belongs to, on the server. */
export const entrySchema = z.object({
  commandId,
  task,
  typed: text(4000).default(""),
  unit: z.string().max(20).default(""),
  sure: yes,
  capacity: text(20).default(""),
  perDay: text(20).default(""),
  months: text(20).default(""),
  instrumentId: z
    .union([z.uuid(), z.literal("")])
    .optional()
    .transform((x) => x || undefined),
  supersedes: id.nullish().transform((x) => x ?? null),
});

/** Values saved together: what was typed, its unit and what it was read with, by task. Ids of tasks have dots, names of fields “_”. */
export const entriesSchema = z
  .object({
    commandId,
    typed: z.record(z.string().max(80), text(4000).default("")).default({}),
    unit: z.record(z.string().max(80), z.string().max(20).default("")).default({}),
    with: z.record(z.string().max(80), z.union([z.uuid(), z.literal("")]).optional()).default({}),
    /** Each unusual value is asked about by itself, where it stands. */
    sure: z.record(z.string().max(80), yes).default({}),
  })
  .transform(({ commandId, typed, unit, with: read, sure }) => ({
    commandId,
    entries: Object.entries(typed)
      .filter(([, words]) => words !== "")
      .map(([name, words]) => ({
        task: name.replaceAll("_", "."),
        typed: words,
        unit: unit[name] ?? "",
        sure: sure[name] ?? false,
        instrumentId: read[name] || undefined,
      })),
  }));

export const timerSchema = z.object({ commandId, task });
export const timerEndSchema = z.object({ commandId, task, outcome: z.enum(["done", "alarm"]), sure: yes });
export const skipSchema = z.object({
  commandId,
  station: z.string().max(40),
  reason: said(500, 3, "Say why it is skipped: the report shows it."),
});
export const takeUpSchema = z.object({ commandId, station: z.string().max(40) });
export const commandSchema = z.object({ commandId });

export const schoolsSchema = z
  .object({ commandId, ...schoolFields })
  .transform(({ commandId, ...schools }) => ({ commandId, schools: schools as SchoolsOf }));

const correction = {
  supersedes: id.nullish().transform((x) => x ?? null),
  reason: text(300)
    .nullish()
    .transform((x) => x ?? ""),
};

const loop = z.enum(LOOP_IDS, "Load the page again.");

/** What is typed for a reading of a knob. */
const readsOf = (id: LoopId): Reads => moduleOf(atOf(id)!.knob).reads;

const optionalText = text(60).default("");

export const readingSchema = z
  .object({
    commandId,
    loop,
    instrumentId: z.uuid("Choose what you read it with."),
    place: z.enum(PLACES, "Say where the gauge sits.").default("group"),
    unit: z.string().max(20),
    reading: optionalText,
    /** The gauge is a dial without figures: a clock place is typed. */
    clock: yes,
    curve: text(40_000).default(""),
    setPoint: optionalText,
    cutIn: optionalText,
    flow: z.enum(["static", "flowing"]).default("static"),
    bleed: optionalText,
    returned: z.enum(["not-looked", "seen", "none"]).default("not-looked"),
    returnedMl: optionalText,
    /** Where the amount of coffee stands, read as what, and where the grind stands. */
    amount: optionalText,
    amountKind: z.enum(AMOUNT_KINDS).optional(),
    setting: optionalText,
    seconds: optionalText,
    basket: z.enum(["single", "double"]).optional(),
    trimmed: optionalText,
    half: z
      .enum(["1", "2", ""])
      .optional()
      .transform((x) => x || undefined),
    settled: yes,
    sure: yes,
    ...correction,
  })
  .transform((typed, ctx) => {
    const fail = (path: string, message: string) => {
      ctx.addIssue({ code: "custom", path: [path], message });
      return z.NEVER;
    };
    const made = understood(typed, fail);
    if (!made) return z.NEVER;
    const { loop, instrumentId, place, supersedes, reason, commandId } = typed;
    return { commandId, loop, instrumentId, place, supersedes, reason, ...made };
  });

interface TypedReading {
  loop: LoopId;
  unit: string;
  reading: string;
  clock: boolean;
  curve: string;
  setPoint: string;
  cutIn: string;
  flow: "static" | "flowing";
  bleed: string;
  returned: "not-looked" | "seen" | "none";
  returnedMl: string;
  amount: string;
  amountKind?: AmountKind | undefined;
  setting: string;
  seconds: string;
  basket?: "single" | "double" | undefined;
  trimmed: string;
  half?: "1" | "2" | undefined;
  settled: boolean;
  sure: boolean;
}

type Fail = (path: string, message: string) => never;

/** From what was typed to what the instrument showed and what was seen beside it; null once something was refused. */
function understood(typed: TypedReading, fail: Fail) {
  const problems: true[] = [];
  const refuse = (path: string, message: string) => {
    fail(path, message);
    problems.push(true);
  };
  const detail: ReadingDetail = typed.settled ? { settled: true } : {};
  const shown = typed.curve ? fromCurve(typed, detail, refuse) : fromFigure(typed, detail, refuse);
  beside(typed, detail, shown?.indicated, refuse);
  if (problems.length > 0 || !shown) return null;
  return { ...shown, detail };
}

type Refuse = (path: string, message: string) => void;
type Shown = { indicated: number; typed: string; unit: string } | null;

function fromCurve({ curve }: TypedReading, detail: ReadingDetail, refuse: Refuse): Shown {
  const parsed = parseCurve(curve);
  if (!parsed.ok) {
    refuse("curve", parsed.message);
    return null;
  }
  const read = readCurve(parsed.points);
  detail.curve = parsed.points.map((p) => [p.t, p.celsius]);
  detail.by = read.by;
  detail.recovery = read.recovery;
  return { indicated: read.value, typed: `${parsed.points.length} points, ${read.by}`, unit: parsed.unit };
}

function fromFigure(typed: TypedReading, detail: ReadingDetail, refuse: Refuse): Shown {
  const { reading, loop } = typed;
  if (typed.clock) {
    const place = parseClock(reading);
    if (!place.ok) {
      refuse("reading", place.message);
      return null;
    }
    detail.clock = (place.low + place.high) / 2;
    return { indicated: 0, typed: reading, unit: "bar" };
  }
  const { dimension, possible, usual, never } = readsOf(loop);
  const parsed = parseRange(reading, dimension, unitFor(typed.unit, dimension));
  if (!parsed.ok) {
    refuse(
      "reading",
      parsed.problem === "empty"
        ? dimension === "pressure"
          ? "Type what the gauge shows."
          : "Type what it shows."
        : parsed.message,
    );
    return null;
  }
  const { low, high, unit } = parsed;
  const indicated = (low + high) / 2;
  const say = formatQuantity(indicated, dimension === "pressure" && possible[1] < 5 ? 0.01 : 0.1, unit);
  if (low < possible[0])
    refuse(
      "reading",
      dimension === "pressure"
        ? "A gauge can’t show less than nothing here. Type what it shows."
        : `${say} can’t be. Check number and unit.`,
    );
  else if (high > possible[1]) refuse("reading", `${say} can’t be: ${never}. Check number and unit.`);
  else if ((low < usual[0] || high > usual[1]) && !typed.sure)
    refuse("sure", `${say} is unusual. If it really shows that, tick the box and save again.`);
  if (low < high) Object.assign(detail, { low, high });
  return { indicated, typed: reading, unit: unit.id };
}

function unitFor(id: string, dimension: Dimension) {
  return unitsOf(dimension).find((u) => u.id === id) ?? unitsOf(dimension)[0]!;
}

/** What stands beside the figure: set point, cut-in, the bleed, water returned. */
function beside(typed: TypedReading, detail: ReadingDetail, indicated: number | undefined, refuse: Refuse): void {
  const take = (
    name: "setPoint" | "cutIn" | "returnedMl" | "seconds" | "trimmed",
    dimension: Dimension,
    [least, most]: [number, number],
  ) => {
    if (!typed[name]) return;
    const parsed = parseQuantity(typed[name], dimension, unitFor(typed.unit, dimension));
    if (!parsed.ok) refuse(name, parsed.message);
    else if (parsed.value < least || parsed.value > most)
      refuse(name, `${formatQuantity(parsed.value, 0.1, parsed.unit)} can’t be. Check number and unit.`);
    else detail[name] = parsed.value;
  };
  amountOf(typed, detail, refuse);
  take("setPoint", "temperature", [60, 130]);
  take("cutIn", "pressure", [0, 4]);
  take("returnedMl", "volume", [0, 2000]);
  take("seconds", "time", [0.5, 600]);
  take("trimmed", "mass", [0.5, 60]);
  if (typed.basket) detail.basket = typed.basket;
  if (typed.half) detail.half = Number(typed.half) as 1 | 2;
  if (detail.trimmed !== undefined && detail.half === 1)
    refuse("trimmed", "Trimmed is what both halves make: type it with the second.");
  // Of the second half the dose is more than what is weighed now.
  if (
    detail.trimmed !== undefined &&
    detail.half === undefined &&
    indicated !== undefined &&
    detail.trimmed > indicated
  )
    refuse("trimmed", "Trimming takes coffee off: less than the dose weighed.");
  if (detail.cutIn !== undefined && indicated !== undefined) {
    const problem = bandProblem({ cutIn: detail.cutIn, cutOut: indicated });
    if (problem) refuse("cutIn", problem);
  }
  if (typed.returned !== "not-looked") detail.returned = typed.returned;
  if (detail.returnedMl !== undefined && detail.returnedMl > 0) detail.returned = "seen";
  if (typed.flow === "flowing") {
    const rate = Number(typed.bleed.replace(",", ".").replace(/ml\/?s?$/i, ""));
    const problem = Number.isFinite(rate) && typed.bleed ? bleedProblem(rate) : "Type the bleed in ml/s, like 2.";
    if (problem) refuse("bleed", problem);
    else Object.assign(detail, { flowing: true, bleed: rate });
  }
}

/** Where an amount can stand. A clock face has no other places than its own. */
const AMOUNTS = {
  seconds: [0.1, 60],
  clock: [-Infinity, Infinity],
  threads: STOP_THREADS,
  degrees: [-30, 30],
  spring: [1, 12],
  notch: [-100, 100],
  pulses: [1, 20_000],
} as const;

function amountOf({ amount, amountKind, setting }: TypedReading, detail: ReadingDetail, refuse: Refuse): void {
  if (amount && amountKind) {
    const at = parseAmount(amount, amountKind);
    const [least, most] = AMOUNTS[amountKind];
    if (typeof at === "string") refuse("amount", at);
    else if (at < least || at > most) refuse("amount", `From ${least} to ${most}.`);
    else detail.amount = at;
  }
  if (!setting) return;
  const parsed = parseQuantity(setting, "mark", unitById("mark"));
  if (!parsed.ok) refuse("setting", parsed.message);
  else if (Math.abs(parsed.value) > 10_000) refuse("setting", "No grinder’s scale goes that far. Check the number.");
  else detail.setting = parsed.value;
}

export const moveSchema = z
  .object({
    commandId,
    loop,
    amount: quantity("angle", "Type how far."),
    way: z.enum(["plus", "minus"], "Say which way."),
    zero: yes,
    ...correction,
  })
  .transform(({ amount, way, ...rest }, ctx) => {
    const counted = readsOf(rest.loop).moves === "count";
    // "2 notches", "12 pulses", "1 °C": the figure counts, the unit is the knob’s own.
    const parsed = counted
      ? parseQuantity(/^[\d.,½¼¾/ -]*/u.exec(amount.typed)![0], "mass", unitById("g"))
      : amount.parse("turn");
    const fail = (message: string) => {
      ctx.addIssue({ code: "custom", path: ["amount"], message });
      return z.NEVER;
    };
    if (!parsed.ok)
      return fail(parsed.problem === "empty" ? "Type how far." : `“${amount.typed}” is not a number. Type one.`);
    if (parsed.value <= 0) return fail("Type a number above 0, and choose the direction.");
    return { ...rest, typed: `${amount.typed} ${way}`, amount: way === "plus" ? parsed.value : -parsed.value };
  });

export const repairSchema = z.object({
  commandId,
  loop,
  text: said(500, 3, "Say what was renewed or freed: the report shows it."),
  ...correction,
});

export const scopesSchema = z.object({
  commandId,
  scopes: z.array(z.enum(SCOPE_IDS)).default([]),
  reason: text(500).default(""),
});

export const faultSchema = z.object({ commandId, loop, text: text(1000).default("") });

/** Cells of a row come as cell.<column>, what they were read with as with.<column>. */
export const rowSchema = z
  .object({
    commandId,
    task,
    unit: z.string().max(20).default("bar"),
    cell: z.record(z.string().max(40), text(60).default("")).default({}),
    with: z.record(z.string().max(40), z.union([z.uuid(), z.literal("")]).optional()).default({}),
  })
  .transform(({ cell, with: read, ...rest }) => ({
    ...rest,
    cells: cell,
    instruments: Object.fromEntries(Object.entries(read).flatMap(([k, v]) => (v ? [[k, v]] : []))),
  }));

export const workSchema = z.object({
  commandId,
  photos: z.array(z.uuid()).max(40, "Choose fewer photos.").default([]),
  what: text(4000).default(""),
  how: z.string().max(20).default(""),
  reason: text(4000).default(""),
  seen: text(4000).default(""),
  outcome: z.string().max(20).default(""),
  until: text(20).default(""),
  safetyCritical: yes,
  minutes: text(20).default(""),
  price: text(20).default(""),
  licensedName: text(4000).default(""),
  licence: text(4000).default(""),
  exception: text(4000).default(""),
  critical: z.string().max(20).default(""),
  act: z.string().max(20).default(""),
  notCritical: yes,
  partId: z
    .union([z.uuid(), z.literal("")])
    .optional()
    .transform((x) => x || null),
  count: text(20).default(""),
  sure: yes,
  loop: z
    .string()
    .max(40)
    .optional()
    .transform((x) => x || null),
  supersedes: id.nullish().transform((x) => x ?? null),
});

export const faultLeftSchema = z.object({
  commandId,
  what: text(4000).default(""),
  since: text(4000).default(""),
  comesAndGoes: yes,
  decision: z.string().max(20).default(""),
  why: text(4000).default(""),
  reduction: text(4000).default(""),
  mayTry: text(4000).default(""),
  supersedes: id.nullish().transform((x) => x ?? null),
});

export const strikeSchema = z.object({
  commandId,
  entryId: id,
  reason: text(300).default(""),
});
export const evidenceSchema = z.object({
  commandId,
  task,
  check: z.string().max(40),
  outcome: z.string("Choose what it showed.").max(40),
  zero: yes,
});

export const signSchema = z.object({
  commandId,
  name: said(100, 2, "Type your name as it should stand on the report."),
  remark: text(2000).default(""),
  release: z.enum(["", "out-of-use", "exception"]).default(""),
  exception: text(2000).default(""),
});

export const linkSchema = z.object({
  commandId,
  change: z.enum(["new", "revoke"]),
  linkId: id.nullish().transform((x) => x ?? null),
});

export const amendSchema = z.object({
  commandId,
  about: z.enum(ABOUT_IDS, "Choose what it is about."),
  text: said(LONGEST_AMENDMENT, 3, "Type what is to be added."),
});
