import type { Tolerance } from "../metrology";
import type { Action, AdjustEvent, Advice, Belief, Cause, FaultKind, Knob, RecheckReason } from "./types";

/** How figures are worded for the reader: in their units, with the instrument's resolution. */
export interface Wording {
  /** A value of the reading with its unit, "8.3 bar". */
  value(reading: number): string;
  /** A ± of the reading with its unit, "0.2 bar". */
  spread(size: number): string;
  /** A signed amount with its direction, "⅜ turn clockwise". */
  amount(amount: number): string;
  /** The verb for this knob: "Turn the screw". */
  readonly act: string;
  /** Whose response is taken to begin with: "11 machines of this model give". */
  readonly learnt?: string;
}

export interface Explained {
  /** What to do, one short sentence. */
  headline: string;
  /** What to expect of it, or what is known now. */
  expect: string;
  /** Why, sentence by sentence, each from the figures of this machine. */
  why: string[];
}

/** The advice as a colleague would say it. Every figure in it comes from the events and the belief. */
export function explain(
  advice: Advice,
  about: { knob: Knob; tolerance: Tolerance; events: readonly AdjustEvent[] },
  words: Wording,
): Explained {
  const { action, belief } = advice;
  if (!belief) return { headline: "Take the first reading.", expect: "Nothing is known of this machine yet.", why: [] };
  return {
    headline: headlineOf(action, words),
    expect: expectOf(action, belief, about.knob, words),
    why: [...whyOf(action, belief, about.knob, words), ...learntOf(belief, about, words)],
  };
}

const RECHECKS: Record<RecheckReason, string> = {
  "no-reading": "Take the first reading.",
  "moved-not-read": "Read again: the knob has moved since the last reading.",
  unsettled: "Wait, then read again.",
  contradiction: "Read once more: this reading does not fit.",
  "not-sure-yet": "Read once more before touching anything.",
};

const FAULTS: Record<FaultKind, string> = {
  stuck: "Stop turning. The knob does nothing.",
  ceiling: "Stop turning. The supply gives no more.",
  reversed: "Stop. It answers the wrong way round.",
  "step-too-coarse": "Stop. One step jumps over the tolerance.",
  "gauge-too-coarse": "Stop. This gauge is too coarse to decide.",
  "end-of-travel": "Stop. The knob has no way left.",
};

function headlineOf(action: Action, words: Wording): string {
  if (action.kind === "move") return `${words.act} ${words.amount(action.amount)}.`;
  if (action.kind === "accept") return "Leave it there.";
  return action.kind === "recheck" ? RECHECKS[action.reason] : FAULTS[action.fault];
}

function expectOf(action: Action, belief: Belief, knob: Knob, words: Wording): string {
  if (action.kind === "move" && action.purpose === "separate-faults")
    return `A sound one falls to about ${words.value(action.expected.value)}. If nothing moves, it is stuck.`;
  if (action.kind === "move") {
    const { value, sd, pInside } = action.expected;
    return `Expect ${words.value(value)} ± ${words.spread(2 * sd)}. ${percent(pInside)} it holds.`;
  }
  if (action.kind === "fault") return causesOf(action.causes, knob);
  if (action.kind === "recheck" && action.reason === "unsettled")
    return `${percent(belief.pStale)} likely that it still shows the value from before.`;
  return `Now at ${words.value(belief.value)} ± ${words.spread(2 * belief.sd)}. ${percent(belief.pInside)} it holds.`;
}

function causesOf(causes: readonly Cause[], knob: Knob): string {
  const names: Record<FaultKind, string> = {
    stuck: `${knob.name} stuck or without effect`,
    ceiling: "the supply gives no more",
    reversed: "turned or built the other way",
    "step-too-coarse": "step too coarse",
    "gauge-too-coarse": "gauge too coarse",
    "end-of-travel": "end of travel",
  };
  return `${causes.map((c) => `${names[c.kind]} ${percent(c.probability)}`).join(", ")}.`.replace(/^./, (c) =>
    c.toUpperCase(),
  );
}

function whyOf(action: Action, belief: Belief, knob: Knob, words: Wording): string[] {
  if (action.kind === "move" && action.purpose === "separate-faults")
    return ["Raising it changed nothing. Lowering it tells a stuck knob from a supply at its limit."];
  if (action.kind === "recheck" && action.reason === "unsettled")
    return ["A first reading after a change often equals the last one. A move on top of it would be a guess."];
  if (action.kind === "recheck" && action.reason === "contradiction")
    return [
      `All that was seen before points to about ${words.value(belief.value)}. One more reading says which is right.`,
    ];
  if (action.kind === "recheck" && action.reason === "not-sure-yet")
    return ["A reading costs less than a move, and may settle it."];
  if (action.kind === "fault" && (action.fault === "stuck" || action.fault === "ceiling"))
    return [
      `The moves so far should have changed the reading by ${words.spread(knob.response.mean * knob.step)} or more per step; they did not.`,
    ];
  return [];
}

function learntOf(
  belief: Belief,
  { knob, events }: { knob: Knob; events: readonly AdjustEvent[] },
  words: Wording,
): string[] {
  const readings = events.filter((e) => e.kind === "reading").length;
  const { mean, sd, moves } = belief.response;
  const per = `${words.value(mean)} ± ${words.spread(2 * sd)} per ${knob.unit}`;
  return [
    `From ${readings} ${readings === 1 ? "reading" : "readings"}: ${words.value(belief.value)} ± ${words.spread(2 * belief.sd)} at present.`,
    moves === 0
      ? `This machine has not shown its response in this job yet; ${words.learnt ?? "knobs like it give"} ${per}.`
      : `This machine has shown ${per} in ${moves} ${moves === 1 ? "move" : "moves"}.`,
  ];
}

function percent(p: number): string {
  // 100 % is never claimed, nor 0.
  return `${Math.min(99, Math.max(1, Math.round(100 * p)))} %`;
}
