import { randomUUID } from "node:crypto";
import { setImmediate } from "node:timers/promises";
import { dayIn } from "~core/day";
import {
  DAY_ORDER_WORDS,
  type DayOrder,
  REGISTER_FIELDS,
  REGISTER_NEEDS,
  type RegisterField,
  guessRegister,
  plainSerial,
  possibleOrders,
  readDay,
} from "~core/intake";
import { modelsOf } from "~db/queries/register";
import { serialsOf } from "~db/queries/serials";
import type { SignedIn } from "~server/auth";
import type { Posted } from "~server/body";
import { database } from "~server/database";
import { type MachineInput, addMachines } from "~server/machines/register";
import { moment } from "~server/moment";
import { Refused } from "~server/refused";
import { type TextRow, type TextTable, headsOf, tableOfText, textOfFile } from "~server/table-text";
import { answerFor, fieldOf } from "~server/web";
import { NEW_MODEL, machineSchema } from "./machine-schema";
import { type Answers, lookSchema, registerSchema } from "./machines-in-schema";

/** A spreadsheet of machines, row by row, as the form of one machine would take it; nothing is stored before all of it is well. */

/** Rows at once, their heads beside. Our choice: one transaction, and more than a workshop looks after. */
const MOST = 2000;
/** Models that are asked about, and faults that are told, at a time. */
const MOST_ASKED = 40;
const TOLD = 30;
const SHOWN = 5;
const BREATH = 50;

interface Known {
  readonly models: readonly { readonly id: string; readonly maker: string; readonly name: string }[];
  readonly serials: ReadonlyMap<string, unknown>;
  readonly today: string;
}

export interface Fault {
  readonly line: number;
  readonly column: string;
  readonly typed: string;
  readonly reason: string;
}

/** What a table comes to. */
export async function understandMachines({ rows, width }: TextTable, answers: Answers, known: Known) {
  const guess = guessRegister(headsOf(width, rows[0] ?? null));
  const headed = guess.filter(Boolean).length >= 2;
  const heads = headsOf(width, headed ? rows[0]! : null);
  const body = headed ? rows.slice(1) : rows;
  const plan = heads.map((_, i) => (answers.column ? (answers.column[i] ?? null) : headed ? (guess[i] ?? null) : null));
  const at = (field: RegisterField) => plan.indexOf(field);
  const cell = (row: TextRow, field: RegisterField) => (at(field) < 0 ? "" : (row.cells[at(field)] ?? "").trim());
  const orders = possibleOrders(
    body.map((row) => cell(row, "installedOn")),
    known.today,
  );
  const order = answers.dayOrder ?? (orders.length === 1 ? orders[0]! : null);
  const unknown = [...new Set(body.map((row) => modelText(cell(row, "maker"), cell(row, "model"))))].filter(
    (words) => words && !inLibrary(words, known.models),
  );
  const asked = unknown.slice(0, MOST_ASKED).map((words, i) => ({ words, chosen: answers.model?.[i] ?? null }));
  const faults: Fault[] = [];
  const inputs: MachineInput[] = [];
  const lines = new Map<string, number>();
  let here = 0;
  for (const [i, row] of body.entries()) {
    // Others have their turn between rows.
    if (i % BREATH === BREATH - 1) await setImmediate();
    const serial = plainSerial(cell(row, "serial")).toLowerCase();
    if (serial && known.serials.has(serial)) {
      here++;
      continue;
    }
    const fault = (field: RegisterField, reason: string) =>
      faults.push({
        line: row.line,
        column: heads[at(field)] ?? REGISTER_FIELDS[field],
        typed: cell(row, field),
        reason,
      });
    const first = lines.get(serial);
    if (serial && first) fault("serial", `The same serial as in line ${first}. Leave one of them.`);
    lines.set(serial, first ?? row.line);
    const made = machineFrom((field) => cell(row, field), { order, asked, known, fault });
    if (made) inputs.push(made);
  }
  const needs = REGISTER_NEEDS.filter((field) => at(field) < 0).map((field) => REGISTER_FIELDS[field]);
  const twice = plan.find((field, i) => field && plan.indexOf(field) !== i);
  return {
    ...{ heads, plan, asked, inputs, faults, here, needs, twice: twice ? REGISTER_FIELDS[twice] : null },
    lines: body.slice(0, SHOWN),
    rows: body.length,
    orders: orders.length > 1 ? orders : [],
    order,
    more: unknown.length - asked.length,
  };
}

type Library = Known["models"];
const modelText = (maker: string, model: string) => [maker, model].filter(Boolean).join(" ");

/** By maker and name, or by a name that only one has. */
function inLibrary(words: string, models: Library): string | null {
  const text = words.toLowerCase();
  const whole = models.find((m) => `${m.maker} ${m.name}`.toLowerCase() === text);
  const named = models.filter((m) => m.name.toLowerCase() === text);
  return whole?.id ?? (named.length === 1 ? named[0]!.id : null);
}

interface Reading {
  readonly order: DayOrder | null;
  readonly asked: readonly { readonly words: string; readonly chosen: string | null }[];
  readonly known: Known;
  readonly fault: (field: RegisterField, reason: string) => void;
}

/** One row as the form of one machine takes it; null where something is wrong with it, or has to be said yet. */
function machineFrom(
  cell: (field: RegisterField) => string,
  { order, asked, known, fault }: Reading,
): MachineInput | null {
  const words = modelText(cell("maker"), cell("model"));
  const chosen = inLibrary(words, known.models) ?? asked.find((a) => a.words === words)?.chosen ?? null;
  if (!words) fault("model", "Which model is it?");
  const fresh = chosen !== null && /^K\d+$/.test(chosen);
  const day = cell("installedOn");
  const read = day && order ? readDay(day, order, known.today) : null;
  if (read && !read.ok) fault("installedOn", `No day of the calendar, read as ${DAY_ORDER_WORDS[order!]}.`);
  const understood = machineSchema.safeParse({
    commandId: randomUUID(),
    modelId: fresh ? NEW_MODEL : (chosen ?? randomUUID()),
    ...(fresh ? { newMaker: cell("maker"), newName: cell("model"), newKind: chosen } : {}),
    gaugePlace: "none",
    ...Object.fromEntries(PLAIN.map((field) => [field, cell(field)])),
    installedOn: read?.ok ? read.iso : "",
  });
  if (!understood.success) {
    for (const { path, message } of understood.error.issues) fault(fieldOfIssue(String(path[0])), message);
    return null;
  }
  // A model or an order of days that nobody has spoken for yet: not wrong, and not to be stored either.
  if (!chosen || (day && !read?.ok)) return null;
  const input: MachineInput & { commandId?: string } = { ...understood.data };
  delete input.commandId;
  return input;
}

const PLAIN = [
  ...["serial", "owner", "site", "town", "contact", "phone", "email", "water"],
  ...["coffee", "grinder", "shotsPerDay", "modifications"],
] as RegisterField[];

const fieldOfIssue = (name: string): RegisterField =>
  name === "newMaker"
    ? "maker"
    : name === "newName"
      ? "model"
      : name in REGISTER_FIELDS
        ? (name as RegisterField)
        : "model";

async function knownTo({ workshop }: SignedIn): Promise<Known> {
  const db = database();
  const [models, serials] = await Promise.all([modelsOf(db, workshop.id), serialsOf(db, workshop.id)]);
  return { models, serials, today: dayIn(workshop.timeZone, moment().getTime()) };
}

async function looked(by: SignedIn, given: Answers & { file?: File | undefined; text?: string | undefined }) {
  const { file } = given;
  const text = file ? await textOfFile(file) : given.text;
  if (!text?.trim()) throw new Refused("Choose the spreadsheet, saved as CSV.", "file");
  const answers = file ? { column: null, model: null, dayOrder: null } : given;
  const { inputs, faults, ...found } = await understandMachines(
    await tableOfText(text, MOST + 1, "file"),
    answers,
    await knownTo(by),
  );
  if (found.heads.length < 2)
    throw new Refused("There are no columns in this file. Save it as CSV: with commas, semicolons or tabs.", "file");
  return { found: { ...found, text, good: inputs.length, faults: faults.slice(0, TOLD), wrong: faults.length } };
}

export type Found = Awaited<ReturnType<typeof looked>>["found"];

export function writeMachines(person: () => SignedIn, form: Posted) {
  const mine = { person, right: "work" } as const;
  if (fieldOf(form, "intent") === "look")
    return answerFor(mine, form, lookSchema, async (given, by) => ({ more: await looked(by, given) }));
  return answerFor(mine, form, registerSchema, async ({ commandId, text, ...answers }, by) => {
    const { inputs, faults, needs, twice, asked, more, orders, order } = await understandMachines(
      await tableOfText(text, MOST + 1, ""),
      answers,
      await knownTo(by),
    );
    if (needs.length > 0) throw new Refused(`Say which column is: ${needs.join(", ").toLowerCase()}.`, "column");
    if (twice) throw new Refused(`Two columns are “${twice}”. Choose one.`, "column");
    if (orders.length > 1 && !order) throw new Refused("Say in which order its days are written.", "dayOrder");
    if (faults.length > 0) throw new Refused("Rows are wrong still. Nothing was stored.");
    if (more > 0 || asked.some((a) => !a.chosen)) throw new Refused("Say of each model what it is.", "model");
    if (inputs.length === 0) throw new Refused("There is no machine in it that is not here already.");
    return addMachines(by, commandId, inputs);
  });
}
