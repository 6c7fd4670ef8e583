/** What a logger writes down while a shot runs: columns of one length, stored units. */

export const TRACE_QUANTITIES = ["pressure", "flow", "weight", "temperature"] as const;
export type TraceQuantity = (typeof TRACE_QUANTITIES)[number];

export interface Trace {
  /** s from the first line, rising */
  readonly time: readonly number[];
  /** bar; ml/s; g; °C. null where a line had none. */
  readonly pressure?: readonly (number | null)[];
  readonly flow?: readonly (number | null)[];
  readonly weight?: readonly (number | null)[];
  readonly temperature?: readonly (number | null)[];
}

/** Most lines of one trace: 10 a second for ten minutes and more. Our choice. */
export const LONGEST_TRACE = 10_000;
