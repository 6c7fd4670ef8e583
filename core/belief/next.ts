import type {
  Action,
  AdjustQuestion,
  Advice,
  Belief,
  Cause,
  Doubted,
  Expected,
  FaultKind,
  Knob,
  ReadingEvent,
} from "../adjust/types";
import { SAFE_SHARE, heads, mayBeTold, towards } from "../adjust/guard";
import { type Tolerance, aim, phi, phiInverse } from "../metrology";
import { check } from "./check";
import { FATE, type Mode, type Particle, believe, fewOf, insideOf, instrumentsOf, shiftOf } from "./particles";

const { abs, hypot, max, min, sign, sqrt } = Math;

/** What ends it: 1 wrong in 20 is what U at 95 % already means to whoever reads the record. */
const ACCEPT = 0.95;
/** What things cost, a move with its reading being 1. A reading takes about a quarter of the time of a turn behind a cover. */
const READING = 0.25;
/** Above this a reading is read again before it is believed: it may be an old one, or a slip. Our choice: half a chance for a slip. */
const OLD = 0.15;
const SLIPPED = 0.5;
/** Less likely inside than this, a coarse instrument sees well enough that it is outside. Our choice. */
const DOUBTFUL = 0.3;
/** Readings at one place, after which another one tells no more. */
export const MOST_HERE = 4;
/** Moves after which there is something to look at: no sound knob of the bench takes so many. */
const MOST_MOVES = 8;
const REACH = 64;
/** Of a limit without its other side, the smallest move that promises nearly as much as any. Our choice. */
const NEARLY = 0.9;

/**
 * The next action for one knob: move, read again, accept, or stop and look for a fault. All of it follows from one belief.
 *
 * Bayesian, pure and deterministic: the same events give the same advice. A move is a whole number of steps, inside the knob’s travel, and
 * passes the guard, whatever the belief says.
 *
 * @throws RangeError when the step, the response or an uncertainty is not a positive number
 */
export function nextAction(question: AdjustQuestion): Advice {
  const { knob, tolerance, events } = question;
  check(question);
  const particles = believe(knob, tolerance, events);
  if (!particles) return { action: { kind: "recheck", reason: "no-reading" }, belief: null };
  const state: State = { question, particles, belief: toldOf(question, particles) };
  return { action: decide(state), belief: state.belief };
}

interface State {
  readonly question: AdjustQuestion;
  readonly particles: readonly Particle[];
  readonly belief: Belief;
}

function decide(state: State): Action {
  const { question, belief } = state;
  const { events, finer, opens } = question;
  const accept = question.options?.accept ?? ACCEPT;
  const last = events.at(-1)!;
  if (last.kind === "move") return { kind: "recheck", reason: "moved-not-read", expected: expectedOfMoves(question) };
  if (belief.pSlip > SLIPPED) return { kind: "recheck", reason: "contradiction" };
  const here = readsHere(question);
  if (belief.pInside >= accept)
    return here === 2 && disagreeHere(state) ? { kind: "recheck", reason: "disagree" } : { kind: "accept" };
  if (belief.pStale > OLD) return { kind: "recheck", reason: "unsettled" };
  const turned = events.some((e) => e.kind === "move");
  if (isCoarse(state) && belief.pInside > DOUBTFUL) return faultOf("gauge-too-coarse", belief);
  if (stepTooCoarse(state)) return faultOf("step-too-coarse", belief);
  const again: Action = { kind: "recheck", reason: "not-sure-yet" };
  const dead = belief.pStuck + (belief.value < aim(question.tolerance) ? belief.pCeilingBelow : 0);
  if (dead + belief.pReversed >= (question.options?.fault ?? ACCEPT)) {
    if (turned && here < 2) return { kind: "recheck", reason: "before-fault" };
    return faultOf(likeliest(belief), belief);
  }
  const moves = events.filter((e) => e.kind === "move").length;
  const best = moves < MOST_MOVES ? bestMove(state) : null;
  const byReading = here < MOST_HERE ? chanceByReading(state, accept) : 0;
  // Each is tried until it works: a reading costs less, and a move needs one too.
  const costOfReading = byReading > 0.02 ? READING / byReading : Infinity;
  if (!best) {
    if (byReading > 0.02 && belief.pInside > 1 - accept) return again;
    if (turned && here < 2) return { kind: "recheck", reason: "before-fault" };
    if (dead + belief.pReversed > 0.5) return faultOf(likeliest(belief), belief);
    return faultOf(endOf(state), belief);
  }
  const costOfMove = 1 / max(best.chance, 1e-9);
  if (costOfReading < costOfMove) return again;
  if (toAndFro(state, best.amount)) return faultOf(tooCoarse(state), belief);
  if (belief.pStuck + belief.pReversed > 0.3 && turned && here < 2) return { kind: "recheck", reason: "before-fault" };
  if (!turned) {
    // A screw in the open is turned by a coarse gauge where it is surely off; what may be right already is read better first.
    if (finer && (opens || belief.pInside > DOUBTFUL)) return { kind: "recheck", reason: "finer-first" };
    if (opens && readsAlike(question) < 2) return again;
  }
  return { kind: "move", amount: best.amount, expected: best.expected };
}

const readsHere = ({ events }: AdjustQuestion) => events.length - 1 - events.findLastIndex((e) => e.kind === "move");

/** One of the readings here may be old or a slip, and it is not sure enough to set it aside. */
function disagreeHere({ question, belief }: State): boolean {
  const first = question.events.filter((e) => e.kind === "reading").length - readsHere(question);
  return belief.doubted.some((d) => d.reading >= first && !d.surely);
}

/** Readings here with the instrument last read: one by a coarse one is no second to one by a fine one. */
function readsAlike({ events }: AdjustQuestion): number {
  const last = events.at(-1);
  const here = events.slice(events.findLastIndex((e) => e.kind === "move") + 1);
  return here.filter((e) => e.kind === "reading" && last?.kind === "reading" && e.instrument === last.instrument)
    .length;
}

const likeliest = (b: Belief): FaultKind =>
  b.pReversed >= b.pStuck && b.pReversed >= b.pCeilingBelow
    ? "reversed"
    : b.pStuck >= b.pCeilingBelow
      ? "stuck"
      : "ceiling";

function faultOf(fault: FaultKind, b: Belief): Action {
  const all: Cause[] = [
    { kind: "stuck", probability: b.pStuck },
    { kind: "ceiling", probability: b.pCeilingBelow },
    { kind: "reversed", probability: b.pReversed },
  ];
  const causes = all.filter((c) => c.probability > 0.005).sort((x, y) => y.probability - x.probability);
  return {
    kind: "fault",
    fault,
    causes: causes.some((c) => c.kind === fault) ? causes : [{ kind: fault, probability: 1 }, ...causes],
  };
}

/**
 * What the best of the instruments read here shares with itself is, as U, as wide as half the tolerance: no number of readings shows anything in
 * spec. How much it is off may be known by now from what another showed beside it.
 */
function isCoarse({ question: { tolerance, events }, belief: { biases } }: State): boolean {
  const { lower, upper } = tolerance;
  if (lower === undefined || upper === undefined) return false;
  const here = instrumentsOf(events.slice(events.findLastIndex((e) => e.kind === "move") + 1));
  const own = min(...here.map((name) => biases.get(name)?.sd ?? 0));
  // Worked out from weighted ways: no exact number.
  return own > 0 && 2 * own >= 0.99 * ((upper - lower) / 2);
}

/** No move may be told: there is none, its two sides were seen, or there is something to look at. */
function endOf(state: State): FaultKind {
  const { question, belief } = state;
  const way = towards(question.tolerance, belief.value) * question.knob.direction;
  const ways = candidates(state).filter((amount) => sign(amount) === way);
  if (ways.length === 0) return "end-of-travel";
  const nearest = ways.reduce((a, b) => (abs(b) < abs(a) ? b : a));
  return toAndFro(state, nearest) ? tooCoarse(state) : "look-first";
}

/** Where the knob stood, from one move to the next, and what was read there; the first place is 0. */
function staysIn(events: AdjustQuestion["events"]): { at: number; values: number[] }[] {
  const stays = [{ at: 0, values: [] as number[] }];
  for (const e of events) {
    const stay = stays.at(-1)!;
    if (e.kind === "move") stays.push({ at: stay.at + e.amount, values: [] });
    else stay.values.push(e.value);
  }
  return stays;
}

/** Both neighbours of the tolerance have been stood on, and one step is wider than the tolerance. */
function stepTooCoarse({ question: { tolerance, knob, events }, belief: { response } }: State): boolean {
  const { lower, upper } = tolerance;
  if (lower === undefined || upper === undefined) return false;
  if (response.moves < 2 || (response.mean - 2 * response.sd) * knob.step < upper - lower) return false;
  const seen = staysIn(events).flatMap(({ at, values }) => values.map((value) => ({ at, value })));
  return seen.some((a) => a.value < lower && seen.some((b) => b.value > upper && abs(a.at - b.at) < 1.5 * knob.step));
}

/** Stays at one place, each read, before going back to it is no advice any more: a third one would teach nothing that two had not. */
const MOST_STAYS = 2;

/** Back to where it was read already, from where it was read already, and neither could be accepted. @param amount of the move that would be advised */
function toAndFro({ question: { events, knob } }: State, amount: number): boolean {
  const stays = staysIn(events);
  const { at } = stays.at(-1)!;
  const read = (place: number) => stays.filter((s) => s.values.length > 0 && abs(s.at - place) < knob.step / 2).length;
  return read(at) >= MOST_STAYS && read(at + amount) >= MOST_STAYS;
}

/** Where a step fits into the tolerance, a finer instrument would tell which one does. */
function tooCoarse({ question: { knob, tolerance }, belief: { response } }: State): FaultKind {
  const { lower, upper } = tolerance;
  const fits = lower === undefined || upper === undefined || response.mean * knob.step < upper - lower;
  return fits ? "gauge-too-coarse" : "step-too-coarse";
}

interface Moments {
  readonly mean: number;
  readonly variance: number;
  readonly mass: number;
}

function momentsOf(
  particles: readonly Particle[],
  by: (p: Particle) => number,
  more: number,
  which: (p: Particle) => boolean,
): Moments {
  let [mass, sum, squares] = [0, 0, 0];
  for (const p of particles) {
    if (!which(p)) continue;
    const set = p.mean[0]! + by(p);
    const m = min(set, p.ceiling);
    const v = set > p.ceiling ? 0 : p.cov[0]! + more;
    mass += p.weight;
    sum += p.weight * m;
    squares += p.weight * (m * m + v);
  }
  if (mass <= 0) return { mean: 0, variance: 1, mass: 0 };
  const mean = sum / mass;
  return { mean, variance: max(squares / mass - mean * mean, 1e-12), mass };
}

const sound = (p: Particle) => !p.slip;

function toldOf({ knob, tolerance, events }: AdjustQuestion, particles: readonly Particle[]): Belief {
  const share = (of: (p: Particle) => boolean) => particles.reduce((sum, p) => sum + (of(p) ? p.weight : 0), 0);
  const is = (mode: Mode) => (p: Particle) => p.mode === mode;
  const all = momentsOf(
    particles,
    () => 0,
    0,
    () => true,
  );
  const trusted = momentsOf(particles, () => 0, 0, sound);
  const lower = tolerance.lower ?? -Infinity;
  let [mass, sum, squares] = [0, 0, 0];
  for (const p of particles)
    if (p.mode === "works") {
      mass += p.weight;
      sum += p.weight * abs(p.response);
      squares += p.weight * p.response ** 2;
    }
  const mean = mass > 0 ? sum / mass : knob.response.mean;
  return {
    value: trusted.mass > 0.5 ? trusted.mean : all.mean,
    sd: sqrt(trusted.mass > 0.5 ? trusted.variance : all.variance),
    pInside: particles.reduce((total, p) => total + p.weight * insideOf(p, tolerance), 0),
    response: {
      mean,
      sd: mass > 0 ? sqrt(max(0, squares / mass - mean * mean)) : knob.response.sd,
      moves: events.filter((e, i) => e.kind === "move" && events.slice(i).some((l) => l.kind === "reading")).length,
    },
    pStuck: share(is("stuck")),
    pCeilingBelow: share((p) => p.mode === "ceiling" && p.ceiling < lower),
    pReversed: share(is("reversed")),
    pStale: share((p) => p.old),
    pSlip: share((p) => p.slip),
    biases: new Map(instrumentsOf(events).map((name, i) => [name, biasOf(particles, i + 1)])),
    doubted: doubtedOf(share, events),
  };
}

/** How much an instrument shows too much. @param k which, from 1 */
function biasOf(particles: readonly Particle[], k: number): { mean: number; sd: number } {
  let [sum, squares] = [0, 0];
  for (const { mean, cov, weight } of particles) {
    const m = mean[k]!;
    sum += weight * m;
    squares += weight * (m * m + max(0, cov[k * mean.length + k]!));
  }
  return { mean: sum, sd: sqrt(max(0, squares - sum * sum)) };
}

/** So sure before a reading is set aside. Our choice: surer than what is accepted would leave slips in half the means they spoil. */
const SURELY_NOT = 0.9;
/** Likelier than not to be old or a slip, another is read beside it before it is accepted; and then, if it still is, it is set aside. */
const LIKELY_NOT = 0.5;

/** Readings that later ones have shown to be old or slips. The last one is what is read again instead. */
function doubtedOf(share: (of: (p: Particle) => boolean) => number, events: AdjustQuestion["events"]): Doubted[] {
  const stays = staysIn(events).map((s) => s.values.length);
  const alongside = stays.flatMap((count) => Array.from({ length: count }, () => count));
  return alongside.slice(0, -1).flatMap((count, reading) => {
    const old = share((p) => p.fates[reading] === FATE.old);
    const slip = share((p) => p.fates[reading] === FATE.slip);
    if (old + slip < LIKELY_NOT) return [];
    const surely = old + slip >= (count > 2 ? LIKELY_NOT : SURELY_NOT);
    return [{ reading, as: old >= slip ? ("old" as const) : ("slip" as const), surely }];
  });
}

function expectedAfter({ question: { knob, tolerance }, particles }: State, amount: number): Expected {
  const more = amount === 0 ? 0 : (knob.scatter ?? 0) ** 2;
  const by = (p: Particle) => shiftOf(p, amount);
  const answers = (p: Particle) => sound(p) && p.mode === "works";
  const works = momentsOf(particles, by, more, answers);
  const { mean, variance } = works.mass > 0.02 ? works : momentsOf(particles, by, more, sound);
  const pInside = particles.reduce(
    (sum, p) => sum + p.weight * insideOf(p, tolerance, by(p), p.mode === "stuck" ? 0 : more),
    0,
  );
  return { value: mean, sd: sqrt(variance), pInside };
}

/** What was expected of the moves since the last reading, as it was said before them: it still is. */
function expectedOfMoves(question: AdjustQuestion): Expected {
  const { knob, tolerance, events } = question;
  const read = events.findLastIndex((e) => e.kind === "reading") + 1;
  const amount = events.slice(read).reduce((sum, e) => sum + (e.kind === "move" ? e.amount : 0), 0);
  const before = { ...question, events: events.slice(0, read) };
  const particles = believe(knob, tolerance, before.events)!;
  return expectedAfter({ question: before, particles, belief: toldOf(before, particles) }, amount);
}

function candidates({ question: { knob, tolerance, events }, belief }: State): number[] {
  let at = 0;
  const stood = [0];
  for (const e of events) if (e.kind === "move") stood.push((at += e.amount));
  const { width = Infinity, travel, largestMove = Infinity } = knob;
  const low = max(
    max(travel?.lowest ?? -Infinity, max(...stood) - width) - at,
    knob.direction > 0 ? -2 * largestMove : -largestMove,
  );
  const high = min(
    min(travel?.highest ?? Infinity, min(...stood) + width) - at,
    knob.direction > 0 ? largestMove : 2 * largestMove,
  );
  const steps = new Set<number>();
  for (let i = -REACH; i <= REACH; i++) if (i !== 0) steps.add(i);
  const away = ((aim(tolerance) - belief.value) * knob.direction) / (belief.response.mean * knob.step);
  if (abs(away) > REACH / 2) for (let share = 0.4; share < 2.5; share *= 1.02) steps.add(Math.round(share * away));
  const even = 1e-9 * knob.step;
  return [...steps].map((i) => i * knob.step).filter((a) => a !== 0 && a >= low - even && a <= high + even);
}

/** The move that most likely ends inside, of all that may be told. Null where there is none. */
function bestMove(state: State): { amount: number; chance: number; expected: Expected } | null {
  const { question, particles, belief } = state;
  const { knob, tolerance } = question;
  const guarded = { knob, tolerance, belief, strongest: strongestOf(particles, knob) };
  const aimedAt = aimed(tolerance);
  const more = (knob.scatter ?? 0) ** 2;
  const few = fewOf(particles);
  const scored = candidates(state)
    .filter((amount) => heads(guarded, amount))
    .map((amount) => {
      let sum = 0;
      for (const p of few) sum += insideOf(p, aimedAt, shiftOf(p, amount), p.mode === "stuck" ? 0 : more);
      return { amount, chance: sum / few.length };
    });
  if (scored.length === 0) return null;
  const best = max(...scored.map((c) => c.chance));
  // Past one limit alone every further move is as good as the last: then the smallest that promises nearly as much.
  const oneSided = aimedAt.lower === undefined || aimedAt.upper === undefined;
  const first = scored
    .filter((c) => c.chance >= (oneSided ? NEARLY * best : best - 1e-9))
    .reduce((a, b) => (abs(b.amount) < abs(a.amount) ? b : a));
  const expected = expectedAfter(state, first.amount);
  return mayBeTold(guarded, first.amount, expected) ? { ...first, expected } : null;
}

/** Of one limit and a target, the other side as far from it: what is aimed at is the target. */
function aimed({ lower, target, upper }: Tolerance): Tolerance {
  if (target === undefined || (lower !== undefined && upper !== undefined))
    return { lower, target, upper } as Tolerance;
  return lower !== undefined
    ? { lower, target, upper: 2 * target - lower }
    : { lower: 2 * target - upper!, target, upper: upper! };
}

/** The size of response that only one knob in a hundred like this passes. */
function strongestOf(particles: readonly Particle[], knob: Knob): number {
  const all = particles
    .filter((p) => p.mode === "works" || p.mode === "ceiling")
    .map((p) => ({ r: abs(p.response), w: p.weight }));
  all.sort((a, b) => a.r - b.r);
  const mass = all.reduce((sum, { w }) => sum + w, 0);
  let under = 0;
  for (const { r, w } of all) if ((under += w) >= SAFE_SHARE * mass) return r;
  return all.at(-1)?.r ?? knob.response.mean;
}

/** Probability that one more reading like the last brings the probability inside up to acceptance. */
function chanceByReading({ question: { tolerance, events }, particles }: State, accept: number): number {
  const last = events.at(-1) as ReadingEvent;
  const { mean, variance } = momentsOf(particles, () => 0, 0, sound);
  // What all its readings share no further one takes away.
  const shared = min((last.uCommon ?? 0) ** 2, variance * 0.999);
  const free = variance - shared;
  const after = (free * last.u ** 2) / (free + last.u ** 2);
  const { lower = -Infinity, upper = Infinity } = tolerance;
  const reach = phiInverse(accept) * hypot(sqrt(after), sqrt(shared));
  const [low, high] = [lower + reach, upper - reach];
  if (!(high > low)) return 0;
  const sd = sqrt(max(free - after, 1e-12));
  return phi((high - mean) / sd) - phi((low - mean) / sd);
}
