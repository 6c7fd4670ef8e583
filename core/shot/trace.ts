/** What a logger writes down while a shot runs: columns of one length, stored units. */

export interface Trace {
  /** s from the first line, rising */
  readonly time: readonly number[];
  /** bar; ml/s; g; °C. null where a line had none. */
  readonly pressure?: readonly (number | null)[];
  readonly flow?: readonly (number | null)[];
  readonly weight?: readonly (number | null)[];
  readonly temperature?: readonly (number | null)[];
}
