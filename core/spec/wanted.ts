import type { Tolerance } from "../metrology";

/** Values that an owner wants of a machine, or of one visit, over those of the spec: each a range, with the reason. */
export const WANTED_IDS = ["brew", "steam", "dose", "offset"] as const;
export type WantedId = (typeof WANTED_IDS)[number];

export interface WantedRange {
  /** Stored unit: bar, bar, g, °C. */
  readonly lower: number;
  readonly upper: number;
  readonly reason: string;
}

export type Wanted = Readonly<Partial<Record<WantedId, WantedRange>>>;

/** What is asked for, its quantity, and the ends of what can be, stored unit. Common practice, from memory. */
export const WANTED = {
  brew: { label: "Brew pressure at the group", dimension: "pressure", possible: [3, 14], resolution: 0.1 },
  steam: { label: "Steam pressure", dimension: "pressure", possible: [0.3, 2.5], resolution: 0.05 },
  dose: { label: "Dose in the basket", dimension: "mass", possible: [4, 40], resolution: 0.1 },
  offset: {
    label: "Group temperature error",
    dimension: "temperatureDifference",
    possible: [-10, 10],
    resolution: 0.1,
  },
} as const;

/** The range as a tolerance, aimed at its middle. */
export function wantedTolerance({ lower, upper }: WantedRange): Required<Tolerance> {
  return { lower, target: (lower + upper) / 2, upper };
}
