import { scaleLinear } from "d3-scale";
import { type Unit, formatFigure, formatQuantity, formatUncertainty, unitById } from "~core/quantity";

/**
 * The tolerance strip: a bar of stock with the tolerance cut into it as a notch. What was found is a hollow mark, what was
 * left a solid one; a mark inside lies in the notch, a mark outside stands on the bar. Whiskers are expanded uncertainty.
 */
export interface StripMark {
  value: number;
  /** Expanded uncertainty. */
  U: number;
}

interface Props {
  tolerance: { lower?: number | undefined; target?: number | undefined; upper?: number | undefined };
  found?: StripMark | null;
  left?: StripMark | null;
  /** Where the next move is expected to bring it. */
  expected?: StripMark | null;
  unit: string;
  resolution: number;
  /** full: with figures. row: for lists and reports. */
  size?: "full" | "row";
  /** What is measured, for those who hear it. */
  label: string;
}

const FULL = { width: 400, height: 118, top: 62, depth: 20, mark: 8, pad: 14 };
const ROW = { width: 200, height: 34, top: 17, depth: 9, mark: 4.5, pad: 8 };

export function Strip({ tolerance, found, left, expected, unit: unitId, resolution, size = "full", label }: Props) {
  const unit = unitById(unitId);
  const g = size === "full" ? FULL : ROW;
  const { lower, upper } = limits(tolerance);
  const marks = [found, left, expected].filter((m) => m != null);
  const width = upper - lower;
  const low = Math.min(lower - width, ...marks.map((m) => m.value - m.U)) - width * 0.1;
  const high = Math.max(upper + width, ...marks.map((m) => m.value + m.U)) + width * 0.1;
  const x = scaleLinear([low, high], [g.pad, g.width - g.pad]);
  const floor = g.top + g.depth;
  const base = floor + (size === "full" ? 14 : 6);
  const yOf = (value: number) => (value >= lower && value <= upper ? floor : g.top) - g.mark - 1;
  const to = left ?? expected;

  return (
    <svg
      viewBox={`0 0 ${g.width} ${g.height}`}
      role="img"
      aria-label={spoken(label, tolerance, { found, left, expected }, unit, resolution)}
      className={size === "full" ? "block w-full" : "block w-full max-w-48"}
    >
      <path
        d={`M${g.pad - 6} ${g.top} H${x(lower)} V${floor} H${x(upper)} V${g.top} H${g.width - g.pad + 6} V${base} H${g.pad - 6} Z`}
        fill="var(--rule)"
        stroke="var(--ink)"
        strokeWidth={size === "full" ? 1.75 : 1.25}
        strokeLinejoin="round"
      />
      {tolerance.target !== undefined && (
        <path
          d={`M${x(tolerance.target)} ${floor} v${size === "full" ? 7 : 3}`}
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
      )}
      {found && to && Math.abs(x(to.value) - x(found.value)) > 2 * g.mark && (
        <Arrow
          from={[x(found.value), yOf(found.value) - g.mark - 2]}
          to={[x(to.value), yOf(to.value) - g.mark - 3]}
          size={size}
          dashed={!left}
        />
      )}
      {expected && !left && (
        <Mark at={x(expected.value)} y={yOf(expected.value)} r={g.mark} whisker={wide(x, expected)} look="expected" />
      )}
      {found && <Mark at={x(found.value)} y={yOf(found.value)} r={g.mark} whisker={wide(x, found)} look="found" />}
      {left && <Mark at={x(left.value)} y={yOf(left.value)} r={g.mark} whisker={wide(x, left)} look="left" />}
      {size === "full" && (
        <g className="figure" fontSize="13" fill="var(--soft)">
          {tolerance.lower !== undefined && (
            <text x={x(lower)} y={base + 16} textAnchor="middle">
              {formatFigure(lower, resolution, unit)}
            </text>
          )}
          {tolerance.upper !== undefined && (
            <text x={x(upper)} y={base + 16} textAnchor="middle">
              {formatFigure(upper, resolution, unit)}
            </text>
          )}
        </g>
      )}
    </svg>
  );
}

function limits({ lower, upper }: Props["tolerance"]) {
  // A one-sided tolerance is a notch open to the end of the bar.
  if (lower !== undefined && upper !== undefined) return { lower, upper };
  const one = (lower ?? upper)!;
  const reach = Math.max(1, Math.abs(one) * 0.2);
  return lower !== undefined ? { lower, upper: one + reach } : { lower: one - reach, upper: one };
}

function wide(x: (v: number) => number, { value, U }: StripMark): [number, number] {
  return [x(value - U), x(value + U)];
}

function Mark({
  at,
  y,
  r,
  whisker,
  look,
}: {
  at: number;
  y: number;
  r: number;
  whisker: [number, number];
  look: "found" | "left" | "expected";
}) {
  const [a, b] = whisker;
  const ink = look === "expected" ? "var(--brass)" : "var(--ink)";
  const tick = r * 0.6;
  return (
    <g stroke={ink} strokeWidth={r > 5 ? 2 : 1.4}>
      <path d={`M${a} ${y} H${b} M${a} ${y - tick} v${2 * tick} M${b} ${y - tick} v${2 * tick}`} fill="none" />
      <circle
        cx={at}
        cy={y}
        r={r}
        fill={look === "left" ? "var(--ink)" : "var(--sheet)"}
        strokeDasharray={look === "expected" ? "3 2.5" : undefined}
      />
    </g>
  );
}

function Arrow({
  from,
  to,
  size,
  dashed,
}: {
  from: [number, number];
  to: [number, number];
  size: "full" | "row";
  dashed: boolean;
}) {
  const [x1, y1] = from;
  const [x2, y2] = to;
  const rise = size === "full" ? 26 : 7;
  const peak = Math.min(y1, y2) - rise;
  const head = size === "full" ? 6 : 3;
  const way = Math.sign(x2 - x1);
  return (
    <g fill="none" stroke="var(--brass)" strokeWidth={size === "full" ? 2 : 1.4} strokeLinecap="round">
      <path
        d={`M${x1} ${y1} C${x1} ${peak} ${x2 - way * head} ${peak} ${x2} ${y2}`}
        strokeDasharray={dashed ? "4 4" : undefined}
      />
      <path d={`M${x2 - head} ${y2 - head} L${x2} ${y2} L${x2 + head} ${y2 - head}`} />
    </g>
  );
}

function spoken(
  label: string,
  { lower, upper }: Props["tolerance"],
  marks: {
    found?: StripMark | null | undefined;
    left?: StripMark | null | undefined;
    expected?: StripMark | null | undefined;
  },
  unit: Unit,
  resolution: number,
): string {
  const q = (v: number) => formatQuantity(v, resolution, unit);
  const mark = (name: string, m: StripMark | null | undefined) =>
    m ? `, ${name} ${q(m.value)} ± ${formatUncertainty(m.U, resolution, unit)}` : "";
  const range =
    lower !== undefined && upper !== undefined
      ? `${q(lower)} to ${q(upper)}`
      : lower !== undefined
        ? `at least ${q(lower)}`
        : `at most ${q(upper!)}`;
  return `${label}: tolerance ${range}${mark("as found", marks.found)}${mark("as left", marks.left)}${marks.left ? "" : mark("expected", marks.expected)}.`;
}
