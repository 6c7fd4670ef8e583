import { type Tolerance, aim, normalDensity, phi } from "../metrology";
import type { AdjustEvent, Knob, MoveEvent, ReadingEvent } from "./types";

/**
 * One way the machine may be, with its weight. Given a hypothesis the present value is normal (mean m, variance v), so
 * moves and readings are a Kalman step each; what is not linear (ceiling, stale reading, slip) is a split into branches.
 * The maths and its sources are in docs/core.md.
 */
export interface Hypothesis {
  /** Same for all branches that differ only in which readings were stale or slips. They stand next to each other. */
  readonly id: number;
  readonly mode: "normal" | "stuck" | "ceiling" | "reversed";
  /** Signed response, reading units per knob unit. */
  readonly response: number;
  /** Standard deviation of the response inside this node's cell, so that coarse nodes still cover what lies between. */
  readonly cell: number;
  /** Width of the lost motion, knob units. */
  readonly backlash: number;
  /** Position inside the lost motion, 0 … backlash. */
  readonly slack: number;
  /** Highest reading the pump can hold; Infinity but for mode "ceiling". */
  readonly ceiling: number;
  /** Mean and variance of the value the setting stands for (before the ceiling cuts it). */
  readonly m: number;
  readonly v: number;
  /** Mean shift of the last move: what a stale reading lacks. */
  readonly shift: number;
  /** Value before the last move, ceiling applied: what a stale reading shows in ceiling mode. */
  readonly before: number;
  /** 0 before any reading since the last move; then whether that reading was stale or a slip in this branch. */
  readonly sinceMove: number;
  readonly lastStale: boolean;
  readonly lastSlip: boolean;
  weight: number;
}

type Draft = { -readonly [Key in keyof Hypothesis]: Hypothesis[Key] };

// Looked up once: these run thousands of times a call.
const { abs, exp, max, min, sign, sqrt, PI } = Math;

/** A reading may be a slip: anything over a range of this many half tolerances. From memory: a misread or mistyped figure in some 200. */
const SLIP_PROBABILITY = 0.005;
const SLIP_RANGE = 16;
/** Branches lighter than this, against all, are dropped: they could not change a decision. */
const NEGLIGIBLE = 1e-6;
/** Doubts about single readings that are lighter than this, against the heaviest branch of the same hypothesis, have faded. */
const FADED = 1e-3;
/** And so many branches of one at most: for the time it takes alone. */
const BRANCHES = 12;
/** A second reading after a move is stale far less often than the first. From memory. */
const STILL_STALE = 0.05;

/** Beliefs after all events, weights summing to 1. The first event that counts is the first reading. */
export function believe(knob: Knob, tolerance: Tolerance, events: readonly AdjustEvent[]): Hypothesis[] {
  const first = events.find((e): e is ReadingEvent => e.kind === "reading");
  if (!first) return [];
  let all = priors(knob, tolerance, events, first);
  const slip = SLIP_PROBABILITY / (SLIP_RANGE * halfOf(tolerance, first));
  for (const event of inOneOrder(events))
    all = event.kind === "move" ? afterMove(all, knob, event) : afterReading(all, knob, event, slip);
  return all;
}

/**
 * Readings of one place that stand equal, in one order whatever came first: where the mathematics is approximate, the answer is still the
 * same. The first after a move may be stale, and the newest of all is the one that is judged: they keep their places.
 */
function inOneOrder(events: readonly AdjustEvent[]): AdjustEvent[] {
  const ordered: AdjustEvent[] = [];
  let run: ReadingEvent[] = [];
  const close = (newest: boolean) => {
    const first = ordered.length > 0 ? run.slice(0, 1) : [];
    const last = newest && run.length > first.length ? run.slice(-1) : [];
    const equal = run.slice(first.length, run.length - last.length);
    ordered.push(...first, ...equal.sort((a, b) => a.value - b.value || a.u - b.u), ...last);
    run = [];
  };
  for (const event of events)
    if (event.kind === "reading") run.push(event);
    else {
      close(false);
      ordered.push(event);
    }
  close(true);
  return ordered;
}

/** A knob that answers with less than this share of the usual does not work: that is the stuck one’s to explain. Our choice. */
const LEAST_RESPONSE = 0.15;

/** Quadrature over the response: half lognormal, half normal, cut where it would be no answer, so that neither tail is missed. */
function responseNodes(knob: Knob, count: number): { r: number; w: number; cell: number }[] {
  const { mean, sd } = knob.response;
  const cv = sd / mean;
  const sigma = sqrt(Math.log1p(cv * cv));
  const mu = Math.log(mean) - (sigma * sigma) / 2;
  const low = Math.log(mean * max(LEAST_RESPONSE, min(exp(-4 * sigma), 1 - 3.5 * cv)));
  const high = Math.log(mean * max(exp(4 * sigma), 1 + 4 * cv));
  const nodes = [];
  let total = 0;
  for (let i = 0; i < count; i++) {
    const log = low + ((high - low) * i) / (count - 1);
    const r = exp(log);
    const w = 0.5 * (normalDensity((log - mu) / sigma) / sigma) + 0.5 * ((normalDensity((r - mean) / sd) / sd) * r);
    nodes.push({ r, w, cell: (r * (high - low)) / (count - 1) / sqrt(12) });
    total += w;
  }
  return nodes.map((node) => ({ ...node, w: node.w / total }));
}

/** Widths of lost motion and where in it the knob stands at first. */
function slackNodes(backlash: number): { backlash: number; slack: number; w: number }[] {
  if (backlash <= 0) return [{ backlash: 0, slack: 0, w: 1 }];
  const half = backlash / 2;
  return [
    { backlash: 0, slack: 0, w: 0.3 },
    { backlash: half, slack: 0, w: 0.2 },
    { backlash: half, slack: half, w: 0.2 },
    { backlash, slack: 0, w: 0.15 },
    { backlash, slack: backlash, w: 0.15 },
  ];
}

/** Half the tolerance; of one limit alone, how far off it was found. */
function halfOf(tolerance: Tolerance, first: ReadingEvent): number {
  const { lower, upper } = tolerance;
  return lower !== undefined && upper !== undefined
    ? (upper - lower) / 2
    : abs(first.value - aim(tolerance)) || first.u * 4;
}

function priors(knob: Knob, tolerance: Tolerance, events: readonly AdjustEvent[], first: ReadingEvent): Hypothesis[] {
  const { stuck = 0.05, ceiling = 0, reversed = 0.01 } = knob.faults ?? {};
  const target = aim(tolerance);
  const half = halfOf(tolerance, first);
  // Wide, and the same for every mode, so that no mode wins by a vague prior.
  const spread = max(4 * half, 1.5 * abs(first.value - target), 8 * first.u);
  const all: Hypothesis[] = [];
  const add = (
    mode: Hypothesis["mode"],
    response: number,
    cell: number,
    weight: number,
    { backlash = 0, slack = 0, cap = Infinity, variance = spread * spread } = {},
  ) =>
    all.push({
      id: all.length,
      mode,
      response,
      cell,
      backlash,
      slack,
      ceiling: cap,
      m: target,
      v: variance,
      shift: 0,
      before: target,
      sinceMove: 0,
      lastStale: false,
      lastSlip: false,
      weight,
    });
  add("stuck", 0, 0, stuck);
  const moves = events.some((e) => e.kind === "move");
  const normal = 1 - stuck - ceiling - reversed;
  for (const { r, w, cell } of responseNodes(knob, moves ? 32 : 24))
    for (const s of slackNodes(knob.backlash ?? 0)) add("normal", knob.direction * r, cell, normal * w * s.w, s);
  for (const { r, w, cell } of responseNodes(knob, 12)) add("reversed", -knob.direction * r, cell, reversed * w);
  if (ceiling > 0) {
    const nodes = ceilingNodes(target, spread, first, events);
    // Behind a worn pump stands a valve that somebody once set: near the target, not anywhere.
    const variance = min(spread, max(3 * half, 8 * first.u)) ** 2;
    for (const { r, w, cell } of responseNodes(knob, moves ? 9 : 2))
      for (const c of nodes) add("ceiling", knob.direction * r, cell, ceiling * w * c.w, { cap: c.at, variance });
  }
  return all;
}

/** Ceilings: evenly over the range where one would matter, and finely around every reading seen. */
function ceilingNodes(
  target: number,
  spread: number,
  first: ReadingEvent,
  events: readonly AdjustEvent[],
): { at: number; w: number }[] {
  const low = target - 1.5 * spread;
  // A first reading above the tolerance may itself be all the pump can give, with the valve set higher still.
  const high = max(target + 0.25 * spread, first.value + 2 * first.u);
  const at: number[] = [];
  for (let i = 0; i <= 16; i++) at.push(low + ((high - low) * i) / 16);
  for (const e of events)
    if (e.kind === "reading")
      for (let i = -3; i <= 3; i++) {
        const fine = e.value + i * 0.7 * e.u;
        if (fine > low && fine < high && !at.some((c) => abs(c - fine) < e.u / 2.5)) at.push(fine);
      }
  at.sort((a, b) => a - b);
  return at.map((c, i) => ({ at: c, w: ((at[i + 1] ?? c) - (at[i - 1] ?? c)) / 2 / (high - low) }));
}

function afterMove(all: readonly Hypothesis[], knob: Knob, move: MoveEvent): Hypothesis[] {
  const scatter = (knob.scatter ?? 0) ** 2;
  return all.map((h) => {
    const free = move.amount > 0 ? h.backlash - h.slack : h.slack;
    const turned = max(0, abs(move.amount) - free) * sign(move.amount);
    const shift = h.response * turned;
    const unread = h.sinceMove === 0;
    const next = branch(
      h,
      h.m + shift,
      h.v + (turned === 0 ? 0 : scatter + (h.cell * turned) ** 2),
      h.weight,
      false,
      false,
    );
    next.slack = min(h.backlash, max(0, h.slack + move.amount));
    // Two moves without a reading between them count as one for a stale reading.
    next.shift = unread ? h.shift + shift : shift;
    next.before = unread ? h.before : min(h.m, h.ceiling);
    next.sinceMove = 0;
    return next;
  });
}

/**
 * The readings of one place, one after the other: fresh, stale, or a slip.
 *
 * @param slip probability density of a slip, anywhere in its range, 1 / reading unit
 */
function afterReading(all: readonly Hypothesis[], knob: Knob, reading: ReadingEvent, slip: number): Hypothesis[] {
  const { value: y, u } = reading;
  const firstStale = (knob.staleProbability ?? 0.01) * (reading.settled ? STILL_STALE : 1);
  const next: Hypothesis[] = [];
  for (const h of all) {
    const stale = h.shift === 0 ? 0 : h.sinceMove === 0 ? firstStale : h.lastStale ? STILL_STALE : 0;
    const fresh = h.weight * (1 - SLIP_PROBABILITY) * (1 - stale);
    const lost = h.weight * (1 - SLIP_PROBABILITY) * stale;
    if (h.mode === "ceiling") ceilingBranches(next, h, reading, fresh);
    else observed(next, h, y, u, fresh, false);
    if (lost > 0) {
      if (h.mode === "ceiling") next.push(branch(h, h.m, h.v, lost * density(y, h.before, h.v + u * u), true, false));
      else observed(next, h, y + h.shift, u, lost, true);
    }
    next.push(branch(h, h.m, h.v, h.weight * slip, false, true));
  }
  return normalised(next);
}

/** The same hypothesis one event on. Written out in full: this runs thousands of times a call, and a spread is slow. */
function branch(h: Hypothesis, m: number, v: number, weight: number, stale: boolean, slip: boolean): Draft {
  return {
    id: h.id,
    mode: h.mode,
    response: h.response,
    cell: h.cell,
    backlash: h.backlash,
    slack: h.slack,
    ceiling: h.ceiling,
    m,
    v,
    shift: h.shift,
    before: h.before,
    sinceMove: h.sinceMove + 1,
    lastStale: stale,
    lastSlip: slip,
    weight,
  };
}

function density(x: number, mean: number, variance: number): number {
  const z2 = (x - mean) ** 2 / variance;
  return z2 > 80 ? 0 : exp(-0.5 * z2) / sqrt(2 * PI * variance);
}

/** Kalman update on a direct reading y of the value. */
function observed(into: Hypothesis[], h: Hypothesis, y: number, u: number, chance: number, stale: boolean): void {
  const total = h.v + u * u;
  const weight = chance * density(y, h.m, total);
  if (weight === 0) return;
  const gain = h.v / total;
  into.push(branch(h, h.m + gain * (y - h.m), h.v * (1 - gain), weight, stale, false));
}

/** Under a ceiling: either the setting lies over it and the reading shows the ceiling, or it lies below and shows itself. */
function ceilingBranches(into: Hypothesis[], h: Hypothesis, { value: y, u }: ReadingEvent, chance: number): void {
  const { ceiling: c } = h;
  const atCeiling = chance * density(y, c, u * u);
  if (atCeiling > 0) {
    const over = phi((h.m - c) / sqrt(h.v));
    if (over > 0) into.push(cut(h, h.m, h.v, c, "over", atCeiling * over));
  }
  const total = h.v + u * u;
  const free = chance * density(y, h.m, total);
  if (free === 0) return;
  const gain = h.v / total;
  const m = h.m + gain * (y - h.m);
  const v = h.v * (1 - gain);
  const under = phi((c - m) / sqrt(v));
  if (under > 0) into.push(cut(h, m, v, c, "under", free * under));
}

/** The setting known to lie on one side of the ceiling: mean and variance of a truncated normal. */
function cut(h: Hypothesis, m: number, v: number, c: number, side: "over" | "under", weight: number): Hypothesis {
  const sd = sqrt(v);
  const way = side === "over" ? 1 : -1;
  const alpha = (way * (c - m)) / sd;
  if (alpha < -6) return branch(h, m, v, weight, false, false);
  const tail = phi(-alpha);
  if (tail < 1e-9) return branch(h, c, v * 1e-4, weight, false, false);
  const lambda = normalDensity(alpha) / tail;
  const variance = v * max(1 - lambda * (lambda - alpha), 1e-4);
  return branch(h, m + way * sd * lambda, variance, weight, false, false);
}

function normalised(all: Hypothesis[]): Hypothesis[] {
  const total = all.reduce((sum, h) => sum + h.weight, 0);
  // Every branch is impossible to machine precision: keep them as they were rather than divide by nothing.
  if (!(total > 0)) return all.map((h) => ({ ...h, weight: 1 / all.length }));
  const kept: Hypothesis[] = [];
  let left = 0;
  for (let start = 0, end = 1; start < all.length; start = end++) {
    while (end < all.length && all[end]!.id === all[start]!.id) end++;
    const branches =
      end - start > BRANCHES ? all.slice(start, end).sort((a, b) => b.weight - a.weight) : all.slice(start, end);
    const heaviest = branches.reduce((most, h) => max(most, h.weight), 0);
    for (const h of branches.slice(0, BRANCHES)) {
      if (h.weight <= total * NEGLIGIBLE || h.weight < FADED * heaviest) continue;
      kept.push(h);
      left += h.weight;
    }
  }
  for (const h of kept) h.weight /= left;
  return kept;
}
