import { KINDS, type KindId, usualCard } from "../kind";
import type { LoopId } from "../knobs";
import type { KitInstrument } from "../metrology";
import { USUAL_OPV } from "../pressure";
import { USUAL_SCHOOLS } from "../school";
import { type Preset, presetScopes } from "../sheet";
import type { Pull } from "../shot";
import { STARTING_CARDS } from "../spec";
import {
  type Job,
  type KnobStanding,
  type Move,
  type Reading,
  type ReadingDetail,
  type Repair,
  type ShotRecord,
  type Standing,
  particularsOf,
} from ".";

/** Jobs for tests: a machine of a kind, an empty sheet, and lines of a log. */

const AT = new Date("2026-05-04T09:00:00Z");

export function aJob(id: KindId, preset: Preset, more: Partial<Job> = {}): Job {
  const gauge = { place: "none" as const, toGroup: 0, toGroupU: 0 };
  const described = { kind: id, card: {}, opv: USUAL_OPV, gauge, altitude: 0 };
  return {
    id: "a-job",
    revision: 1,
    state: "open",
    scopes: presetScopes(preset, KINDS[id], usualCard(KINDS[id])),
    particulars: particularsOf(described),
    complaint: "",
    startedAt: AT,
    startedBy: "Ilka",
    schools: USUAL_SCHOOLS,
    level: "machine-warm",
    rule: "simple",
    zone: "UTC",
    learnt: {},
    wanted: {},
    carried: [],
    spec: { name: "Trade usual", version: 1, lines: STARTING_CARDS.trade.lines },
    machine: {
      id: "a-machine",
      serial: "A-1",
      maker: "Maker",
      model: "Model",
      modelId: "a-model",
      site: "Quay",
      town: "Saltby",
      owner: "Harbour Office",
      modifications: "",
      coffee: "",
      shotsPerDay: null,
      grinder: "",
      described,
      instruments: [],
    },
    notes: [],
    photos: [],
    ticks: [],
    entries: [],
    timers: [],
    readings: [],
    moves: [],
    repairs: [],
    findings: [],
    shots: [],
    links: [],
    signature: null,
    ...more,
  };
}

export const aGauge = (name: string): KitInstrument => ({
  id: name,
  name,
  quantity: "pressure",
  place: "group",
  lowest: 0,
  highest: 16,
  resolution: 0.1,
  error: { form: "certificate", U: 0.05, k: 2 },
  repeatability: 0.05,
  calibratedOn: "2026-01-10",
  dueOn: "2027-01-10",
});

const line = (loop: LoopId, sequence: number) => ({
  id: `line ${sequence}`,
  by: "Ilka",
  at: new Date(AT.getTime() + 60_000 * sequence),
  loop,
  sequence,
  supersedes: null,
  reason: "",
});

export const aReading = (
  sequence: number,
  value: number,
  detail: ReadingDetail = {},
  more: Partial<Reading> = {},
): Reading => ({
  ...line("opv", sequence),
  instrument: aGauge("Gauge A"),
  place: "group",
  toGroup: 0,
  toGroupU: 0,
  typed: String(value),
  unit: "bar",
  indicated: value,
  value,
  u: 0.07,
  uCommon: 0.03,
  instrumentOutOfDate: false,
  early: false,
  detail,
  ...more,
});

export const aMove = (sequence: number, amount: number): Move => ({ ...line("opv", sequence), amount });

export const aRepair = (sequence: number, text: string): Repair => ({ ...line("opv", sequence), text });

/**
 * The knob of this id on the job.
 *
 * @throws RangeError when the kind has no such knob
 */
export function knobOf(standing: Standing, id: LoopId): KnobStanding {
  const found = standing.loops.find((l) => l.loop.id === id);
  if (!found) throw new RangeError(`This sheet has no “${id}”.`);
  return found;
}

/** Near the usual recipe: 18 g to 36 g in 25 s. */
export const aPull = (more: Partial<Pull> = {}): Pull => ({
  group: 1,
  by: "manual",
  coffee: { name: "House" },
  grinder: { name: "Mill", finer: -1, step: 1 },
  setting: 10,
  dose: 18,
  basket: "double",
  seconds: 25,
  from: "pump",
  yield: 36,
  choked: false,
  ...more,
});

export const aShot = (sequence: number, pull: Pull): ShotRecord => ({
  id: `shot ${sequence}`,
  by: "Ilka",
  at: new Date(AT.getTime() + 60_000 * sequence),
  sequence,
  supersedes: null,
  reason: "",
  pull,
  typed: {},
  uDose: 0.1,
  uYield: 0.1,
  early: false,
  scale: null,
  scaleOutOfDate: false,
  amends: false,
});
