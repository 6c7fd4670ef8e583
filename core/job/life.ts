import { groups as rowGroups } from "d3-array";
import { type Drift, driftFrom } from "../drift";
import {
  BREW_PRESSURE_TITLE,
  LOOP_IDS,
  type KnobAt,
  type KnobId,
  type LoopId,
  atOf,
  buttonTitle,
  keyOf,
} from "../knobs";
import type { Tolerance, Verdict } from "../metrology";
import type { Dimension } from "../quantity";
import type { Run } from "./log";

/** One machine over its years: each of its settings from visit to visit. */

/** A result of a signed visit. */
export interface PastResult extends KnobAt {
  readonly jobId: string;
  /** When it was signed. */
  readonly at: Date;
  readonly phase: Run;
  readonly dimension: Dimension;
  readonly value: number;
  readonly u: number;
  readonly U: number;
  readonly resolution: number;
  readonly verdict: Verdict;
  readonly lower: number | null;
  readonly upper: number | null;
}

export interface LifePoint {
  readonly value: number;
  readonly u: number;
  readonly U: number;
  readonly verdict: Verdict;
}

export interface KnobLife {
  readonly id: LoopId;
  readonly title: string;
  readonly dimension: Dimension;
  readonly resolution: number;
  /** As it was held last. */
  readonly tolerance: Tolerance;
  /** Oldest first. */
  readonly visits: readonly {
    readonly jobId: string;
    /** ms */
    readonly at: number;
    readonly found: LifePoint | null;
    readonly left: LifePoint | null;
  }[];
}

/** Settings that wander by themselves. A dose by hand, a grind and a timer are moved with each coffee. */
const WANDER: readonly KnobId[] = ["opv", "pressurestat", "line-regulator", "offset", "temperature", "button"];

/** ms */
export const DAY = 86_400_000;

/**
 * Each setting over the visits.
 *
 * @param groups of the machine: where there is one, its buttons go without a number
 */
export function livesOf(past: readonly PastResult[], groups: number): KnobLife[] {
  // In the order in which a sheet comes to them.
  const inOrder = rowGroups(past, keyOf).sort(([a], [b]) => LOOP_IDS.indexOf(a) - LOOP_IDS.indexOf(b));
  return inOrder.flatMap(([id, rows]) => {
    const newest = rows.reduce((a, b) => (b.at >= a.at ? b : a));
    const same = rows.filter((r) => r.dimension === newest.dimension);
    const { lower, upper, dimension, resolution } = newest;
    if (lower === null && upper === null) return [];
    return [
      {
        ...{ id, dimension, resolution, title: settingTitle(newest, groups) },
        tolerance: { ...(lower === null ? {} : { lower }), ...(upper === null ? {} : { upper }) },
        visits: visitsIn(same),
      },
    ];
  });
}

function visitsIn(rows: readonly PastResult[]): KnobLife["visits"] {
  const point = (row: PastResult | undefined): LifePoint | null =>
    row ? { value: row.value, u: row.u, U: row.U, verdict: row.verdict } : null;
  return rowGroups(rows, (row) => row.jobId)
    .map(([jobId, own]) => ({
      jobId,
      at: own[0]!.at.getTime(),
      found: point(own.find((r) => r.phase === "as-found")),
      left: point(own.find((r) => r.phase === "as-left")),
    }))
    .sort((a, b) => a.at - b.at);
}

/** What a setting is called over the years. @param groups of the machine, 1 to 4: where there is one, its buttons go without a number */
export function settingTitle({ knob, group, button }: KnobAt, groups: number): string {
  if (knob === "button") return buttonTitle(button ?? "double", group ?? 1, groups);
  return TITLES[knob];
}

const TITLES: Readonly<Record<Exclude<KnobId, "button">, string>> = {
  opv: BREW_PRESSURE_TITLE,
  pressurestat: "Boiler pressure at cut-out",
  "line-regulator": "Line pressure",
  "pre-infusion": "Pre-infusion, lever held down",
  offset: "Group temperature error",
  temperature: "Group temperature",
  basket: "Dose in the basket",
};

/** How a setting wanders; null where it does not by itself, or nothing was ever left. */
export function driftOfLife(life: KnobLife): Drift | null {
  if (!WANDER.includes(atOf(life.id)!.knob)) return null;
  return driftFrom(
    life.visits.map(({ at, found, left }) => ({ day: at / DAY, found, left })),
    life.tolerance,
  );
}
