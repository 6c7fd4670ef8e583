import { randomLcg, randomNormal } from "d3-random";
import { type AdjustEvent, type AdjustQuestion, type Advice, type Knob } from "../../../core/adjust";
import { nextAction } from "../../../core/belief";
import { KINDS } from "../../../core/kind";
import type { Tolerance } from "../../../core/metrology";
import { USUAL_OPV, opvKnob } from "../../../core/pressure";
import { offsetKnob } from "../../../core/temperature";
import { type ValveTwin, runValve } from "../../../core/twin";
import { USUAL_METER, pulseKnob } from "../../../core/volume";

/**
 * Valves that nobody has seen, sound and sick. Populations by the figures of the trade that the model card starts from (2 bar a turn, give
 * or take 35 %); the share of each fault is its own run, so that none hides behind the sound ones.
 */

export interface Population {
  name: string;
  tolerance: Tolerance;
  draw: (random: () => number, normal: () => number) => Partial<ValveTwin>;
  /** What a right end is. */
  right: "accept" | "stuck" | "ceiling" | "reversed";
  over?: Partial<Knob>;
  /** Standard uncertainty told to the engine, where it is not that of the twin; and what all readings share. */
  told?: number;
  uCommon?: number;
  /** Read first with the machine’s own gauge, with the fine one once that cannot decide: what each shares with itself. */
  ownFirst?: number;
}

const TWO_SIDED = { lower: 8.5, target: 9, upper: 9.5 };
const off = (random: () => number) => 9 + (random() < 0.5 ? -1 : 1) * (0.6 + 2.4 * random());

export const POPULATIONS: readonly Population[] = [
  { name: "sound", tolerance: TWO_SIDED, right: "accept", draw: () => ({}) },
  {
    name: "sound, a third of first readings stale",
    tolerance: TWO_SIDED,
    right: "accept",
    draw: () => ({ stale: 0.33 }),
    over: { staleProbability: 0.33 },
  },
  { name: "sound, one limit and a target", tolerance: { lower: 8.5, target: 9 }, right: "accept", draw: () => ({}) },
  {
    name: "sound, as wide as its gauge can tell",
    tolerance: { lower: 8.7, target: 9, upper: 9.3 },
    right: "accept",
    draw: () => ({}),
  },
  { name: "stuck", tolerance: TWO_SIDED, right: "stuck", draw: () => ({ response: 0 }) },
  {
    name: "stuck at the limit",
    tolerance: TWO_SIDED,
    right: "stuck",
    draw: (random) => ({ response: 0, setting: 8.35 + 0.2 * random() }),
  },
  {
    name: "worn pump",
    tolerance: TWO_SIDED,
    right: "ceiling",
    draw: (random) => ({ ceiling: 6.5 + 1.8 * random(), setting: 7 + 3 * random() }),
  },
  {
    name: "the wrong way round",
    tolerance: TWO_SIDED,
    right: "reversed",
    draw: (_, normal) => ({ response: -Math.max(0.4, 2 + 0.7 * normal()) }),
  },
];

/** Other knobs, by the figures that each starts from; and gauges that tell less, or are known less well, than they should be. */
export const OTHERS: readonly Population[] = [
  {
    name: "offset, a third of first readings stale",
    tolerance: { lower: -1, target: 0, upper: 1 },
    right: "accept",
    over: { ...offsetKnob({ step: 1, raises: true }), backlash: 0 },
    draw: (random, normal) => ({
      response: Math.max(0.5, 1 + 0.1 * normal()),
      setting: (random() < 0.5 ? -1 : 1) * (1.3 + 3 * random()),
      noise: 0.3,
      stale: 0.33,
      backlash: 0,
    }),
  },
  {
    name: "pulses",
    tolerance: { lower: 34, target: 36, upper: 38 },
    right: "accept",
    over: { ...pulseKnob(USUAL_METER), largestMove: 400, safe: Infinity, backlash: 0 },
    draw: (random, normal) => ({
      response: 0.5 * Math.exp(0.24 * normal()),
      setting: 36 + (random() < 0.5 ? -1 : 1) * (3 + 9 * random()),
      noise: 1.2,
      stale: 0.01,
      backlash: 0,
    }),
  },
  {
    name: "valve, the gauge shares 0.2 bar with itself",
    tolerance: TWO_SIDED,
    right: "accept",
    uCommon: 0.2,
    draw: () => ({}),
  },
  {
    name: "valve, scatter told as half of what it is",
    tolerance: TWO_SIDED,
    right: "accept",
    told: 0.08,
    draw: () => ({ noise: 0.16 }),
  },
];

const LEARNT = { response: { mean: 2, sd: 0.2 } };
const OFFSET = { ...offsetKnob({ step: 1, raises: true }), backlash: 0 };
const offset = (times: number) => (random: () => number, normal: () => number) => ({
  response: times * Math.max(0.5, 1 + 0.1 * normal()),
  setting: (random() < 0.5 ? -1 : 1) * (1.3 + 3 * random()),
  ...{ noise: 0.3, stale: 0.33, backlash: 0 },
});

/** Outside what is stated: a response that was learnt on another machine, more noise than is told, the machine’s own gauge before a fine one. */
export const OUTSIDE: readonly Population[] = [
  ...([1, 0.5, 2] as const).map((times): Population => ({
    name: `valve, learnt 2 ± 0.2, answers ${times} ×`,
    tolerance: TWO_SIDED,
    right: "accept",
    over: LEARNT,
    draw: (_, normal) => ({ response: times * (2 + 0.2 * normal()) }),
  })),
  ...([0.5, 2] as const).map((times): Population => ({
    name: `offset, answers ${times} × what is said`,
    tolerance: { lower: -1, target: 0, upper: 1 },
    right: "accept",
    over: OFFSET,
    draw: offset(times),
  })),
  {
    name: "valve, twice the noise that is told",
    tolerance: TWO_SIDED,
    right: "accept",
    told: 0.15,
    draw: () => ({ noise: 0.3 }),
  },
  {
    name: "the own gauge first, in and out of spec",
    tolerance: TWO_SIDED,
    right: "accept",
    ownFirst: 0.25,
    draw: (random) => ({ setting: 9 + 4 * (random() - 0.5), noise: 0.1 }),
  },
];

export interface Tally {
  name: string;
  n: number;
  moves: number;
  readings: number;
  right: number;
  /** Accepted while outside. */
  falseAccepts: number;
  accepts: number;
  otherFault: number;
  endless: number;
  /** Turned though it stood in spec; left further off by a move than it was, by 0.6 bar or more. */
  needless: number;
  worse: number;
  /** What was stated at each acceptance, and whether it was so. */
  stated: [number, boolean][];
}

/** @param advise the engine that is asked */
export function runValves(
  of: Population,
  n: number,
  seed: number,
  advise: (question: AdjustQuestion) => Advice = nextAction,
): Tally {
  const random = randomLcg(seed);
  const normal = randomNormal.source(random)(0, 1);
  const knob = { ...opvKnob(USUAL_OPV, KINDS.K7), ...of.over };
  const tally: Tally = {
    name: of.name,
    n,
    moves: 0,
    readings: 0,
    right: 0,
    falseAccepts: 0,
    accepts: 0,
    otherFault: 0,
    endless: 0,
    needless: 0,
    worse: 0,
    stated: [],
  };
  const { lower = -Infinity, upper = Infinity } = of.tolerance;
  for (let i = 0; i < n; i++) {
    const twin: ValveTwin = {
      response: Math.max(0.4, 2 + 0.7 * normal()),
      backlash: 0.1 * random(),
      ceiling: 99,
      setting: off(random),
      noise: 0.15,
      stale: 0.01,
      ...of.draw(random, normal),
    };
    const valve = runValve(twin, random);
    const events: AdjustEvent[] = [];
    // Of each instrument: what its readings share.
    const gauges = [of.ownFirst ?? of.uCommon ?? 0, 0.05].map((u) => ({ u, bias: u * normal() }));
    let gauge = 0;
    const read = () => {
      const { u, bias } = gauges[gauge]!;
      events.push({
        kind: "reading",
        value: valve.read() + bias,
        u: of.told ?? twin.noise,
        ...(u > 0 ? { uCommon: u, instrument: String(gauge) } : {}),
      });
      tally.readings++;
    };
    const outBy = () => Math.max(0, lower - valve.pressure(), valve.pressure() - upper);
    read();
    for (let k = 0; ; k++) {
      const coarse = of.ownFirst !== undefined && gauge === 0;
      const { action, belief } = advise({ knob, tolerance: of.tolerance, events, finer: coarse });
      // What a person does who is told that this gauge cannot decide: the fine one lies in the kit.
      const finer =
        (action.kind === "fault" && action.fault === "gauge-too-coarse") ||
        (action.kind === "recheck" && action.reason === "finer-first");
      if (coarse && finer) {
        gauge = 1;
        read();
        continue;
      }
      if (action.kind === "accept") {
        const inside = valve.pressure() >= lower && valve.pressure() <= upper;
        tally.accepts++;
        tally.stated.push([belief!.pInside, inside]);
        if (!inside) tally.falseAccepts++;
        else if (of.right === "accept") tally.right++;
        break;
      }
      if (action.kind === "fault") {
        if (action.fault === of.right) tally.right++;
        else tally.otherFault++;
        break;
      }
      if (k > 40) {
        tally.endless++;
        break;
      }
      if (action.kind === "move") {
        const before = outBy();
        if (before === 0) tally.needless++;
        valve.turn(action.amount);
        if (outBy() > before + 0.6) tally.worse++;
        events.push({ kind: "move", amount: action.amount });
        tally.moves++;
      }
      read();
    }
  }
  return tally;
}
