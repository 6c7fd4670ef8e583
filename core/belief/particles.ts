import type { AdjustEvent, Knob, MoveEvent, ReadingEvent } from "../adjust/types";
import { type Tolerance, aim, phi, phiInverse } from "../metrology";

/**
 * One belief for a knob: ways that the machine, the hand and the instruments may be, each with its weight.
 *
 * Particles over what is not linear (what is wrong, the response, lost motion, how much the readings scatter, which of them are old or slips);
 * given those, the value and the bias of each instrument are normal, and are followed exactly (a Kalman step each: a Rao–Blackwellised particle
 * filter, Doucet, de Freitas, Murphy & Russell 2000, from memory). Drawn from a low-discrepancy sequence, so that the same events give the same
 * belief. Nothing is ever cut to zero: errors have the tails of t with four degrees of freedom, and each reading may be a slip.
 */

export const MODES = ["works", "stuck", "ceiling", "reversed"] as const;
export type Mode = (typeof MODES)[number];

/** How many ways. Our choice: twice as many change no decision of the bench. */
const PARTICLES = 640;
/** Each mode has so many of them, whatever its prior: the weights put it right. */
const SHARE: Readonly<Record<Mode, number>> = { works: 0.58, stuck: 0.06, ceiling: 0.28, reversed: 0.08 };
/** What was learnt of the response may not be true of this machine: so much of the prior, as wide as this many times in log, is the kind’s. */
const WIDE = { prior: 0.05, drawn: 0.4, sigma: 0.7 };
/** Readings scatter by more or less than is stated: standard deviation in log. Our choice: half or twice as much at two of them. */
const SCATTER_SIGMA = 0.35;
/** A misread or mistyped figure in some 200, from memory; anywhere in so many half tolerances. */
const SLIP = 0.005;
const SLIP_RANGE = 16;
/** A second reading after a move is old far less often than the first. From memory. */
const STILL_OLD = 0.05;
/** A mixture of normals with the tails of t, ν = 4: variances at the middle of each quarter, scaled to a variance of 1. */
const TAILS = [0.35, 0.595, 0.968, 2.087] as const;

const { abs, exp, hypot, log, max, min, sign, sqrt, PI } = Math;

/** Additive recurrence by the powers of the plastic-like number of each dimension (M. Roberts 2018, from memory): even in all dimensions. */
const DIMENSIONS = 7;
const STEP = (() => {
  let g = 1.5;
  for (let i = 0; i < 60; i++) g = (1 + g) ** (1 / (DIMENSIONS + 1));
  return Array.from({ length: DIMENSIONS }, (_, d) => g ** -(d + 1));
})();
const even = (n: number, d: number) => (0.5 + (n + 1) * STEP[d]!) % 1;
/** The same as standard normal. */
const NORMAL: Float64Array[] = [];
function normal(n: number, d: number): number {
  const known = (NORMAL[d] ??= Float64Array.from({ length: PARTICLES }, (_, i) => phiInverse(even(i, d))));
  return known[n]!;
}
/** A number in (0, 1) that looks like chance and is the same every time: which branch a particle takes at an event. */
function chanceOf(n: number, event: number): number {
  let x = Math.imul(n + 1, 0x9e3779b1) ^ Math.imul(event + 1, 0x85ebca6b);
  x = Math.imul(x ^ (x >>> 15), 0x2c1b3c6d);
  x = Math.imul(x ^ (x >>> 12), 0x297a2d39);
  return (((x ^ (x >>> 15)) >>> 0) + 0.5) / 4294967296;
}

/** One way that it may be. */
export interface Particle {
  readonly mode: Mode;
  /** Signed, reading units per knob unit. */
  readonly response: number;
  readonly backlash: number;
  /** Scatter of the readings, times what is stated. */
  readonly scatter: number;
  /** Highest reading that the pump can hold; Infinity but for mode “ceiling”. */
  ceiling: number;
  /** Position inside the lost motion, 0 … backlash. */
  slack: number;
  /** What the setting stands for, before the ceiling cuts it, and the bias of each instrument: means and covariance, row by row. */
  readonly mean: Float64Array;
  readonly cov: Float64Array;
  /** Mean shift since the last reading before the last move: what an old reading lacks. */
  shift: number;
  old: boolean;
  slip: boolean;
  /** What each reading is, in the order given: fresh, old or a slip. */
  readonly fates: Uint8Array;
  logWeight: number;
  weight: number;
}

export const FATE = { fresh: 0, old: 1, slip: 2 } as const;

const instrumentOf = (e: ReadingEvent) => e.instrument ?? `± ${e.uCommon ?? 0}`;

/** Instruments in the order in which they were first read: each has a bias of its own. More than anybody carries share what the last of these has. */
export const instrumentsOf = (events: readonly AdjustEvent[]): string[] =>
  [...new Set(events.flatMap((e) => (e.kind === "reading" ? [instrumentOf(e)] : [])))].slice(0, along.length - 1);

/** Half the tolerance; of one limit alone, how far off it was found. Reading units. */
function halfOf({ lower, upper, ...tolerance }: Tolerance, first: ReadingEvent): number {
  if (lower !== undefined && upper !== undefined) return (upper - lower) / 2;
  return abs(first.value - aim({ lower, upper, ...tolerance } as Tolerance)) || 4 * first.u;
}

/** What is believed after all events; null before the first reading. */
export function believe(knob: Knob, tolerance: Tolerance, events: readonly AdjustEvent[]): readonly Particle[] | null {
  const first = events.findIndex((e) => e.kind === "reading");
  if (first < 0) return null;
  const ordered = inOneOrder(events.slice(first));
  const readings = ordered.filter((e): e is ReadingEvent => e.kind === "reading");
  const place = new Map(events.filter((e) => e.kind === "reading").map((e, i) => [e, i]));
  const instruments = instrumentsOf(events);
  const half = halfOf(tolerance, readings[0]!);
  const slip = SLIP / (SLIP_RANGE * half);
  const all = drawn(knob, tolerance, readings[0]!, { half, size: 1 + instruments.length, readings: readings.length });
  const bias = instruments.map((name) =>
    max(...readings.filter((r) => instrumentOf(r) === name).map((r) => r.uCommon ?? 0)),
  );
  for (const p of all) bias.forEach((u, i) => (p.cov[(i + 1) * p.mean.length + i + 1] = u * u));
  let sinceMove = 0;
  let moved = false;
  ordered.forEach((event, i) => {
    if (event.kind === "move") {
      for (const p of all) turn(p, knob, event, sinceMove === 0);
      [sinceMove, moved] = [0, true];
    } else {
      const stale = !moved ? 0 : (knob.staleProbability ?? 0.01) * (event.settled ? STILL_OLD : 1);
      const instrument = 1 + max(0, instruments.indexOf(instrumentOf(event)));
      for (let n = 0; n < all.length; n++) {
        const p = all[n]!;
        const old = sinceMove === 0 ? stale : p.old ? STILL_OLD : 0;
        read(p, event, { instrument, slip, old, first: i === 0, chance: chanceOf(n, i) });
        p.fates[place.get(event)!] = p.slip ? FATE.slip : p.old ? FATE.old : FATE.fresh;
      }
      sinceMove++;
    }
  });
  const top = all.reduce((most, p) => max(most, p.logWeight), -Infinity);
  const total = all.reduce((sum, p) => sum + (p.weight = exp(p.logWeight - top)), 0);
  for (const p of all) p.weight /= total;
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

/** Ways before anything was read: an even share of each mode, weighed by its prior. */
function drawn(
  knob: Knob,
  tolerance: Tolerance,
  first: ReadingEvent,
  { half, size, readings }: { half: number; size: number; readings: number },
): Particle[] {
  const { stuck = 0.05, ceiling = 0, reversed = 0.01 } = knob.faults ?? {};
  const prior: Record<Mode, number> = { works: 1 - stuck - ceiling - reversed, stuck, ceiling, reversed };
  const { mean, sd } = knob.response;
  const sigma = sqrt(Math.log1p((sd / mean) ** 2));
  const mu = log(mean) - (sigma * sigma) / 2;
  const spread = max(4 * half, 1.5 * abs(first.value - aim(tolerance)), 8 * first.u);
  const all: Particle[] = [];
  for (const mode of MODES) {
    if (prior[mode] <= 0) continue;
    const count = Math.round(SHARE[mode] * PARTICLES);
    for (let i = 0; i < count; i++) {
      const wide = even(i, 0) < WIDE.drawn;
      const s = wide ? max(WIDE.sigma, sigma) : sigma;
      const answers = exp(mu + s * normal(i, 1));
      const p: Particle = {
        mode,
        response: mode === "stuck" ? 0 : answers * knob.direction * (mode === "reversed" ? -1 : 1),
        backlash: mode === "stuck" ? 0 : (knob.backlash ?? 0) * even(i, 2),
        slack: 0,
        scatter: exp(SCATTER_SIGMA * normal(i, 3)),
        ceiling: Infinity,
        mean: new Float64Array(size),
        cov: new Float64Array(size * size),
        shift: 0,
        old: false,
        slip: false,
        fates: new Uint8Array(readings),
        logWeight:
          log(prior[mode] / count) +
          (mode === "stuck" ? 0 : log(wide ? WIDE.prior / WIDE.drawn : (1 - WIDE.prior) / (1 - WIDE.drawn))),
        weight: 0,
      };
      p.slack = p.backlash * even(i, 4);
      if (mode === "ceiling") {
        // Most of them stand at it, so that what was read first is the ceiling and the setting lies over it, near where somebody once set it: that is
        // how a worn pump is noticed. Of the others the ceiling lies somewhere over what was read.
        const [part, tail] = [even(i, 5), hypot(first.u * p.scatter, first.uCommon ?? 0) * normal(i, 6)];
        const over = i % 5 !== 0;
        p.ceiling = first.value + (over ? tail : spread * part);
        p.mean[0] = over ? p.ceiling + part * max(2 * half, aim(tolerance) + 3 * half - p.ceiling) : first.value;
      }
      all.push(p);
    }
  }
  return all;
}

/** Turns a particle’s knob: lost motion first. @param unread whether nothing was read since the last move: the two are one for an old reading */
function turn(p: Particle, knob: Knob, { amount }: MoveEvent, unread: boolean): void {
  const by = shiftOf(p, amount);
  p.mean[0]! += by;
  if (by !== 0) p.cov[0]! += (knob.scatter ?? 0) ** 2;
  p.slack = min(p.backlash, max(0, p.slack + amount));
  p.shift = unread ? p.shift + by : by;
}

/** By how much a move shifts the value of a particle, reading units. @param amount knob units */
export function shiftOf(p: Particle, amount: number): number {
  const free = amount > 0 ? p.backlash - p.slack : p.slack;
  return p.response * max(0, abs(amount) - free) * sign(amount);
}

interface Seen {
  readonly instrument: number;
  /** Density of a slip, 1 / reading unit. */
  readonly slip: number;
  /** Probability that it still shows the value from before the move. */
  readonly old: number;
  readonly first: boolean;
  /** In (0, 1): which branch is taken. */
  readonly chance: number;
}

const options = new Float64Array(2 * TAILS.length + 1);

/** One reading: fresh or old with an error of some size, or a slip. Which, is drawn by how likely each makes what was read. */
function read(p: Particle, { value, u }: ReadingEvent, { instrument: k, slip, old, first, chance }: Seen): void {
  const { mean, cov } = p;
  const size = mean.length;
  const cut = p.mean[0]! > p.ceiling;
  const variance = (u * p.scatter) ** 2;
  const bias = mean[k]!;
  const biasVar = cov[k * size + k]!;
  // Of the first one nothing is known of the value: it is where this reading says, less the bias.
  const own = cut ? biasVar : first ? 0 : cov[0]! + 2 * cov[k]! + biasVar;
  const fresh = value - bias - (cut ? p.ceiling : mean[0]!);
  const before = min(p.mean[0]! - p.shift, p.ceiling);
  const stale = value - bias - (cut ? before : mean[0]! - p.shift);
  let sum = 0;
  for (let t = 0; t < TAILS.length; t++) {
    const v = own + TAILS[t]! * variance;
    const share = (1 - SLIP) / TAILS.length;
    options[2 * t] = first ? share * (1 - old) : share * (1 - old) * density(fresh, v);
    options[2 * t + 1] = old > 0 ? share * old * density(stale, v) : 0;
    sum += options[2 * t]! + options[2 * t + 1]!;
  }
  options[2 * TAILS.length] = first ? SLIP : slip;
  sum += options[2 * TAILS.length]!;
  p.logWeight += log(max(sum, 1e-300));
  let left = chance * sum;
  let pick = 0;
  while (pick < options.length - 1 && (left -= options[pick]!) > 0) pick++;
  p.slip = pick === 2 * TAILS.length;
  p.old = !p.slip && pick % 2 === 1;
  if (p.slip) {
    if (first && !cut) start(p, value, SLIP_VAGUE * u, 0);
    return;
  }
  const noise = TAILS[pick >> 1]! * variance;
  if (first && !cut) return start(p, value, sqrt(noise), k);
  const residual = p.old ? stale : fresh;
  // Over the ceiling only the instrument is learnt of.
  observe(p, residual, noise, cut ? -1 : 0, k);
}

/** As vague as this many u where the first figure was a slip. */
const SLIP_VAGUE = 40;

/** The value as the first reading puts it: known as well as the instrument allows, and tied to its bias. */
function start(p: Particle, value: number, u: number, k: number): void {
  const size = p.mean.length;
  const biasVar = k > 0 ? p.cov[k * size + k]! : 0;
  p.mean[0] = value;
  p.cov[0] = u * u + biasVar;
  if (k > 0) p.cov[k] = p.cov[k * size] = -biasVar;
}

// Written over at each step: this runs some ten thousand times an answer.
const along = new Float64Array(32);

/** Kalman step on value + bias. @param v index of the value, −1 where it is not seen @param k index of the bias */
function observe(p: Particle, residual: number, noise: number, v: number, k: number): void {
  const { mean, cov } = p;
  const size = mean.length;
  for (let i = 0; i < size; i++) along[i] = (v < 0 ? 0 : cov[i * size]!) + cov[i * size + k]!;
  const total = (v < 0 ? 0 : along[0]!) + along[k]! + noise;
  if (!(total > 0)) return;
  for (let i = 0; i < size; i++) {
    const gain = along[i]! / total;
    mean[i]! += gain * residual;
    for (let j = 0; j < size; j++) cov[i * size + j]! -= gain * along[j]!;
  }
}

function density(x: number, variance: number): number {
  return exp((-0.5 * x * x) / variance) / sqrt(2 * PI * variance);
}

/** So many stand for all of them where many places are asked about. Our choice: a percent, give or take. */
const FEW = 256;

/** Particles of equal weight in the place of all: drawn evenly along their weights. */
export function fewOf(particles: readonly Particle[]): Particle[] {
  const few: Particle[] = [];
  let [at, sum] = [0, particles[0]!.weight];
  for (let i = 0; i < FEW; i++) {
    while ((i + 0.5) / FEW > sum && at < particles.length - 1) sum += particles[++at]!.weight;
    few.push(particles[at]!);
  }
  return few;
}

/** Φ in a table, to five digits: asked tens of thousands of times an answer. */
const PHI = Float64Array.from({ length: 1601 }, (_, i) => phi((i - 800) / 100));
function phiOf(z: number): number {
  if (z <= -8) return 0;
  if (z >= 8) return 1;
  const at = (z + 8) * 100;
  const i = Math.floor(at);
  return PHI[i]! + (at - i) * (PHI[i + 1]! - PHI[i]!);
}

/** Probability, 0 to 1, that the value of a particle lies inside after being shifted. @param by reading units @param more variance that the move adds */
export function insideOf(p: Particle, { lower = -Infinity, upper = Infinity }: Tolerance, by = 0, more = 0): number {
  const mean = p.mean[0]! + by;
  if (p.ceiling < lower) return 0;
  const high = p.ceiling <= upper ? Infinity : upper;
  const sd = sqrt(max(p.cov[0]!, 0) + more);
  if (sd < 1e-12) return mean >= lower && mean <= high ? 1 : 0;
  return (high === Infinity ? 1 : phiOf((high - mean) / sd)) - (lower === -Infinity ? 0 : phiOf((lower - mean) / sd));
}
