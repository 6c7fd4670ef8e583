import { type Tolerance, phi, phiInverse } from "../metrology";
import type { Hypothesis } from "./hypotheses";
import type { AdjustEvent, AdjustOptions, Belief, Expected, Knob, ReadingEvent } from "./types";

// Called some thousand times an answer: looked up once.
const { abs, max, min, sign, sqrt } = Math;

/** What is believed now, and what one more reading or one more move may bring. */

/** Moves looked at, in steps either way. */
const REACH = 64;

export interface State {
  knob: Knob;
  tolerance: Tolerance;
  events: readonly AdjustEvent[];
  hypotheses: Hypothesis[];
  last: ReadingEvent;
  options: Required<AdjustOptions>;
  /** Uncertainty shared by all readings. */
  uCommon: number;
}

/**
 * The nearest whole number of steps towards 0 that the knob allows from where it stands.
 *
 * @param amount of a move, in the knob’s unit, signed
 */
export function clampToTravel({ knob, events }: State, amount: number): number {
  const at = events.reduce((sum, e) => sum + (e.kind === "move" ? e.amount : 0), 0);
  const { lowest = -Infinity, highest = Infinity } = knob.travel ?? {};
  const most = knob.largestMove ?? Infinity;
  const low = max(lowest - at, -most);
  const high = min(highest - at, most);
  const steps = min(max(amount, low), high) / knob.step;
  return (amount > 0 ? Math.floor(steps + 1e-9) : Math.ceil(steps - 1e-9)) * knob.step;
}

interface Candidate {
  amount: number;
  /** Probability that the move and one reading end in acceptance. */
  chance: number;
}

/** The move with the smallest expected cost until acceptance, among all whole steps that knob and travel allow; null where none is left. */
export function bestMove(state: State): Candidate | null {
  const { knob } = state;
  let best: Candidate | null = null;
  for (let steps = -REACH; steps <= REACH; steps++) {
    if (steps === 0) continue;
    const amount = steps * knob.step;
    if (abs(clampToTravel(state, amount) - amount) > knob.step / 2) continue;
    const chance = chanceByMove(state, amount);
    // Ties go to the smaller move.
    if (!best || chance > best.chance + 1e-12 || (chance > best.chance - 1e-12 && abs(amount) < abs(best.amount)))
      best = { amount, chance };
  }
  return best;
}

/**
 * Mean and variance of the value after a move, over the hypotheses in which the knob works as said; with those almost ruled out,
 * over a valve that works behind a pump at its limit.
 */
function responsive(state: State, amount: number): { mean: number; variance: number; mass: number } {
  const plain = responseOver(state, amount, "normal");
  if (plain.mass > 0.02) return plain;
  const capped = responseOver(state, amount, "ceiling");
  return capped.mass > plain.mass ? capped : plain;
}

function responseOver(state: State, amount: number, mode: "normal" | "ceiling") {
  let mass = 0;
  let sum = 0;
  let squares = 0;
  const scatter = (state.knob.scatter ?? 0) ** 2;
  for (const h of state.hypotheses) {
    if (h.mode !== mode) continue;
    const set = shifted(h, amount);
    const m = min(set, h.ceiling);
    const v = set > h.ceiling ? 0 : h.v + scatter + (h.cell * amount) ** 2;
    mass += h.weight;
    sum += h.weight * m;
    squares += h.weight * (m * m + v);
  }
  if (mass === 0) return { ...present(state), mass: 0 };
  const mean = sum / mass;
  return { mean, variance: max(squares / mass - mean * mean, 1e-12), mass };
}

function shifted(h: Hypothesis, amount: number): number {
  const free = amount > 0 ? h.backlash - h.slack : h.slack;
  return h.m + h.response * max(0, abs(amount) - free) * sign(amount);
}

function chanceByMove(state: State, amount: number): number {
  const { mean, variance, mass } = responsive(state, amount);
  const { lower = -Infinity, upper = Infinity } = state.tolerance;
  const far = 5 * sqrt(variance);
  return mass === 0 || mean < lower - far || mean > upper + far ? 0 : mass * chanceAfterReading(state, mean, variance);
}

/** Probability, 0 to 1, that one more reading puts the posterior inside the acceptance zone. */
export function chanceByReading(state: State): number {
  const { mean, variance } = present(state);
  return chanceAfterReading(state, mean, variance);
}

/** Probability that one more reading brings the probability inside up to the acceptance level. */
function chanceAfterReading(state: State, mean: number, variance: number): number {
  const u2 = state.last.u ** 2;
  const posterior = (variance * u2) / (variance + u2);
  const { low, high } = zone(state, posterior);
  if (!(high > low)) return 0;
  const sd = sqrt(variance - posterior);
  return phi((high - mean) / sd) - phi((low - mean) / sd);
}

/** Where a posterior mean must lie, its variance given, for the probability inside to reach acceptance. */
function zone({ tolerance, uCommon, options }: State, variance: number): { low: number; high: number } {
  const { lower, upper } = tolerance;
  const total = variance + uCommon ** 2;
  const one = phiInverse(options.accept) * sqrt(total);
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

/**
 * Probability, 0 to 1, that a normal of this mean and variance (reading units) lies inside the limits.
 *
 * @param value mean, reading units
 * @param variance reading units squared, ≥ 0
 */
export function inside(value: number, variance: number, { lower = -Infinity, upper = Infinity }: Tolerance): number {
  const sd = sqrt(variance);
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
    const m = min(h.m, h.ceiling);
    const v = h.m > h.ceiling ? 0 : h.v;
    sum += h.weight * m;
    squares += h.weight * (m * m + v);
  }
  return { mean: sum, variance: max(squares - sum * sum, 1e-12) };
}

/**
 * The state with the last reading taken at its word. A slip is a small chance of something far away: it belongs into decisions, but a
 * spread that is told to a person is that of the reading they took.
 */
function trusting(state: State): State {
  const sound = state.hypotheses.filter((h) => !h.lastSlip);
  const mass = sound.reduce((sum, h) => sum + h.weight, 0);
  if (mass < 0.5) return state;
  return { ...state, hypotheses: sound.map((h) => ({ ...h, weight: h.weight / mass })) };
}

/** What is believed now, as it is told to a person: reading units, slip branches left out. */
export function beliefOf(state: State): Belief {
  const { hypotheses, tolerance, events, knob, uCommon } = state;
  const sum = (f: (h: Hypothesis) => number) => hypotheses.reduce((total, h) => total + h.weight * f(h), 0);
  const { mean } = present(state);
  const { variance } = present(trusting(state));
  const lower = tolerance.lower ?? -Infinity;
  const normal = sum((h) => (h.mode === "normal" ? 1 : 0));
  const response = normal > 0 ? sum((h) => (h.mode === "normal" ? abs(h.response) : 0)) / normal : knob.response.mean;
  const squares = normal > 0 ? sum((h) => (h.mode === "normal" ? h.response ** 2 : 0)) / normal : response ** 2;
  return {
    value: mean,
    sd: Math.hypot(sqrt(variance), uCommon),
    pInside: sum((h) => insideOf(h, h.m, h.v + uCommon ** 2, tolerance)),
    response: {
      mean: response,
      sd: sqrt(max(0, squares - response ** 2)),
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

/**
 * The true value after a move, if the knob works as said.
 *
 * @param amount of the move, in the knob’s unit, signed
 */
export function expectedAfter(state: State, amount: number): Expected {
  const { mean, variance } = responsive(trusting(state), amount);
  const total = variance + state.uCommon ** 2;
  const p = state.hypotheses.reduce((sum, h) => {
    const after = h.mode === "stuck" ? h.m : shifted(h, amount);
    return sum + h.weight * insideOf(h, after, h.v + state.uCommon ** 2, state.tolerance);
  }, 0);
  return { value: mean, sd: sqrt(total), pInside: p };
}
