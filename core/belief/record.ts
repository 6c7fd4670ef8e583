import type { Action, Advice } from "../adjust/types";
import type { Verdict } from "../metrology";
import { MOST_HERE } from "./next";

/** As sure as this, what the record shows by itself at 95 % is not read again. Our choice: a tenth left for all that was read before. */
const NEARLY_SURE = 0.9;

/** What was read since the last change says by itself, without anything that was learnt elsewhere. */
export interface Recorded {
  readonly verdict: Verdict;
  readonly readings: number;
  /** As many readings again, if they scatter like these, would show it inside. */
  readonly wouldShow: boolean;
  /** What was read was put right by hand: whatever the setting gives, this is what is used. */
  readonly byHand?: boolean;
}

/** Against a closed tap nothing is accepted and no reading more tells: what ends there goes on with the tap open. */
const SETTLES: ReadonlySet<string> = new Set(["accept", "gauge-too-coarse", "not-sure-yet", "for-the-record"]);

const endOf = (action: Action): string =>
  action.kind === "recheck" ? action.reason : action.kind === "fault" ? action.fault : action.kind;

/**
 * The advice, held against the record: nothing is accepted that the record does not show, and nothing is moved that it shows in spec. What
 * was learnt of a machine helps to land; that it landed has to be measured.
 *
 * @param record null where nothing was read since the last change
 * @param behindTap what was read last was read against a closed tap
 */
export function heldToRecord(advice: Advice, record: Recorded | null, behindTap = false): Advice {
  const { action } = advice;
  if (behindTap && SETTLES.has(endOf(action))) return { ...advice, action: { kind: "recheck", reason: "open-tap" } };
  if (!record) return advice;
  const inside = record.verdict === "holds" || record.verdict === "just holds";
  const more = record.readings < MOST_HERE;
  if (action.kind === "accept" && !inside) {
    if (more && record.wouldShow) return { ...advice, action: { kind: "recheck", reason: "for-the-record" } };
    const undecided: Action = {
      kind: "fault",
      fault: "gauge-too-coarse",
      causes: [{ kind: "gauge-too-coarse", probability: 1 }],
    };
    return { ...advice, action: undecided };
  }
  const shown = action.kind === "recheck" && action.reason === "not-sure-yet" && record.verdict === "holds";
  if (shown && advice.belief && advice.belief.pInside >= NEARLY_SURE) return { ...advice, action: { kind: "accept" } };
  if (inside && record.byHand) return { ...advice, action: { kind: "accept" } };
  if (action.kind === "move" && record.verdict === "holds")
    return { ...advice, action: more ? { kind: "recheck", reason: "not-sure-yet" } : { kind: "accept" } };
  return advice;
}
