import { type Tolerance, aim, phi, phiInverse } from "../metrology";
import { type Hypothesis, believe } from "./hypotheses";
import type { Action, AdjustEvent, AdjustQuestion, Advice, Belief, Cause, Expected, Knob, ReadingEvent } from "./types";

const DEFAULTS = { accept: 0.95, fault: 0.95, readingCost: 0.3 };
/** Above this probability a reading counts as unsettled, or as contradicting all that is known. */
const UNSETTLED = 0.15;
const CONTRADICTS = 0.5;
/** A move less likely than this to end in acceptance is not made for that hope. */
const HOPELESS = 0.01;
/** Goes taken at lowering before a fault is called with both causes still open. */
const MOST_LOWERINGS = 3;
/** Moves looked at, in steps either way. */
const REACH = 64;

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

interface State {
  knob: Knob;
  tolerance: Tolerance;
  events: readonly AdjustEvent[];
  hypotheses: Hypothesis[];
  last: ReadingEvent;
  options: typeof DEFAULTS;
  /** Uncertainty shared by all readings. */
  uCommon: number;
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

/** Stuck, ceiling or reversed, once sure enough that it is one of them. */
function knownFault(state: State, belief: Belief): Action | null {
  const { knob, options } = state;
  const dead = belief.pStuck + belief.pCeilingBelow;
  if (dead + belief.pReversed < options.fault) return null;
  if (belief.pReversed >= dead) return faultOf("reversed", belief);
  const back = separatingMove(state, belief);
  if (back !== null)
    return { kind: "move", amount: back, expected: expectedAfter(state, back), purpose: "separate-faults" };
  return faultOf(belief.pStuck >= belief.pCeilingBelow ? "stuck" : "ceiling", belief, knob);
}

/**
 * "No answer when raised" is a stuck valve or a pump at its limit; lowering tells them apart, since a sound valve still
 * lowers. Proposed while both are likely, and far enough that a sound valve would show.
 */
function separatingMove(state: State, belief: Belief): number | null {
  const { knob, events, hypotheses, last } = state;
  const dead = belief.pStuck + belief.pCeilingBelow;
  if (Math.max(belief.pStuck, belief.pCeilingBelow) > 0.85 * dead) return null;
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

function clampToTravel({ knob, events }: State, amount: number): number {
  const at = events.reduce((sum, e) => sum + (e.kind === "move" ? e.amount : 0), 0);
  const { lowest = -Infinity, highest = Infinity } = knob.travel ?? {};
  const most = knob.largestMove ?? Infinity;
  const low = Math.max(lowest - at, -most);
  const high = Math.min(highest - at, most);
  const steps = Math.min(Math.max(amount, low), high) / knob.step;
  return (amount > 0 ? Math.floor(steps + 1e-9) : Math.ceil(steps - 1e-9)) * knob.step;
}

function faultOf(fault: Extract<Action, { kind: "fault" }>["fault"], belief: Belief, knob?: Knob): Action {
  const named: Cause[] = (
    [
      { kind: "stuck", probability: belief.pStuck },
      { kind: "ceiling", probability: belief.pCeilingBelow },
      { kind: "reversed", probability: belief.pReversed },
    ] satisfies Cause[]
  )
    .filter((c) => c.probability > 0.005 && (c.kind !== "ceiling" || knob?.faults?.ceiling !== 0))
    .sort((a, b) => b.probability - a.probability);
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
  let at = 0;
  const seen: { at: number; value: number }[] = [];
  for (const e of events) {
    if (e.kind === "move") at += e.amount;
    else seen.push({ at, value: e.value });
  }
  return seen.some(
    (a) => a.value < lower && seen.some((b) => b.value > upper && Math.abs(a.at - b.at) < 1.5 * knob.step),
  );
}

interface Candidate {
  amount: number;
  /** Probability that the move and one reading end in acceptance. */
  chance: number;
}

function bestMove(state: State): Candidate | null {
  const { knob } = state;
  let best: Candidate | null = null;
  for (let steps = -REACH; steps <= REACH; steps++) {
    if (steps === 0) continue;
    const amount = steps * knob.step;
    if (Math.abs(clampToTravel(state, amount) - amount) > knob.step / 2) continue;
    const chance = chanceByMove(state, amount);
    // Ties go to the smaller move.
    if (
      !best ||
      chance > best.chance + 1e-12 ||
      (chance > best.chance - 1e-12 && Math.abs(amount) < Math.abs(best.amount))
    )
      best = { amount, chance };
  }
  return best;
}

/** Mean and variance of the value after a move, over the hypotheses in which the knob works as said. */
function responsive(state: State, amount: number): { mean: number; variance: number; mass: number } {
  let mass = 0;
  let sum = 0;
  let squares = 0;
  const scatter = (state.knob.scatter ?? 0) ** 2;
  for (const h of state.hypotheses) {
    if (h.mode !== "normal") continue;
    const m = shifted(h, amount);
    mass += h.weight;
    sum += h.weight * m;
    squares += h.weight * (m * m + h.v + scatter + (h.cell * amount) ** 2);
  }
  if (mass === 0) return { mean: 0, variance: 1, mass: 0 };
  const mean = sum / mass;
  return { mean, variance: Math.max(squares / mass - mean * mean, 1e-12), mass };
}

function shifted(h: Hypothesis, amount: number): number {
  const free = amount > 0 ? h.backlash - h.slack : h.slack;
  return h.m + h.response * Math.max(0, Math.abs(amount) - free) * Math.sign(amount);
}

function chanceByMove(state: State, amount: number): number {
  const { mean, variance, mass } = responsive(state, amount);
  const { lower = -Infinity, upper = Infinity } = state.tolerance;
  const far = 5 * Math.sqrt(variance);
  return mass === 0 || mean < lower - far || mean > upper + far ? 0 : mass * chanceAfterReading(state, mean, variance);
}

function chanceByReading(state: State): number {
  const { mean, variance } = present(state);
  return chanceAfterReading(state, mean, variance);
}

/** Probability that one more reading brings the probability inside up to the acceptance level. */
function chanceAfterReading(state: State, mean: number, variance: number): number {
  const u2 = state.last.u ** 2;
  const posterior = (variance * u2) / (variance + u2);
  const { low, high } = zone(state, posterior);
  if (!(high > low)) return 0;
  const sd = Math.sqrt(variance - posterior);
  return phi((high - mean) / sd) - phi((low - mean) / sd);
}

/** Where a posterior mean must lie, its variance given, for the probability inside to reach acceptance. */
function zone({ tolerance, uCommon, options }: State, variance: number): { low: number; high: number } {
  const { lower, upper } = tolerance;
  const total = variance + uCommon ** 2;
  const one = phiInverse(options.accept) * Math.sqrt(total);
  if (lower === undefined) return { low: -Infinity, high: upper! - one };
  if (upper === undefined) return { low: lower + one, high: Infinity };
  const middle = (lower + upper) / 2;
  if (inside(middle, total, tolerance) < options.accept) return { low: 1, high: 0 };
  // Bisection from the middle out: the probability falls steadily towards the limit.
  let near = 0;
  let far = (upper - lower) / 2;
  for (let i = 0; i < 14; i++) {
    const half = (near + far) / 2;
    if (inside(middle + half, total, tolerance) >= options.accept) near = half;
    else far = half;
  }
  return { low: middle - near, high: middle + near };
}

function inside(value: number, variance: number, { lower = -Infinity, upper = Infinity }: Tolerance): number {
  const sd = Math.sqrt(variance);
  if (sd === 0) return value >= lower && value <= upper ? 1 : 0;
  return phi((upper - value) / sd) - phi((lower - value) / sd);
}

/** Probability inside for one hypothesis, the ceiling cutting what lies above it. */
function insideOf(h: Hypothesis, m: number, variance: number, tolerance: Tolerance): number {
  const { lower = -Infinity, upper = Infinity } = tolerance;
  if (h.ceiling === Infinity || h.ceiling > upper) return inside(m, variance, tolerance);
  return h.ceiling < lower ? 0 : inside(m, variance, { lower });
}

function present(state: State): { mean: number; variance: number } {
  let sum = 0;
  let squares = 0;
  for (const h of state.hypotheses) {
    const m = Math.min(h.m, h.ceiling);
    const v = h.m > h.ceiling ? 0 : h.v;
    sum += h.weight * m;
    squares += h.weight * (m * m + v);
  }
  return { mean: sum, variance: Math.max(squares - sum * sum, 1e-12) };
}

function beliefOf(state: State): Belief {
  const { hypotheses, tolerance, events, knob, uCommon } = state;
  const sum = (f: (h: Hypothesis) => number) => hypotheses.reduce((total, h) => total + h.weight * f(h), 0);
  const { mean, variance } = present(state);
  const lower = tolerance.lower ?? -Infinity;
  const normal = sum((h) => (h.mode === "normal" ? 1 : 0));
  const response =
    normal > 0 ? sum((h) => (h.mode === "normal" ? Math.abs(h.response) : 0)) / normal : knob.response.mean;
  const squares = normal > 0 ? sum((h) => (h.mode === "normal" ? h.response ** 2 : 0)) / normal : response ** 2;
  return {
    value: mean,
    sd: Math.hypot(Math.sqrt(variance), uCommon),
    pInside: sum((h) => insideOf(h, h.m, h.v + uCommon ** 2, tolerance)),
    response: {
      mean: response,
      sd: Math.sqrt(Math.max(0, squares - response ** 2)),
      moves: events.filter((e, i) => e.kind === "move" && events.slice(i).some((later) => later.kind === "reading"))
        .length,
    },
    pStuck: sum((h) => (h.mode === "stuck" ? 1 : 0)),
    pCeilingBelow: sum((h) => (h.mode === "ceiling" && h.ceiling < lower ? 1 : 0)),
    pReversed: sum((h) => (h.mode === "reversed" ? 1 : 0)),
    pStale: sum((h) => (h.lastStale ? 1 : 0)),
    pSlip: sum((h) => (h.lastSlip ? 1 : 0)),
  };
}

/** The true value after a move, if the knob works as said. */
function expectedAfter(state: State, amount: number): Expected {
  const { mean, variance } = responsive(state, amount);
  const total = variance + state.uCommon ** 2;
  const p = state.hypotheses.reduce((sum, h) => {
    const after = h.mode === "stuck" ? h.m : shifted(h, amount);
    return sum + h.weight * insideOf(h, after, h.v + state.uCommon ** 2, state.tolerance);
  }, 0);
  return { value: mean, sd: Math.sqrt(total), pInside: p };
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
