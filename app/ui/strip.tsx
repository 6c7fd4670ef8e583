import { type StripMark, type StripSize, drawStrip } from "~core/metrology/strip";
import { type Unit, formatFigure, formatQuantity, formatUncertainty, unitById } from "~core/quantity";

/**
 * The tolerance strip: a bar of stock with the tolerance cut into it as a notch. What was found is a hollow mark, what was
 * left a solid one; a mark inside lies in the notch, a mark outside stands on the bar. Whiskers are expanded uncertainty.
 */
interface Props {
  tolerance: { lower?: number | undefined; target?: number | undefined; upper?: number | undefined };
  found?: StripMark | null;
  left?: StripMark | null;
  /** Where the next move is expected to bring it. */
  expected?: StripMark | null;
  unit: string;
  resolution: number;
  /** full: with figures. row: for lists and reports. */
  size?: StripSize;
  /** What is measured, for those who hear it. */
  label: string;
}

export function Strip({ tolerance, found, left, expected, unit: unitId, resolution, size = "full", label }: Props) {
  const unit = unitById(unitId);
  const drawn = drawStrip({ tolerance, found, left, expected }, size);
  const full = size === "full";
  return (
    <svg
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      role="img"
      aria-label={spoken(label, tolerance, { found, left, expected }, unit, resolution)}
      className={full ? "block w-full max-w-lg short:max-w-72 print:max-w-[90mm]" : "block w-full max-w-48"}
    >
      <path
        d={drawn.bar}
        fill="var(--rule)"
        stroke="var(--ink)"
        strokeWidth={full ? 1.75 : 1.25}
        strokeLinejoin="round"
      />
      {drawn.target && <path d={drawn.target} stroke="var(--ink)" strokeWidth="1.5" />}
      {drawn.arrow && (
        <g fill="none" stroke="var(--brass)" strokeWidth={full ? 2 : 1.4} strokeLinecap="round">
          <path d={drawn.arrow.line} strokeDasharray={drawn.arrow.dashed ? "4 4" : undefined} />
          <path d={drawn.arrow.head} />
        </g>
      )}
      {drawn.marks.map(({ look, at, y, r, whisker }) => (
        <g key={look} stroke={look === "expected" ? "var(--brass)" : "var(--ink)"} strokeWidth={r > 5 ? 2 : 1.4}>
          <path d={whisker} fill="none" />
          <circle
            cx={at}
            cy={y}
            r={r}
            fill={look === "left" ? "var(--ink)" : "var(--sheet)"}
            strokeDasharray={look === "expected" ? "3 2.5" : undefined}
          />
        </g>
      ))}
      {full && (
        <g className="figure" fontSize="13" fill="var(--soft)">
          {drawn.ends.map(({ x, y, value }) => (
            <text key={value} x={x} y={y} textAnchor="middle">
              {formatFigure(value, resolution, unit)}
            </text>
          ))}
        </g>
      )}
    </svg>
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
