import type { Tolerance } from "../metrology";
import type { Action, AdjustEvent, Advice, Belief, Cause, FaultKind, Knob, RecheckReason } from "./types";

/** How figures are worded for the reader: in their units, with the instrument's resolution. */
export interface Wording {
  /** A value of the reading with its unit, "8.3 bar". */
  value(reading: number): string;
  /** A ± of the reading with its unit, "0.2 bar". */
  spread(size: number): string;
  /** A range of readings, "8.6 to 9.2 bar". */
  range(lower: number, upper: number): string;
  /** What the hand does, whole: "Turn OPV ⅜ turn clockwise", "Raise offset by 5 °C, to +5 °C". */
  move(amount: number): string;
  /** What is adjusted, as its sentences begin: "OPV". */
  readonly subject: string;
  /** One step of it: "turn". */
  readonly step: string;
  /** What is done between the adjustment and the next reading: "Restart or wait 5 min, then read again." */
  readonly after: string;
  /** Where the gauge in hand does not show the value that is judged: what to add for what it shows, and which it is. */
  readonly dial?: { readonly add: number; readonly name: string };
  /** A finer instrument that lies in the kit; left out where there is none. */
  readonly finer?: string;
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

/** Under this an advice is a first try, and says so. */
const EVEN = 0.5;

/** The advice as a colleague would say it. Every figure in it comes from the events and the belief. */
export function explain(
  advice: Advice,
  about: { knob: Knob; tolerance: Tolerance; events: readonly AdjustEvent[] },
  words: Wording,
): Explained {
  const { action, belief } = advice;
  if (!belief) return { headline: "Take the first reading.", expect: "No reading yet.", why: [] };
  return {
    headline: headlineOf(action, belief.pInside, words),
    expect: expectOf(action, belief, about, words),
    why: [...whyOf(action, belief, about, words), ...learntOf(action, belief, about, words)],
  };
}

const RECHECKS: Record<RecheckReason, string> = {
  "no-reading": "Take the first reading.",
  "moved-not-read": "Read again: it was adjusted since the last reading.",
  unsettled: "Wait, then read again.",
  "before-fault": "Wait, then read once more.",
  contradiction: "Read once more: this reading does not fit the others.",
  disagree: "Read once more: the readings here do not agree.",
  "not-sure-yet": "Read once more before adjusting.",
  "finer-first": "Read with a finer instrument before anything is opened.",
  "open-tap": "Open the tap, then read at the group.",
  "for-the-record": "Read once more: by itself this does not show it in spec yet.",
};

function headlineOf(action: Action, pInside: number, words: Wording): string {
  if (action.kind === "move") return `${words.move(action.amount)}. ${words.after}`;
  if (action.kind === "accept") return "In spec. Done.";
  // Likely in spec, nothing is said of adjusting yet.
  if (action.kind === "recheck" && action.reason === "not-sure-yet" && pInside > 0.5)
    return "Read once more to be sure.";
  if (action.kind === "recheck") return RECHECKS[action.reason];
  return faultsOf(action).length > 1
    ? `Stop: ${words.subject} does not respond, or the supply gives no more.`
    : faultOf(action.fault, words);
}

/** As likely as this a second cause is said, and looked for, beside the first: nothing is turned to tell them apart. Our choice. */
const ALSO = 0.1;

/**
 * The faults to look for: the one named, and beside it the other of a stuck part and a supply at its limit where they look alike.
 */
export function faultsOf({ fault, causes }: Extract<Action, { kind: "fault" }>): FaultKind[] {
  const alike = (kind: FaultKind) => kind === "stuck" || kind === "ceiling";
  const also = causes.filter((c) => alike(fault) && alike(c.kind) && c.kind !== fault && c.probability >= ALSO);
  return [fault, ...also.map((c) => c.kind)];
}

/**
 * Before it is left with a fault that no turning mended: the way back to where it was found, so that it is right once the part is renewed.
 * Null where it stands there, or where turning was the mistake.
 */
export function backToFound(
  { fault }: Extract<Action, { kind: "fault" }>,
  { knob, events }: Pick<About, "knob" | "events">,
  words: Pick<Wording, "move">,
): string | null {
  if (fault !== "stuck" && fault !== "ceiling") return null;
  const away = events.reduce((sum, e) => sum + (e.kind === "move" ? e.amount : 0), 0);
  return Math.abs(away) < knob.step / 2 ? null : `${words.move(-away)}: it then stands where it was found.`;
}

function faultOf(fault: FaultKind, { subject, step }: Wording): string {
  const said: Record<FaultKind, string> = {
    stuck: `Stop: ${subject} does not respond.`,
    ceiling: `Stop: the supply gives no more.`,
    reversed: `Stop: ${subject} responds the wrong way round.`,
    "step-too-coarse": `Stop: one ${step} is too coarse for this tolerance.`,
    "gauge-too-coarse": "Can’t tell with this instrument, however often it is read.",
    "end-of-travel": `Stop: ${subject} is at the end of its travel.`,
    "look-first": "Look first: no adjustment is likely to bring it in spec.",
  };
  return said[fault];
}

type About = { knob: Knob; tolerance: Tolerance; events: readonly AdjustEvent[] };

function expectOf(action: Action, belief: Belief, { knob, tolerance }: About, words: Wording): string {
  // The same before the turn and after it: nothing was learnt in between.
  if (action.kind === "move" || (action.kind === "recheck" && action.reason === "moved-not-read")) {
    const { value, sd, pInside } = action.expected;
    const { add = 0, name = "" } = words.dial ?? {};
    const target = limits(shifted(tolerance, add), words);
    return `Expect ${words.range(value + add - 2 * sd, value + add + 2 * sd)}${name && ` on ${name}`} (target ${target}). ${chance(pInside)}`;
  }
  const target = `Target ${limits(tolerance, words)}.`;
  if (action.kind === "fault" && action.fault === "look-first") return target;
  if (action.kind === "fault" && action.fault === "gauge-too-coarse")
    return `${target} Leave it as it is, or read with ${words.finer ?? "a finer instrument"}.`;
  if (action.kind === "fault") return causesOf(action.causes, knob, words);
  if (action.kind === "recheck" && action.reason === "unsettled")
    return `${percent(belief.pStale)} likely that it still shows the value from before the adjustment.`;
  if (action.kind === "recheck" && action.reason === "before-fault")
    return "It did not respond as expected. The same reading again rules out an old value.";
  return action.kind === "accept" ? target : `${target} Chance that it is in spec: ${percent(belief.pInside)}.`;
}

const shifted = ({ lower, upper }: Tolerance, by: number): Tolerance => ({
  lower: lower === undefined ? undefined : lower + by,
  upper: upper === undefined ? undefined : upper + by,
});

function limits({ lower, upper }: Tolerance, words: Wording): string {
  if (lower === undefined) return `up to ${words.value(upper!)}`;
  return upper === undefined ? `${words.value(lower)} or more` : words.range(lower, upper);
}

/** The chance of being in spec, in a word and a number; under even it is a first try. */
function chance(p: number): string {
  if (p < EVEN) return `First try, ${percent(p)}: read, and it is adjusted once more from there.`;
  return `${p >= 0.9 ? "Very likely" : p >= 0.7 ? "Likely" : "About even"}, ${percent(p)}.`;
}

function causesOf(causes: readonly Cause[], knob: Knob, { subject, step }: Wording): string {
  const names: Record<FaultKind, string> = {
    stuck: `${subject} stuck or without effect`,
    ceiling: "the supply gives no more",
    reversed: `${knob.name} built or logged the other way round`,
    "step-too-coarse": `${step} too coarse`,
    "gauge-too-coarse": "instrument too coarse",
    "end-of-travel": "end of travel",
    "look-first": "something else",
  };
  return `Likely cause: ${causes.map((c) => `${names[c.kind]}, ${percent(c.probability)}`).join("; ")}.`;
}

/** From here on it may be right already, and what an adjustment is for is said. Our choice: 1 in 20, as everywhere. */
const MAY_BE_RIGHT = 0.05;

function whyOf(action: Action, belief: Belief, { knob, events }: About, words: Wording): string[] {
  if (action.kind === "move" && belief.pInside >= MAY_BE_RIGHT)
    return [`Left as it is, the chance that it is in spec is ${percent(belief.pInside)}.`];
  if (action.kind === "recheck" && action.reason === "unsettled")
    return ["A first reading after a change often equals the one before. Adjusting again on it would be a guess."];
  if (action.kind === "recheck" && action.reason === "finer-first")
    return ["This instrument is coarse for the tolerance, and a finer one is in the kit."];
  if (action.kind === "recheck" && action.reason === "open-tap")
    return ["Against the closed tap only OPV and pump are seen. What the group gets decides."];
  if (action.kind === "recheck" && action.reason === "contradiction")
    return [`The readings before it point to about ${words.value(belief.value)}. One more reading decides.`];
  if (action.kind === "recheck" && action.reason === "for-the-record")
    return ["What is known of such machines makes it likely. What is recorded is what was measured here."];
  if (action.kind === "recheck" && action.reason === "not-sure-yet")
    return ["A reading costs less than an adjustment, and may settle it."];
  const moved = events.filter((e) => e.kind === "move");
  if (action.kind === "fault" && (action.fault === "stuck" || action.fault === "ceiling") && moved.length > 0) {
    const steps = moved.reduce((sum, e) => sum + Math.abs(e.amount), 0);
    const size = Number(steps.toFixed(2));
    return [
      `${size} ${words.step}${size === 1 ? "" : "s"} made in all should have changed the reading by about ${words.spread(knob.response.mean * steps)}; it did not.`,
    ];
  }
  return [];
}

function learntOf(action: Action, belief: Belief, { knob }: Pick<About, "knob">, words: Wording): string[] {
  const { mean, sd, moves } = belief.response;
  const per = `${words.range(mean - 2 * sd, mean + 2 * sd)} per ${knob.unit}`;
  // What it gives after a turn nobody has read is said once, as what to expect; where it stands is the figure over it.
  const unread = action.kind === "recheck" && action.reason === "moved-not-read";
  return [
    moves === 0
      ? `${unread ? "Not read since it was first adjusted" : "Not adjusted on this visit yet"}; ${words.learnt ?? "usual for such a part:"} ${per}.`
      : `On this machine ${per}, from ${moves} ${moves === 1 ? "adjustment" : "adjustments"}.`,
  ];
}

/** A chance in words: 100 % is never claimed, nor 0. @param p 0 to 1 */
export function percent(p: number): string {
  return `${Math.min(99, Math.max(1, Math.round(100 * p)))} %`;
}
