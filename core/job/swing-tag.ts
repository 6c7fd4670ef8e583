import { datesOf } from "../day/said";
import { VERDICT_WORDS } from "../metrology";
import type { SignedDocument } from "./document";
import { printedOf } from "./printed";

/** What hangs on a machine that was worked on: tested, as left, by whom, when, and when next. */

export interface SwingTag {
  readonly machine: string;
  readonly serial: string;
  /** "Tested 12 May 2026" */
  readonly tested: string;
  /** As left, a line each, the first ones of the report. */
  readonly left: readonly string[];
  readonly by: string;
  /** "" where no service is due. */
  readonly next: string;
  /** "" where the machine may be used. */
  readonly outOfUse: string;
}

/** A tag has room for so many readings. */
const LINES = 4;

/**
 * The tag of a signed visit.
 *
 * @param timeZone for documents that do not say in which their days are told
 */
export function swingTagOf(doc: SignedDocument, timeZone: string): SwingTag {
  const { day } = datesOf(doc.timeZone || timeZone);
  const { machine, results, outOfUse } = printedOf(doc, timeZone);
  return {
    machine: machine.name,
    serial: machine.serial,
    tested: `Tested ${day(doc.signedAt)}`,
    left: results
      .slice(0, LINES)
      .map(({ title, left, verdict }) => `${title}: as left ${left}, ${VERDICT_WORDS[verdict]}`),
    outOfUse,
    by: `${doc.technician}, ${doc.workshop}`,
    next: doc.nextService ? `Next service by ${day(doc.nextService.on)}` : "",
  };
}
