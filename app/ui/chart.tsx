import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";

/** What charts share: a figure that says its answer in words, axes with room, a frame. */

export const WIDTH = 400;
export const HEIGHT = 190;
export const PAD = { top: 10, right: 12, bottom: 34, left: 44 };

export interface Axes {
  x: ReturnType<typeof scaleLinear<number, number>>;
  y: ReturnType<typeof scaleLinear<number, number>>;
}

export function axesFor(xs: readonly number[], ys: readonly number[], height = HEIGHT): Axes {
  const [x0 = 0, x1 = 1] = extent(xs);
  const [y0 = 0, y1 = 1] = extent(ys);
  const room = (a: number, b: number) => Math.max((b - a) * 0.08, Math.abs(b) * 1e-3, 1e-6);
  return {
    x: scaleLinear([x0 - room(x0, x1), x1 + room(x0, x1)], [PAD.left, WIDTH - PAD.right]),
    y: scaleLinear([y0 - room(y0, y1), y1 + room(y0, y1)], [height - PAD.bottom, PAD.top]),
  };
}

export function Frame({
  axes: { x, y },
  xLabel,
  yLabel,
  height = HEIGHT,
}: {
  axes: Axes;
  xLabel: string;
  yLabel: string;
  height?: number;
}) {
  const floor = height - PAD.bottom;
  return (
    <g className="fill-soft" fontSize={13}>
      {y.ticks(4).map((t) => (
        <g key={t}>
          <path d={`M${PAD.left} ${y(t)}H${WIDTH - PAD.right}`} stroke="var(--rule)" />
          <text x={PAD.left - 6} y={y(t)} dy="0.32em" textAnchor="end">
            {y.tickFormat(4)(t)}
          </text>
        </g>
      ))}
      {x.ticks(5).map((t) => (
        <text key={t} x={x(t)} y={floor + 14} textAnchor="middle">
          {x.tickFormat(5)(t)}
        </text>
      ))}
      <path d={`M${PAD.left} ${floor}H${WIDTH - PAD.right}`} stroke="var(--ink)" strokeWidth={1.5} />
      <text x={WIDTH - PAD.right} y={height - 4} textAnchor="end">
        {xLabel}
      </text>
      <text x={PAD.left + 4} y={PAD.top - 2} dominantBaseline="hanging" className="font-semibold">
        {yLabel}
      </text>
    </g>
  );
}

export function Chart({
  title,
  said,
  height = HEIGHT,
  children,
}: {
  title: string;
  said: string;
  height?: number;
  children: React.ReactNode;
}) {
  return (
    <figure className="grid gap-1 border-t-2 border-rule pt-3">
      <figcaption className="text-sm font-bold">{title}</figcaption>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} role="img" aria-label={`${title}. ${said}`} className="block w-full">
        {children}
      </svg>
      <p className="text-sm text-soft">{said}</p>
    </figure>
  );
}
