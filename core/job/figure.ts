import { deviation, group, median, sum, variance } from "d3-array";
import type { MachineKind } from "../kind";
import type { Loop } from "../knobs";
import { AT_THE_GROUP, type GaugePlace, type Instrument, type Measured, coverageFactor, measure } from "../metrology";
import { swing } from "../pressure";
import type { Reading } from "./job";

/** From readings to the one figure that is judged. */

/**
 * How readings scatter where nobody has stated it: what is usual for the quantity, stored unit. A needle behind a vibrating pump is read
 * less surely than one behind a rotary pump. From memory; known to as little as two readings more tell.
 */
const UNSTATED = {
  pressure: { vibratory: 0.15, other: 0.08 },
  temperatureDifference: 0.25,
  temperature: 0.25,
} as const;
const UNSTATED_DOF = 2;

type Work = Pick<Loop, "scatter" | "judged">;

/**
 * The instrument for one kind of work: what is read may scatter by itself from one reading to the next. An instrument whose repeatability
 * is not known is not taken for perfect: the usual stands in, known to few degrees of freedom (GUM 4.2.4, 4.3.2).
 */
export function instrumentFor(
  instrument: Instrument,
  { scatter, judged }: Work,
  pump: MachineKind["pump"],
): Instrument {
  if (instrument.repeatability > 0 || !(judged in UNSTATED))
    return { ...instrument, repeatability: Math.hypot(instrument.repeatability, scatter) };
  const usual =
    judged === "pressure"
      ? UNSTATED.pressure[pump === "vibratory" ? "vibratory" : "other"]
      : UNSTATED[judged as "temperature"];
  return { ...instrument, repeatability: Math.hypot(usual, scatter), repeatabilityDof: UNSTATED_DOF };
}

/**
 * Standard uncertainty of one reading, from what is usual and from what the readings of this log show: by the scatter about the mean of each
 * place, the first after a move left out, since it may be an old one, and of four or more the one furthest off, since it may be a slip.
 *
 * @param usual standard uncertainty before any of them, their unit
 * @param places readings of each place, one after the other, their unit
 */
export function scatterShown(usual: number, places: readonly (readonly number[])[]): number {
  let [squares, dof] = [UNSTATED_DOF * usual ** 2, UNSTATED_DOF];
  for (const [i, place] of places.entries()) {
    const all = i === 0 ? [...place] : place.slice(1);
    const middle = median(all) ?? 0;
    const equal = all.length < 4 ? all : all.sort((a, b) => Math.abs(a - middle) - Math.abs(b - middle)).slice(0, -1);
    if (equal.length < 2) continue;
    squares += (equal.length - 1) * variance(equal)!;
    dof += equal.length - 1;
  }
  return Math.sqrt(squares / dof);
}

/** Boiler and line are read where they are; only the pump side is carried over to the group. */
export function placeOf(sat: Pick<Reading, "place" | "toGroup" | "toGroupU">): GaugePlace {
  return sat.place === "pump" ? { place: "pump", toGroup: sat.toGroup, u: sat.toGroupU } : AT_THE_GROUP;
}

type Read = Pick<Reading, "at" | "indicated" | "detail" | "place" | "toGroup" | "toGroupU"> & {
  instrument: Instrument;
};

/**
 * From what was read, in one state and with one instrument, to what is judged: an offset’s readings are held against their set points,
 * a swinging needle adds its own uncertainty.
 *
 * @throws RangeError with no reading, a reading outside the instrument’s span, or outside its correction table
 */
export function measured(rows: readonly Read[], loop: Loop, pump: MachineKind["pump"]): Measured {
  const first = rows[0]!;
  const base = loop.with.setPoint ? (first.detail.setPoint ?? 0) : 0;
  const level = (r: Read) => (loop.with.setPoint ? r.indicated - (r.detail.setPoint ?? 0) + base : r.indicated);
  const swings = rows.flatMap(({ detail: { low, high } }) =>
    low === undefined || high === undefined ? [] : [swing(low, high, pump).line],
  );
  const widest = swings.reduce<(typeof swings)[number] | null>((a, b) => (a && a.u >= b.u ? a : b), null);
  const more = widest ? [{ ...widest, u: widest.u / Math.sqrt(rows.length) }] : [];
  const m = measure(rows.map(level), instrumentFor(first.instrument, loop, pump), first.at, placeOf(first), 0.95, more);
  return { ...m, value: m.value - base };
}

export interface Figure {
  readonly value: number;
  readonly u: number;
  readonly U: number;
  readonly k: number;
  readonly dof: number;
  readonly resolution: number;
  readonly count: number;
  readonly readings: readonly number[];
  /** Spread of the readings; null with one. */
  readonly sd: number | null;
  readonly budget: Measured["budget"];
  /** One figure per instrument, where there was more than one. */
  readonly parts: readonly { readonly name: string; readonly value: number; readonly U: number }[];
}

/** One figure from a run of readings. Readings by several instruments are weighed by their uncertainty. Null with no reading. */
export function figureOf(run: readonly Reading[], loop: Loop, pump: MachineKind["pump"]): Figure | null {
  if (run.length === 0) return null;
  const sets = group(run, (r) => `${r.instrument.id} ${r.place} ${r.toGroup}`);
  const parts = [...sets.values()].map((rows) => ({
    ...measured(rows, loop, pump),
    name: rows[0]!.instrument.name,
  }));
  const best = parts.reduce((a, b) => (b.u < a.u ? b : a));
  const readings = run.map((r) => r.value);
  const common = {
    resolution: Math.min(...run.map((r) => r.instrument.resolution)),
    count: run.length,
    readings,
    sd: deviation(readings) ?? null,
    k: best.k,
    dof: best.dof,
    budget: best.budget,
    parts: parts.length > 1 ? parts.map(({ name, value, U }) => ({ name, value, U })) : [],
  };
  if (parts.length === 1) return { ...common, value: best.value, u: best.u, U: best.U };
  const places = group(
    [...sets.values()].map((rows, i) => ({ part: parts[i]!, at: `${rows[0]!.place} ${rows[0]!.toGroup}` })),
    (p) => p.at,
  );
  const all = pooled(
    [...places.values()].map((at) =>
      pooled(
        at.map(({ part }) => known(part)),
        placeU(at[0]!.part),
      ),
    ),
  );
  const k = coverageFactor(0.95, all.dof);
  return { ...common, value: all.value, u: all.u, dof: all.dof, k, U: k * all.u };
}

interface Known {
  readonly value: number;
  readonly u: number;
  readonly dof: number;
}

const placeU = ({ budget }: Measured) => budget.find((line) => line.kind === "place")?.u ?? 0;

/** What one instrument says by itself: without what it shares with others at its place. */
const known = (part: Measured): Known => ({
  value: part.value,
  u: Math.sqrt(Math.max(1e-12, part.u ** 2 - placeU(part) ** 2)),
  dof: part.dof,
});

/**
 * Weighted mean of independent figures that share one error of their place: that part no number of instruments lessens (GUM 5.2.2, F.1.2).
 * Degrees of freedom by Welch–Satterthwaite (GUM G.4.1).
 *
 * @param shared standard uncertainty all of them share, their unit
 */
function pooled(parts: readonly Known[], shared = 0): Known {
  const total = sum(parts, (p) => 1 / p.u ** 2);
  const share = (p: Known) => 1 / p.u ** 2 / total;
  const variance = 1 / total + shared ** 2;
  const spread = sum(parts, (p) => (share(p) * p.u) ** 4 / p.dof);
  const effective = spread === 0 ? Infinity : variance ** 2 / spread;
  return {
    value: sum(parts, (p) => share(p) * p.value),
    u: Math.sqrt(variance),
    dof: Number.isFinite(effective) ? Math.max(1, Math.floor(effective + 1e-9)) : Infinity,
  };
}
