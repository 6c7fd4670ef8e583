import type { LoopId } from "../knobs";
import { noonOf } from "../day";
import type { MachineKind, ModelCard } from "../kind";
import {
  DECISIONS,
  type Decision,
  type FaultLeft,
  HOWS,
  type How,
  LONGEST,
  OUTCOMES,
  type Outcome,
  type WorkLine,
} from "./line";
import { Unfit } from "../unfit";
import { CRITICAL_ACTS, CRITICAL_PARTS, type CriticalAct, criticalPartsOf, namedIn, namedWords } from "./critical";
import { rulingOn } from "./rules";

/** From what was typed of a line of work to the line. */

export interface TypedWork {
  readonly what: string;
  readonly how: string;
  readonly reason: string;
  readonly seen: string;
  readonly outcome: string;
  readonly until: string;
  readonly safetyCritical: boolean;
  readonly minutes: string;
  readonly price: string;
  readonly licensedName: string;
  readonly licence: string;
  readonly exception: string;
  /** A safety-critical part of the kind’s list, and what was done to it; "" where it is none of them. */
  readonly critical: string;
  readonly act: string;
  /** Answered: what its words name is not what it is about. */
  readonly notCritical: boolean;
  readonly loop: LoopId | null;
  /** Ids of photos of the job. */
  readonly photos?: readonly string[];
  readonly part: WorkLine["part"];
}

export interface Around {
  readonly kind: MachineKind;
  readonly card: Pick<ModelCard, "descaling">;
  /** A lead types it. */
  readonly lead: boolean;
  /** ISO day of the workshop. */
  readonly today: string;
}

const MOST_MINUTES = 6000;
const MOST_PRICE = 1_000_000;

/**
 * A line of work as it was typed, under the rules of the trade.
 *
 * @throws Unfit beside the field it concerns
 */
export function workFrom(typed: TypedWork, around: Around): WorkLine {
  return typed.critical ? criticalFrom(typed, around) : plainFrom(typed, around);
}

/** What comes of what was done to a safety-critical part. */
const OUTCOME_OF: Readonly<Record<CriticalAct, Outcome>> = {
  replaced: "done",
  "replaced-tested": "done",
  "put-off": "postponed",
  "out-of-use": "postponed",
};

/**
 * A line about a safety-critical part: nothing of what was done to it is typed.
 *
 * @throws Unfit beside the field it concerns
 */
function criticalFrom(typed: TypedWork, { kind, today }: Around): WorkLine {
  const part = criticalPartsOf(kind).find((id) => id === typed.critical);
  if (!part) throw new Unfit("This machine has no such part. Choose it from the list.", "critical");
  const act = oneOf<CriticalAct>(CRITICAL_ACTS, typed.act, "act", "Choose what was done to it.");
  const { label, licensed: asks } = CRITICAL_PARTS[part];
  const licensed = licenceFrom(typed);
  const done = OUTCOME_OF[act] === "done";
  if (done && (asks || act === "replaced-tested") && !licensed)
    throw new Unfit(
      "Gas, boilers under pressure and safety valves are licensed work where local rules say so. Record who did it, and the licence.",
      "licence",
    );
  return {
    ...common(typed, today, OUTCOME_OF[act]),
    what: label,
    how: "renewed",
    safetyCritical: true,
    licensed,
    critical: { part, act },
  };
}

function plainFrom(typed: TypedWork, { kind, card, lead, today }: Around): WorkLine {
  const what = said(typed.what, "what", "Part or task");
  if (what.length < 2) throw new Unfit("Type the part or the task.", "what");
  const how = oneOf<How>(HOWS, typed.how, "how", "Choose what was done.");
  const outcome = oneOf<Outcome>(OUTCOMES, typed.outcome, "outcome", "Choose what came of it.");
  const known = common(typed, today, outcome);
  const named = namedIn(`${what} ${known.reason} ${known.seen}`, kind, card);
  // Acid that is chosen is ruled on below; only acid in words is asked about.
  const asked = named.filter((one) => one !== "acid" || (how !== "descaled" && how !== "descaled-apart"));
  if (asked.length > 0 && !typed.notCritical)
    throw new Unfit(
      `Is this about the ${asked.map(namedWords).join(" or the ")}? Then choose it above, under safety-critical parts${asked.includes("acid") ? ", or how it was descaled" : ""}. If it is something else, tick that it is.`,
      "notCritical",
    );
  const line: WorkLine = {
    ...known,
    what,
    how,
    safetyCritical: typed.safetyCritical,
    licensed: licenceFrom(typed),
    ...(asked.length > 0 ? { notAbout: asked } : {}),
  };
  const ruling = rulingOn(line, card);
  if (!ruling) return line;
  if (!lead) throw new Unfit(`${ruling.message} Only a lead can record an exception.`, ruling.field);
  const why = said(typed.exception, "exception", "Reason for the exception");
  if (why.length < 10)
    throw new Unfit(`${ruling.message} As a lead, give the reason for an exception here.`, "exception");
  return { ...line, exception: why };
}

/**
 * What every line has, whatever it is about.
 *
 * @throws Unfit beside the field it concerns
 */
function common(typed: TypedWork, today: string, outcome: Outcome) {
  const reason = said(typed.reason, "reason", "Reason");
  if (reason.length < 3) throw new Unfit("Say why: the report shows it.", "reason");
  return {
    reason,
    seen: said(typed.seen, "seen", "What was seen"),
    ...(typed.photos && typed.photos.length > 0 ? { photos: photosFrom(typed.photos) } : {}),
    outcome,
    until: outcome === "postponed" ? dayFrom(typed.until, today) : null,
    minutes: figure(typed.minutes, { field: "minutes", name: "Minutes", most: MOST_MINUTES, whole: true }),
    price: figure(typed.price, { field: "price", name: "Price", most: MOST_PRICE, whole: false }),
    part: typed.part,
    loop: outcome === "done" ? typed.loop : null,
    exception: "",
  };
}

function licenceFrom(typed: TypedWork): WorkLine["licensed"] {
  const name = said(typed.licensedName, "licensedName", "Name");
  const licence = said(typed.licence, "licence", "Licence");
  if (licence && !name) throw new Unfit("Type who holds that licence.", "licensedName");
  return name && licence ? { name, licence } : null;
}

/** More than show one part. */
const MOST_PHOTOS = 12;

function photosFrom(ids: readonly string[]): string[] {
  const each = [...new Set(ids)];
  if (each.length > MOST_PHOTOS) throw new Unfit(`Choose ${MOST_PHOTOS} photos at most for one line.`, "photos");
  return each;
}

export interface TypedFault {
  readonly what: string;
  readonly since: string;
  readonly comesAndGoes: boolean;
  readonly decision: string;
  readonly why: string;
  readonly reduction: string;
  readonly mayTry: string;
}

/**
 * A fault left in as it was typed.
 *
 * @param currency of the workshop, before a sum that was typed bare; "" where it has none
 * @throws Unfit beside the field it concerns
 */
export function faultFrom(typed: TypedFault, currency = ""): FaultLeft {
  const what = said(typed.what, "what", "The fault");
  if (what.length < 3) throw new Unfit("Say what it does, or what is broken.", "what");
  return {
    what,
    since: said(typed.since, "since", "Since when"),
    comesAndGoes: typed.comesAndGoes,
    decision: oneOf<Decision>(DECISIONS, typed.decision, "decision", "Choose why it stays in."),
    why: said(typed.why, "why", "Why"),
    reduction: reductionFrom(typed.reduction, currency),
    mayTry: said(typed.mayTry, "mayTry", "What the owner may try"),
  };
}

/**
 * A sum without its currency is no price.
 *
 * @throws Unfit where it is bare and the workshop has no currency
 */
function reductionFrom(typed: string, currency: string): string {
  const words = said(typed, "reduction", "Price reduction");
  if (!/^\d+([.,]\d{1,2})?$/.test(words)) return words;
  if (!currency) throw new Unfit("Type the currency with it, like EUR 40.", "reduction");
  return `${currency} ${words}`;
}

function said(typed: string, field: string, name: string): string {
  const words = typed.trim();
  if (words.length > LONGEST) throw new Unfit(`${name}: ${words.length} characters. Keep it under ${LONGEST}.`, field);
  return words;
}

function oneOf<T extends string>(of: Readonly<Record<T, string>>, typed: string, field: string, message: string): T {
  if (!Object.hasOwn(of, typed)) throw new Unfit(message, field);
  return typed as T;
}

function dayFrom(typed: string, today: string): string | null {
  if (!typed.trim()) return null;
  if (!noonOf(typed.trim())) throw new Unfit(`There is no day ${typed}.`, "until");
  if (typed.trim() < today) throw new Unfit("That day has passed. Type one from today on.", "until");
  if (typed.trim() > "2199-12-31") throw new Unfit("That is too far off.", "until");
  return typed.trim();
}

function figure(
  typed: string,
  { field, name, most, whole }: { field: string; name: string; most: number; whole: boolean },
): number | null {
  const words = typed.trim().replace(",", ".");
  if (!words) return null;
  const value = Number(words);
  if (!/^-?(?:\d+(?:\.\d+)?|\.\d+)$/.test(words) || !Number.isFinite(value))
    throw new Unfit(`${name}: “${typed.trim().slice(0, 20)}” is not a number.`, field);
  if (value < 0 || value > most) throw new Unfit(`${name}: from 0 to ${most}.`, field);
  return whole ? Math.round(value) : Math.round(100 * value) / 100;
}
