import { type Tolerance, aim, phi, phiInverse } from "../metrology";
import { SAFE_SHARE, heads, mayBeTold, towards } from "./guard";
import type { Hypothesis } from "./hypotheses";
import type { AdjustEvent, AdjustOptions, Belief, Expected, Knob, ReadingEvent } from "./types";

// Called some thousand times an answer: looked up once.
const { abs, max, min, sign, sqrt } = Math;

/** What is believed now, and what one more reading or one more move may bring. */

/** Steps either way that are all looked at; further off they are looked at about where the aim is thought to lie. */
const REACH = 64;
/** A response known this well lets a move go further than the first ones may, where it takes pressure off. Our choice: one in four. */
const WELL_KNOWN = 0.25;
/** Times as far down as up in one move. Our choice. */
const DOWN = 2;
/** Of a limit without its other side, the smallest move that promises nearly as much as any. Our choice. */
const NEARLY = 0.9;

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

/** The longest moves there are from where the knob stands, either way, in its unit. */
function longestMoves({ knob, events, hypotheses }: State): { low: number; high: number } {
  let at = 0;
  const stood = [0];
  for (const e of events) if (e.kind === "move") stood.push((at += e.amount));
  // Four springs apart are no two of a set of four: what was stood on bounds what there is on the other side.
  const { width = Infinity, travel } = knob;
  const lowest = max(travel?.lowest ?? -Infinity, max(...stood) - width);
  const highest = min(travel?.highest ?? Infinity, min(...stood) + width);
  // How far a move upwards may go is the knob’s to say. Downwards nothing is at risk: further, and as far as it takes once it is known.
  const up = knob.largestMove ?? Infinity;
  const down = isWellKnown(hypotheses) ? Infinity : DOWN * up;
  const [minus, plus] = knob.direction > 0 ? [down, up] : [up, down];
  return { low: max(lowest - at, -minus), high: min(highest - at, plus) };
}

function isWellKnown(hypotheses: readonly Hypothesis[]): boolean {
  let [mass, sum, squares] = [0, 0, 0];
  for (const h of hypotheses) {
    if (h.mode !== "normal") continue;
    mass += h.weight;
    sum += h.weight * abs(h.response);
    squares += h.weight * h.response ** 2;
  }
  if (mass < 0.5) return false;
  const mean = sum / mass;
  return squares / mass - mean * mean < (WELL_KNOWN * mean) ** 2;
}

export interface Candidate {
  amount: number;
  /** Probability that the move and one reading end in acceptance. */
  chance: number;
  /** Probability inside after the move, 0 to 1. */
  inside: number;
}

export interface Move {
  amount: number;
  /** Probability that it and one reading end in acceptance. */
  chance: number;
  expected: Expected;
}

/** Fewer than one in twenty moves like the best would end it: then what counts is where it is likely to come to lie. */
const CLIFF = 0.05;

/**
 * The move that most likely ends in acceptance, or that most likely comes to lie inside, among all whole steps that knob and travel allow
 * and that may be told to a person. Null where there is none.
 *
 * A tolerance with one limit and a target is aimed at like one with two, the target in their middle.
 */
export function bestMove(asked: State, belief: Belief): Move | null {
  const state = { ...asked, tolerance: aimed(asked.tolerance) };
  const guarded = { knob: asked.knob, tolerance: asked.tolerance, belief, strongest: strongestOf(asked) };
  const all = candidates(state)
    .filter((amount) => heads(guarded, amount))
    .map((amount): Candidate => {
      const after = responsive(waysAfter(state, amount));
      return {
        amount,
        chance: chanceOf(state, after),
        inside: after.mass * inside(after.mean, after.variance + state.uCommon ** 2, state.tolerance),
      };
    });
  if (all.length === 0) return null;
  const ends = (c: Candidate) => c.chance;
  const lies = (c: Candidate) => c.inside;
  const oneSided = state.tolerance.lower === undefined || state.tolerance.upper === undefined;
  const told = (worth: (c: Candidate) => number): Move | null => {
    const best = max(...all.map(worth));
    // Ties go to the smaller move; past one limit alone every further move is as good as the last.
    const enough = oneSided ? NEARLY * best : best - 1e-12;
    const { amount, chance } = all
      .filter((c) => worth(c) >= enough)
      .reduce((a, b) => (abs(b.amount) < abs(a.amount) ? b : a));
    const expected = expectedAfter(asked, amount);
    return mayBeTold(guarded, amount, expected) ? { amount, chance, expected } : null;
  };
  return (max(...all.map(ends)) > CLIFF ? told(ends) : null) ?? told(lies);
}

/** Whether knob and travel leave any way towards the aim. */
export function wayLeft(state: State, belief: Belief): boolean {
  const way = towards(state.tolerance, belief.value) * state.knob.direction;
  return candidates(state).some((amount) => sign(amount) === way);
}

/** The size of response that only one knob in a hundred like this passes. */
function strongestOf({ hypotheses, knob }: State): number {
  const works = hypotheses.filter((h) => h.mode === "normal");
  const all = (works.length > 0 ? works : hypotheses.filter((h) => h.mode === "ceiling"))
    .map((h) => ({ r: abs(h.response) + h.cell, w: h.weight }))
    .sort((a, b) => a.r - b.r);
  const mass = all.reduce((sum, { w }) => sum + w, 0);
  let under = 0;
  for (const { r, w } of all) if ((under += w) >= SAFE_SHARE * mass) return r;
  return all.at(-1)?.r ?? knob.response.mean;
}

function aimed({ lower, target, upper }: Tolerance): Tolerance {
  if (target === undefined || (lower !== undefined && upper !== undefined))
    return { lower, target, upper } as Tolerance;
  return lower !== undefined
    ? { lower, target, upper: 2 * target - lower }
    : { lower: 2 * target - upper!, target, upper: upper! };
}

/** Amounts to look at: all near, and where the aim lies far off, those that spread about it. */
function candidates(state: State): number[] {
  const { knob } = state;
  const steps = new Set<number>();
  for (let i = -REACH; i <= REACH; i++) if (i !== 0) steps.add(i);
  const { mean } = present(state);
  const away = ((aim(state.tolerance) - mean) * knob.direction) / (knob.response.mean * knob.step);
  if (abs(away) > REACH / 2) for (let share = 0.4; share < 2.5; share *= 1.02) steps.add(Math.round(share * away));
  // How far it goes is asked once, not of every amount.
  const { low, high } = longestMoves(state);
  const even = 1e-9 * knob.step;
  return [...steps].map((i) => i * knob.step).filter((amount) => amount >= low - even && amount <= high + even);
}

/** Mean, variance and weight of one way that the machine may be. */
interface Way {
  readonly mean: number;
  readonly variance: number;
  readonly mass: number;
}

type Ways = Readonly<Record<Hypothesis["mode"], Way>>;

/** The value after a move, for each way that the machine may be. */
function waysAfter({ hypotheses, knob }: State, amount: number): Ways {
  const scatter = (knob.scatter ?? 0) ** 2;
  const sums = { normal: [0, 0, 0], stuck: [0, 0, 0], ceiling: [0, 0, 0], reversed: [0, 0, 0] };
  for (const h of hypotheses) {
    const set = shifted(h, amount);
    const cut = set > h.ceiling;
    const m = cut ? h.ceiling : set;
    const v = cut ? 0 : h.v + (h.mode === "stuck" ? 0 : scatter) + (h.cell * amount) ** 2;
    const sum = sums[h.mode];
    sum[0]! += h.weight;
    sum[1]! += h.weight * m;
    sum[2]! += h.weight * (m * m + v);
  }
  const way = ([mass, sum, squares]: number[]): Way => {
    if (mass! <= 0) return { mean: 0, variance: 1, mass: 0 };
    const mean = sum! / mass!;
    return { mean, variance: max(squares! / mass! - mean * mean, 1e-12), mass: mass! };
  };
  return {
    normal: way(sums.normal),
    stuck: way(sums.stuck),
    ceiling: way(sums.ceiling),
    reversed: way(sums.reversed),
  };
}

/**
 * The value after a move, where the knob works as said; with that almost ruled out, where it works behind a pump at its limit.
 */
function responsive({ normal, ceiling }: Ways): Way {
  return normal.mass > 0.02 || normal.mass >= ceiling.mass ? normal : ceiling;
}

function shifted(h: Hypothesis, amount: number): number {
  const free = amount > 0 ? h.backlash - h.slack : h.slack;
  return h.m + h.response * max(0, abs(amount) - free) * sign(amount);
}

function chanceOf(state: State, { mean, variance, mass }: Way): number {
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
  const { mean, variance } = responsive(waysAfter(trusting(state), amount));
  const total = variance + state.uCommon ** 2;
  const p = state.hypotheses.reduce((sum, h) => {
    const after = h.mode === "stuck" ? h.m : shifted(h, amount);
    return sum + h.weight * insideOf(h, after, h.v + state.uCommon ** 2, state.tolerance);
  }, 0);
  return { value: mean, sd: sqrt(total), pInside: p };
}
