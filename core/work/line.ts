import type { LoopId } from "../knobs";
import { CRITICAL_ACTS, type CriticalAct, type CriticalPartId, type Named, namedWords } from "./critical";

/** A line of work: what was done to which part and why, or what was advised and not done. */

export const HOWS = {
  renewed: "renewed",
  fitted: "fitted",
  cleaned: "cleaned",
  descaled: "descaled",
  "descaled-apart": "taken apart and descaled",
  adjusted: "adjusted",
  freed: "freed or repaired",
  tested: "tested",
  other: "worked on",
} as const;
export type How = keyof typeof HOWS;
export const HOW_IDS = Object.keys(HOWS) as [How, ...How[]];

export const OUTCOMES = {
  done: "Done",
  declined: "Declined by the owner",
  refused: "Refused: the model’s rules forbid it",
  postponed: "Postponed",
  open: "To be decided",
} as const;
export type Outcome = keyof typeof OUTCOMES;
export const OUTCOME_IDS = Object.keys(OUTCOMES) as [Outcome, ...Outcome[]];

export interface WorkLine {
  /** Part or task. */
  readonly what: string;
  readonly how: How;
  readonly reason: string;
  /** What was seen: a reading, a photo’s place, the cause that was found. */
  readonly seen: string;
  /** Photos of this job that show it, by id; not in lines of earlier versions. */
  readonly photos?: readonly string[];
  readonly outcome: Outcome;
  /** ISO day; of what was postponed. */
  readonly until: string | null;
  readonly safetyCritical: boolean;
  /** min, 0 to 6000; null where nobody counted */
  readonly minutes: number | null;
  /** In the workshop’s currency, 0 to 1,000,000; null where none was named */
  readonly price: number | null;
  /** Of the workshop’s own list: how many were used, and how many of them the shelf had. */
  readonly part: {
    readonly id: string;
    readonly name: string;
    readonly number: string;
    readonly count: number;
    readonly taken: number;
  } | null;
  /** Who did work that a licence is asked for. */
  readonly licensed: { readonly name: string; readonly licence: string } | null;
  /** The knob that hangs on it: to the engine the machine is a new one from there on. */
  readonly loop: LoopId | null;
  /** Why a lead set a rule aside; "" where none was. */
  readonly exception: string;
  /** The safety-critical part it is about, and what was done to it: chosen, never typed. */
  readonly critical?: { readonly part: CriticalPartId; readonly act: CriticalAct };
  /** What its words may name and it is not about, as somebody answered. */
  readonly notAbout?: readonly Named[];
}

/** Longest text of one field. Our choice: a page of a report. */
export const LONGEST = 2000;

/** A fault that stays in the machine, on purpose or for the time being. */
export interface FaultLeft {
  readonly what: string;
  /** In the owner’s or the technician’s words; "" where nobody knows. */
  readonly since: string;
  readonly comesAndGoes: boolean;
  readonly decision: Decision;
  /** Why, beside the decision. */
  readonly why: string;
  /** Taken off the price, in words; "" where nothing was. */
  readonly reduction: string;
  /** What the owner may try; "" for nothing. */
  readonly mayTry: string;
}

export const DECISIONS = {
  wish: "the owner wishes it so",
  "not-worth": "mending it is not worth it",
  "on-order": "the part is on order",
  watch: "to be watched",
} as const;
export type Decision = keyof typeof DECISIONS;
export const DECISION_IDS = Object.keys(DECISIONS) as [Decision, ...Decision[]];

/**
 * A line in words, as report, sheet and card say it.
 *
 * @param money how a price is written; left out where prices are not shown
 */
export function sayWork(line: WorkLine, money?: (price: number) => string): string {
  const shown = line.photos?.length ?? 0;
  const photos = shown === 0 ? "" : shown === 1 ? "1 photo" : `${shown} photos`;
  const { what, how, part, reason, seen, outcome, until, minutes, price, safetyCritical, licensed, exception } = line;
  const { critical, notAbout = [] } = line;
  const of = part
    ? ` (${[part.count > 1 ? `${part.count} ×` : "", part.name, part.number].filter(Boolean).join(" ")})`
    : "";
  // Of what was not done it is said what was advised.
  const head = critical
    ? `${what}${of}: ${CRITICAL_ACTS[critical.act]}`
    : outcome === "done"
      ? `${what}${of}: ${HOWS[how]}`
      : `${what}${of}: to be ${HOWS[how]}`;
  const tail = [
    critical?.act === "out-of-use"
      ? ""
      : outcome === "postponed" && until
        ? `${OUTCOMES.postponed} until ${until}`
        : OUTCOMES[outcome],
    minutes === null ? "" : `${minutes} min`,
    price === null || !money ? "" : money(price),
    safetyCritical ? "safety-critical" : "",
  ];
  return [
    `${head}${reason ? `, ${reason}` : ""}.`,
    seen || photos ? `Seen: ${[seen, photos].filter(Boolean).join(", ")}.` : "",
    sentence(tail.filter(Boolean).join(", ")),
    licensed ? `By ${licensed.name}, licence ${licensed.licence}.` : "",
    exception ? `(Exception by a lead: ${exception})` : "",
    notAbout.length > 0 ? `(Said not to be about: ${notAbout.map(namedWords).join(", ")}.)` : "",
  ]
    .filter(Boolean)
    .map((part) => part.replace(/\.\.$/, "."))
    .join(" ");
}

const sentence = (words: string) => (words ? `${words.charAt(0).toUpperCase()}${words.slice(1)}.` : "");

/** A fault left in, in words. */
export function sayFault({ what, since, comesAndGoes, decision, why, reduction, mayTry }: FaultLeft): string {
  return [
    `${what}${since ? `, since ${since}` : ""}${comesAndGoes ? ", comes and goes" : ""}.`,
    `Left in: ${DECISIONS[decision]}${why ? `. ${why}` : ""}.`,
    reduction ? `Price reduced: ${reduction}.` : "",
    mayTry ? `You may try: ${mayTry}.` : "",
  ]
    .filter(Boolean)
    .map((part) => part.replace(/\.\.$/, "."))
    .join(" ");
}
