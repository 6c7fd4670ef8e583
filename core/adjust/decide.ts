import { aim } from "../metrology";
import { believe } from "./hypotheses";
import { type State, beliefOf, bestMove, chanceByReading, clampToTravel, expectedAfter, inside } from "./outlook";
import type { Action, AdjustQuestion, Advice, Belief, Cause, FaultKind, ReadingEvent } from "./types";

/**
 * Probability at which a run is accepted and at which a fault is named, and what a reading costs in moves. Our choice: 1 wrong in 20 is
 * what U at 95 % already means to whoever reads the record; a reading takes about a third of the time of a turn behind a cover.
 */
const DEFAULTS = { accept: 0.95, fault: 0.95, readingCost: 0.3 };
/**
 * Above this probability a reading counts as unsettled, or as contradicting all that is known. Our choice: a repeat costs less than a
 * move made in vain.
 */
const UNSETTLED = 0.15;
const CONTRADICTS = 0.5;
/** A move less likely than this to end in acceptance is not made for that hope. Our choice: far under what any usual move promises. */
const HOPELESS = 0.01;
/** Goes taken at lowering before a fault is called with both causes still open. Our choice: a third one taught nothing that the first two had not. */
const MOST_LOWERINGS = 3;
/** Stays at one place, each read, before going back to it is no advice any more. Our choice, for the same reason. */
const MOST_STAYS = 2;
/** With less than this inside, more readings of a knob that does not answer are not worth their time. Our choice: 1 in 20, as everywhere. */
const WORTH_READING = 0.05;

/**
 * The next action for one knob: move, read again, accept, or stop and look for a fault.
 *
 * Bayesian, pure and deterministic: the same events give the same advice. A move is a whole number of steps, inside the
 * knob's travel; no move is proposed on a reading that may still show the old value, or that contradicts what is known.
 *
 * @throws RangeError when the step, the response or an uncertainty is not a positive number
 */
export function nextAction(question: AdjustQuestion): Advice {
  const { knob, tolerance, events } = question;
  check(question);
  const options = { ...DEFAULTS, ...question.options };
  const hypotheses = believe(knob, tolerance, events);
  const readings = events.filter((e): e is ReadingEvent => e.kind === "reading");
  const last = readings.at(-1);
  if (!last || hypotheses.length === 0) return { action: { kind: "recheck", reason: "no-reading" }, belief: null };

  const state: State = { knob, tolerance, events, hypotheses, last, options, uCommon: commonOf(readings) };
  const belief = beliefOf(state);
  return { action: decide(state, belief), belief };
}

function decide(state: State, belief: Belief): Action {
  const { events, options } = state;
  if (events.at(-1)!.kind === "move") return { kind: "recheck", reason: "moved-not-read" };
  if (belief.pSlip > CONTRADICTS) return { kind: "recheck", reason: "contradiction" };
  if (belief.pStale > UNSETTLED) return { kind: "recheck", reason: "unsettled" };
  if (belief.pInside >= options.accept) return { kind: "accept" };
  const fault = knownFault(state, belief);
  if (fault) return fault;
  if (gaugeTooCoarse(state)) return faultOf("gauge-too-coarse", belief);
  return moveOrRead(state, belief);
}

/** Stuck, ceiling or reversed, once sure enough that it is one of them and that no more readings can still say "inside". */
function knownFault(state: State, belief: Belief): Action | null {
  const { options } = state;
  const dead = unanswering(state, belief);
  const sum = dead.stuck + dead.ceiling;
  if (sum + belief.pReversed < options.fault) return null;
  if (belief.pReversed >= sum) return faultOf("reversed", belief);
  if (belief.pInside > WORTH_READING && chanceByReading(state) > 0.02)
    return { kind: "recheck", reason: "not-sure-yet" };
  const back = separatingMove(state, dead);
  if (back !== null)
    return { kind: "move", amount: back, expected: expectedAfter(state, back), purpose: "separate-faults" };
  return faultOf(dead.stuck >= dead.ceiling ? "stuck" : "ceiling", belief, dead);
}

interface Unanswering {
  stuck: number;
  ceiling: number;
}

/**
 * How likely it is that turning on in the direction that is needed does nothing. Below the aim that is a stuck valve or a pump
 * that gives no more, wherever its ceiling lies; above it, a valve set over the ceiling still answers once it is low enough.
 */
function unanswering({ hypotheses, tolerance }: State, belief: Belief): Unanswering {
  if (belief.value >= aim(tolerance)) return { stuck: belief.pStuck, ceiling: belief.pCeilingBelow };
  const ceiling = hypotheses.reduce((sum, h) => sum + (h.mode === "ceiling" && h.m > h.ceiling ? h.weight : 0), 0);
  return { stuck: belief.pStuck, ceiling: Math.max(ceiling, belief.pCeilingBelow) };
}

/**
 * "No answer when raised" is a stuck valve or a pump at its limit; lowering tells them apart, since a sound valve still
 * lowers. Proposed while both are likely, and far enough that a sound valve would show.
 */
function separatingMove(state: State, dead: Unanswering): number | null {
  const { knob, events, hypotheses, last } = state;
  if (Math.max(dead.stuck, dead.ceiling) > 0.85 * (dead.stuck + dead.ceiling)) return null;
  const raised = events.reduce((sum, e) => sum + (e.kind === "move" ? e.amount * knob.direction : 0), 0);
  const lowerings = events.filter((e) => e.kind === "move" && e.amount * knob.direction < 0).length;
  if ((raised <= 0 && lowerings === 0) || lowerings >= MOST_LOWERINGS) return null;
  // Far enough down to come out under the ceiling in most of the ways it may be.
  const capped = hypotheses.filter((h) => h.mode === "ceiling");
  const mass = capped.reduce((sum, h) => sum + h.weight, 0);
  const excess = capped.reduce(
    (sum, h) =>
      sum + (h.weight / mass) * ((Math.max(0, h.m - h.ceiling) + Math.sqrt(h.v) + 4 * last.u) / Math.abs(h.response)),
    0,
  );
  const steps = Math.ceil(excess / knob.step);
  const amount = clampToTravel(state, -knob.direction * steps * knob.step);
  return Math.abs(amount) < knob.step ? null : amount;
}

function faultOf(fault: FaultKind, belief: Belief, dead?: Unanswering): Action {
  const named: Cause[] = (
    [
      { kind: "stuck", probability: dead?.stuck ?? belief.pStuck },
      { kind: "ceiling", probability: dead?.ceiling ?? belief.pCeilingBelow },
      { kind: "reversed", probability: belief.pReversed },
    ] satisfies Cause[]
  )
    .filter((c) => c.probability > 0.005)
    .sort((x, y) => y.probability - x.probability);
  const causes: Cause[] = named.some((c) => c.kind === fault) ? named : [{ kind: fault, probability: 1 }, ...named];
  return { kind: "fault", fault, causes };
}

/** Even an endless series of readings with this instrument could not say that the middle of the tolerance holds. */
function gaugeTooCoarse({ tolerance, uCommon, options }: State): boolean {
  return (
    inside(aim(tolerance), uCommon ** 2, tolerance) < options.accept &&
    uCommon > 0 &&
    tolerance.lower !== undefined &&
    tolerance.upper !== undefined
  );
}

/**
 * Weighs one more reading against the best move, by expected cost until it is accepted (each try repeated until it works).
 */
function moveOrRead(state: State, belief: Belief): Action {
  const { options } = state;
  const best = bestMove(state);
  const again = chanceByReading(state);
  const costOfReading = again > 0.02 ? options.readingCost / again : Infinity;
  const costOfMove = best && best.chance > 1e-9 ? (1 + options.readingCost) / best.chance : Infinity;
  if (costOfReading < costOfMove) return { kind: "recheck", reason: "not-sure-yet" };
  const amount = best && best.chance > HOPELESS ? best.amount : longWay(state, belief);
  if (amount === 0) return faultOf("end-of-travel", belief);
  if (stepTooCoarse(state, belief)) return faultOf("step-too-coarse", belief);
  if (toAndFro(state, amount)) return faultOf(tooCoarse(state, belief), belief);
  return { kind: "move", amount, expected: expectedAfter(state, amount), purpose: "into-tolerance" };
}

/** Where no single move can be hoped to arrive: as far towards the aim as knob and travel allow; 0 if there is no way. */
function longWay(state: State, belief: Belief): number {
  const { knob, tolerance } = state;
  const steps = (aim(tolerance) - belief.value) / belief.response.mean / knob.step;
  return clampToTravel(state, knob.direction * Math.sign(steps) * Math.max(1, Math.round(Math.abs(steps))) * knob.step);
}

/** Both neighbours of the tolerance have been stood on, and one step is wider than the tolerance. */
function stepTooCoarse({ tolerance, knob, events }: State, belief: Belief): boolean {
  const { lower, upper } = tolerance;
  if (lower === undefined || upper === undefined) return false;
  const { response } = belief;
  if (response.moves < 2 || (response.mean - 2 * response.sd) * knob.step < upper - lower) return false;
  const seen = staysIn(events).flatMap(({ at, values }) => values.map((value) => ({ at, value })));
  return seen.some(
    (a) => a.value < lower && seen.some((b) => b.value > upper && Math.abs(a.at - b.at) < 1.5 * knob.step),
  );
}

/** Where the knob stood, from one move to the next, and what was read there; the first place is 0. */
function staysIn(events: State["events"]): { at: number; values: number[] }[] {
  const stays = [{ at: 0, values: [] as number[] }];
  for (const e of events) {
    const stay = stays.at(-1)!;
    if (e.kind === "move") stays.push({ at: stay.at + e.amount, values: [] });
    else stay.values.push(e.value);
  }
  return stays;
}

/**
 * Back to where it was read already, from where it was read already, and neither could be accepted: once more would teach nothing.
 *
 * @param amount of the move that would be advised
 */
function toAndFro({ events, knob }: State, amount: number): boolean {
  const stays = staysIn(events);
  const { at } = stays.at(-1)!;
  const read = (place: number) =>
    stays.filter((s) => s.values.length > 0 && Math.abs(s.at - place) < knob.step / 2).length;
  return read(at) >= MOST_STAYS && read(at + amount) >= MOST_STAYS;
}

/** Where a step fits into the tolerance, a finer instrument would tell which one does. */
function tooCoarse({ knob, tolerance: { lower, upper } }: State, { response }: Belief): FaultKind {
  const fits = lower === undefined || upper === undefined || response.mean * knob.step < upper - lower;
  return fits ? "gauge-too-coarse" : "step-too-coarse";
}

function commonOf(readings: readonly ReadingEvent[]): number {
  return Math.max(0, ...readings.map((r) => r.uCommon ?? 0));
}

function check({ knob, events, tolerance }: AdjustQuestion): void {
  if (!(knob.step > 0)) throw new RangeError("A knob’s step is a positive number.");
  if (!(knob.response.mean > 0) || !(knob.response.sd > 0))
    throw new RangeError("A knob’s response is a positive number with a positive standard deviation.");
  if (tolerance.lower === undefined && tolerance.upper === undefined)
    throw new RangeError("A tolerance needs at least one limit.");
  for (const e of events) {
    if (e.kind === "reading" && !(e.u > 0 && Number.isFinite(e.value)))
      throw new RangeError("A reading needs a value and an uncertainty above 0.");
    if (e.kind === "move" && !Number.isFinite(e.amount)) throw new RangeError("A move needs an amount.");
  }
}
