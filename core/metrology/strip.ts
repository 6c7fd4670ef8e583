import { scaleLinear } from "d3-scale";
import type { Tolerance } from "./conformity";

/** Where everything of a tolerance strip lies: the same on pages and on papers. */

export interface StripMark {
  /** Stored unit. */
  readonly value: number;
  /** Expanded uncertainty. */
  readonly U: number;
}

export interface StripAsked {
  readonly tolerance: Tolerance;
  readonly found?: StripMark | null | undefined;
  readonly left?: StripMark | null | undefined;
  /** Where the next move is expected to bring it. */
  readonly expected?: StripMark | null | undefined;
}

export type StripSize = "full" | "row";

const SIZES = {
  full: { width: 400, height: 118, top: 62, depth: 20, mark: 8, pad: 14, below: 14, tick: 7, rise: 26, head: 6 },
  row: { width: 200, height: 34, top: 17, depth: 9, mark: 4.5, pad: 8, below: 6, tick: 3, rise: 7, head: 3 },
} as const;

export interface DrawnMark {
  readonly look: "found" | "left" | "expected";
  readonly at: number;
  readonly y: number;
  readonly r: number;
  /** Path of the whisker. */
  readonly whisker: string;
}

export interface DrawnStrip {
  readonly width: number;
  readonly height: number;
  /** Path of the bar with its notch. */
  readonly bar: string;
  /** Path of the target’s tick; "" where there is none. */
  readonly target: string;
  readonly marks: readonly DrawnMark[];
  /** Line and head of the arrow; null where nothing moved far enough. */
  readonly arrow: { readonly line: string; readonly head: string; readonly dashed: boolean } | null;
  /** Ends of the tolerance: where, how high, and what stands there. */
  readonly ends: readonly { readonly x: number; readonly y: number; readonly value: number }[];
}

/**
 * A bar of stock with the tolerance cut into it as a notch: a mark inside lies in the notch, one outside stands on the bar.
 *
 * @returns lengths in units of its own box
 */
export function drawStrip({ tolerance, found, left, expected }: StripAsked, size: StripSize): DrawnStrip {
  const g = SIZES[size];
  const { lower, upper } = notch(tolerance);
  const marks = [found, left, expected].filter((m) => m != null);
  const width = upper - lower;
  const low = Math.min(lower - width, ...marks.map((m) => m.value - m.U)) - width * 0.1;
  const high = Math.max(upper + width, ...marks.map((m) => m.value + m.U)) + width * 0.1;
  const x = scaleLinear([low, high], [g.pad, g.width - g.pad]);
  const floor = g.top + g.depth;
  const base = floor + g.below;
  const yOf = (value: number) => (value >= lower && value <= upper ? floor : g.top) - g.mark - 1;
  const to = left ?? expected;
  const mark = (look: DrawnMark["look"], m: StripMark | null | undefined): DrawnMark[] => {
    if (!m) return [];
    const y = yOf(m.value);
    const [a, b] = [x(m.value - m.U), x(m.value + m.U)];
    const tick = g.mark * 0.6;
    const whisker = `M${a} ${y} H${b} M${a} ${y - tick} v${2 * tick} M${b} ${y - tick} v${2 * tick}`;
    return [{ look, at: x(m.value), y, r: g.mark, whisker }];
  };
  const moved = found && to && Math.abs(x(to.value) - x(found.value)) > 2 * g.mark;
  return {
    width: g.width,
    height: g.height,
    bar: `M${g.pad - 6} ${g.top} H${x(lower)} V${floor} H${x(upper)} V${g.top} H${g.width - g.pad + 6} V${base} H${g.pad - 6} Z`,
    target: tolerance.target === undefined ? "" : `M${x(tolerance.target)} ${floor} v${g.tick}`,
    marks: [...(left ? [] : mark("expected", expected)), ...mark("found", found), ...mark("left", left)],
    arrow: moved
      ? {
          ...arrow([x(found.value), yOf(found.value) - g.mark - 2], [x(to.value), yOf(to.value) - g.mark - 3], g),
          dashed: !left,
        }
      : null,
    ends: [tolerance.lower, tolerance.upper].flatMap((value) =>
      value === undefined ? [] : [{ x: x(value), y: base + 16, value }],
    ),
  };
}

/** A one-sided tolerance is a notch open to the end of the bar. */
function notch({ lower, upper }: Tolerance) {
  if (lower !== undefined && upper !== undefined) return { lower, upper };
  const one = (lower ?? upper)!;
  const reach = Math.max(1, Math.abs(one) * 0.2);
  return lower !== undefined ? { lower, upper: one + reach } : { lower: one - reach, upper: one };
}

type Point = readonly [number, number];

function arrow([x1, y1]: Point, [x2, y2]: Point, { rise, head }: { rise: number; head: number }) {
  const peak = Math.min(y1, y2) - rise;
  const way = Math.sign(x2 - x1);
  return {
    line: `M${x1} ${y1} C${x1} ${peak} ${x2 - way * head} ${peak} ${x2} ${y2}`,
    head: `M${x2 - head} ${y2 - head} L${x2} ${y2} L${x2 + head} ${y2 - head}`,
  };
}
