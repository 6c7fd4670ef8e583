import type { Dimension } from "../quantity";
import { BREW_PRESSURE_RANGE } from "../pressure";
import type { InstrumentQuantity, LoopId } from "./loop";

/** What is typed for a reading of each loop: refused outside `possible`, asked about outside `usual`, stored unit. */
export interface Reads {
  readonly quantity: InstrumentQuantity;
  readonly dimension: Dimension;
  readonly possible: readonly [number, number];
  readonly usual: readonly [number, number];
  /** Why nothing above `possible` can be. */
  readonly never: string;
  /** What its amounts are typed in. */
  readonly moves: "turns" | "count";
}

const PRESSURE = { quantity: "pressure", dimension: "pressure", moves: "turns" } as const;
const WATER = {
  quantity: "temperature",
  dimension: "temperature",
  possible: [20, 130],
  usual: [80, 102],
  never: "no water leaves a group at that temperature",
  moves: "count",
} as const;
const CUP = {
  quantity: "mass",
  dimension: "mass",
  possible: [0.5, 500],
  usual: [15, 120],
  never: "no button fills that",
  moves: "count",
} as const;

export const READS: Readonly<Record<LoopId, Reads>> = {
  opv: {
    ...PRESSURE,
    possible: BREW_PRESSURE_RANGE.hard,
    usual: BREW_PRESSURE_RANGE.usual,
    never: `no brew circuit holds more than ${BREW_PRESSURE_RANGE.hard[1]} bar`,
  },
  "line-regulator": { ...PRESSURE, possible: [0, 16], usual: [1, 8], never: "no water line holds more than 16 bar" },
  "pre-infusion": { ...PRESSURE, possible: [0, 16], usual: [0.5, 6], never: "no water line holds more than 16 bar" },
  pressurestat: {
    ...PRESSURE,
    possible: [0, 4],
    usual: [0.6, 1.9],
    never: "the safety valve lifts long before",
    moves: "count",
  },
  offset: WATER,
  temperature: WATER,
  basket: {
    quantity: "mass",
    dimension: "mass",
    possible: [0.5, 60],
    usual: [5, 30],
    never: "no basket holds that",
    moves: "count",
  },
  "dose-1": CUP,
  "dose-2": CUP,
  "single-1": CUP,
  "single-2": CUP,
  "double-long-1": CUP,
  "double-long-2": CUP,
  "single-long-1": CUP,
  "single-long-2": CUP,
};
