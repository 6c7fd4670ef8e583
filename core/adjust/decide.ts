import { aim, checkTolerance } from "../metrology";
import { believe } from "./hypotheses";
import { type Move, type State, beliefOf, bestMove, chanceByReading, expectedAfter, inside, wayLeft } from "./outlook";
import type { Action, AdjustQuestion, Advice, Belief, Cause, Expected, FaultKind, ReadingEvent } from "./types";

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
/** Stays at one place, each read, before going back to it is no advice any more. Our choice: a third one would teach nothing that two had not. */
const MOST_STAYS = 2;
/** Readings at one place, after which another one tells no more. Our choice. */
const MOST_READINGS = 6;
/** Whether the last reading was old by then or misread is told by a second one; a third says the same. */
const TELLS_OLD_AND_MISREAD = 2;
/** Readings before anything is opened: a slip of the eye, or of the hand that wrote it, is not made twice. Our choice. */
const TELLS_A_SLIP = 2;
/** A reading less likely than this to end it is not asked for to end it. Our choice. */
const WORTH_ASKING = 0.02;
/** With less than this inside, more readings of a knob that does not answer are not worth their time. Our choice: 1 in 20, as everywhere. */
const WORTH_READING = 0.05;
/** As likely as this it is said to be a fault where no move can be told: likelier than not. */
const LIKELIER = 0.5;
/** With a fault as likely as this a single reading is not turned on. Our choice. */
const DOUBTED = 0.3;

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
  const action = decide(state, belief);
  if (action.kind === "move" && !turned(state)) {
    if (question.finer) return { action: { kind: "recheck", reason: "finer-first" }, belief };
    if (question.opens && readsHere(state) < TELLS_A_SLIP)
      return { action: { kind: "recheck", reason: "not-sure-yet" }, belief };
  }
  return { action, belief };
}

function decide(state: State, belief: Belief): Action {
  const { events, options } = state;
  if (events.at(-1)!.kind === "move")
    return { kind: "recheck", reason: "moved-not-read", expected: expectedOfMoves(state) };
  if (belief.pSlip > CONTRADICTS) return { kind: "recheck", reason: "contradiction" };
  if (belief.pInside >= options.accept) return { kind: "accept" };
  if (belief.pStale > UNSETTLED) return { kind: "recheck", reason: "unsettled" };
  const fault = knownFault(state, belief);
  if (fault) return fault;
  const best = bestMove(state, belief);
  // It may be too coarse to accept with and still see that this is outside.
  if (gaugeTooCoarse(state) && belief.pInside > WORTH_READING) return faultOf("gauge-too-coarse", belief);
  return best ? moveOrRead(state, belief, best) : readOrLook(state, belief);
}

/** Stuck, ceiling or reversed, once sure enough that it is one of them and that no more readings can still say "inside". */
function knownFault(state: State, belief: Belief): Action | null {
  const { options } = state;
  const dead = unanswering(state, belief);
  const sum = dead.stuck + dead.ceiling;
  if (sum + belief.pReversed < options.fault) return null;
  if (belief.pReversed >= sum) return faultOf("reversed", belief);
  if (belief.pInside > WORTH_READING && chanceByReading(state) > WORTH_ASKING)
    return { kind: "recheck", reason: "not-sure-yet" };
  return deadOf(state, belief, dead);
}

/** What does not respond: read twice where it stands, or the reading may be an old one still. */
function deadOf(state: State, belief: Belief, dead: Unanswering): Action {
  if (turned(state) && readsHere(state) < TELLS_OLD_AND_MISREAD) return { kind: "recheck", reason: "before-fault" };
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
 * Weighs one more reading against the best move, by expected cost until it ends (each try repeated until it works).
 */
function moveOrRead(state: State, belief: Belief, { amount, chance, expected }: Move): Action {
  const { options } = state;
  const again = chanceByReading(state);
  const costOfReading = again > WORTH_ASKING ? options.readingCost / again : Infinity;
  const costOfMove = chance > 1e-9 ? (1 + options.readingCost) / chance : Infinity;
  if (costOfReading < costOfMove) return { kind: "recheck", reason: "not-sure-yet" };
  if (stepTooCoarse(state, belief)) return faultOf("step-too-coarse", belief);
  if (toAndFro(state, amount)) return faultOf(tooCoarse(state, belief), belief);
  // What may be an old reading, or a misread one, is read again before it is turned on: a reading costs less.
  const doubted = belief.pReversed + unanswering(state, belief).stuck > DOUBTED && turned(state);
  if (doubted && readsHere(state) < TELLS_OLD_AND_MISREAD) return { kind: "recheck", reason: "before-fault" };
  return { kind: "move", amount, expected };
}

/** Nothing may be turned: it is read again while that can tell, and then there is something to look at. */
function readOrLook(state: State, belief: Belief): Action {
  const reads = readsHere(state);
  const again = reads < MOST_READINGS && chanceByReading(state) > WORTH_ASKING;
  if (again && belief.pInside > WORTH_READING) return { kind: "recheck", reason: "not-sure-yet" };
  if (stepTooCoarse(state, belief)) return faultOf("step-too-coarse", belief);
  if (turned(state) && reads < TELLS_OLD_AND_MISREAD) return { kind: "recheck", reason: "before-fault" };
  const dead = unanswering(state, belief);
  if (belief.pReversed > LIKELIER) return faultOf("reversed", belief);
  // Above the aim it may as well be set over what the pump gives: that is looked at, not called stuck.
  const low = belief.value < aim(state.tolerance);
  if (dead.stuck + (low ? dead.ceiling : 0) > LIKELIER) return deadOf(state, belief, dead);
  if (belief.pInside > WORTH_READING)
    return reads < TELLS_OLD_AND_MISREAD
      ? { kind: "recheck", reason: "not-sure-yet" }
      : faultOf(tooCoarse(state, belief), belief);
  return faultOf(wayLeft(state, belief) ? "look-first" : "end-of-travel", belief);
}

const turned = ({ events }: State) => events.some((e) => e.kind === "move");

/** What was expected, at the last reading, of all that was turned since: nothing has been learnt meanwhile. */
function expectedOfMoves(state: State): Expected {
  const { knob, tolerance, events, last } = state;
  const read = events.lastIndexOf(last) + 1;
  const amount = events.slice(read).reduce((sum, e) => sum + (e.kind === "move" ? e.amount : 0), 0);
  return expectedAfter({ ...state, hypotheses: believe(knob, tolerance, events.slice(0, read)) }, amount);
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

/** How often it was read where it stands now. */
const readsHere = ({ events }: State) => staysIn(events).at(-1)!.values.length;

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
  if (!(knob.step > 0 && Number.isFinite(knob.step))) throw new RangeError("A knob’s step is a positive number.");
  if (![knob.response.mean, knob.response.sd].every((x) => x > 0 && Number.isFinite(x)))
    throw new RangeError("A knob’s response is a positive number with a positive standard deviation.");
  const { lower, target, upper } = tolerance;
  if ([lower, target, upper].some((limit) => limit !== undefined && !Number.isFinite(limit)))
    throw new RangeError("The limits of a tolerance are finite.");
  checkTolerance(tolerance);
  const { travel, largestMove, backlash = 0, scatter = 0, staleProbability = 0 } = knob;
  if (travel && !(travel.lowest <= travel.highest)) throw new RangeError("Travel runs from its lowest to its highest.");
  if (knob.width !== undefined && !(knob.width >= knob.step)) throw new RangeError("The width is a step at least.");
  if (largestMove !== undefined && !(largestMove >= knob.step))
    throw new RangeError("The largest move is a step at least.");
  if (!(backlash >= 0 && Number.isFinite(backlash) && scatter >= 0 && Number.isFinite(scatter)))
    throw new RangeError("Lost motion and scatter are finite and not negative.");
  const { stuck = 0, ceiling = 0, reversed = 0 } = knob.faults ?? {};
  if (![staleProbability, stuck, ceiling, reversed].every((p) => p >= 0 && p < 1) || !(stuck + ceiling + reversed < 1))
    throw new RangeError("Probabilities lie between 0 and 1, those of all faults together too.");
  for (const e of events) {
    if (e.kind === "reading" && !(e.u > 0 && Number.isFinite(e.u) && Number.isFinite(e.value)))
      throw new RangeError("A reading needs a value and an uncertainty above 0.");
    if (e.kind === "reading" && e.uCommon !== undefined && !(e.uCommon >= 0 && Number.isFinite(e.uCommon)))
      throw new RangeError("A shared uncertainty is finite and not negative.");
    if (e.kind === "move" && !Number.isFinite(e.amount)) throw new RangeError("A move needs an amount.");
  }
}
