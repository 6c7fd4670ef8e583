import { max, min } from "d3-array";
import { scaleLinear, scaleUtc } from "d3-scale";
import { area, line } from "d3-shape";
import type { lifeView } from "~server/machines/life";
import { formatFigure, unitById } from "~core/quantity";

/** Every setting over the years, small and alike: found hollow, left solid, from before as diamonds, the tolerance a notch between two bars, where it goes dashed. */

type Setting = Awaited<ReturnType<typeof lifeView>>["settings"][number];

const BOX = { width: 360, height: 130, left: 38, right: 10, top: 8, bottom: 20 };

export function Life({ settings }: { settings: readonly Setting[] }) {
  if (settings.length === 0) return null;
  return (
    <section aria-labelledby="years" className="grid gap-3">
      <h2 id="years" className="text-xl font-bold">
        Readings over the years
      </h2>
      <ul className="grid gap-4 sm:grid-cols-2">
        {settings.map((setting) => (
          <li key={setting.id}>
            <Small setting={setting} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Two months, ms. */
const LEAST_SPAN = 60 * 86_400_000;

function Small({ setting }: { setting: Setting }) {
  const { title, said, visits, ahead, tolerance, resolution, before } = setting;
  const unit = unitById(setting.unit);
  const { lower, upper } = tolerance as { lower?: number; upper?: number };
  const points = visits.flatMap((v) => [v.found, v.left].flatMap((p) => (p ? [{ at: v.at, ...p }] : [])));
  const values = [
    ...points.flatMap((p) => [p.value - p.U, p.value + p.U]),
    ...ahead.map((a) => a.value),
    ...before.map((b) => b.value),
    ...[lower, upper].filter((l) => l !== undefined),
  ];
  const room = ((max(values) ?? 1) - (min(values) ?? 0)) * 0.12 || 1;
  const times = [...points, ...ahead, ...before].map((p) => p.at);
  const [from, to] = [min(times) ?? 0, max(times) ?? 1];
  // Days at the least: of one visit nobody asks the hour.
  const aside = Math.max(0, LEAST_SPAN - (to - from)) / 2;
  const x = scaleUtc([from - aside, to + aside], [BOX.left + 6, BOX.width - BOX.right - 6]);
  const y = scaleLinear([(min(values) ?? 0) - room, (max(values) ?? 1) + room], [BOX.height - BOX.bottom, BOX.top]);
  const [top, floor] = [BOX.top, BOX.height - BOX.bottom];
  // What wanders off the picture is cut, not drawn over its neighbours.
  const kept = (v: number) => Math.min(floor, Math.max(top, y(v)));
  const fan = area<(typeof ahead)[number]>()
    .x((a) => x(a.at))
    .y0((a) => kept(a.value - a.U))
    .y1((a) => kept(a.value + a.U));
  const path = line<(typeof ahead)[number]>()
    .x((a) => x(a.at))
    .y((a) => kept(a.value));
  const between = visits.flatMap((v, i) => {
    const next = visits[i + 1];
    const start = v.left ?? v.found;
    return next?.found && start ? [`M${x(v.at)} ${y(start.value)}L${x(next.at)} ${y(next.found.value)}`] : [];
  });
  return (
    <figure className="grid gap-1 bg-sheet p-3">
      <figcaption className="font-semibold">{title}</figcaption>
      <svg
        viewBox={`0 0 ${BOX.width} ${BOX.height}`}
        role="img"
        aria-label={`${title}. ${said}${before.length > 0 ? ` ${before.length} readings from before.` : ""}`}
        className="block w-full"
      >
        {upper !== undefined && (
          <rect
            x={BOX.left}
            y={top}
            width={BOX.width - BOX.left - BOX.right}
            height={Math.max(0, y(upper) - top)}
            fill="var(--rule)"
          />
        )}
        {lower !== undefined && (
          <rect
            x={BOX.left}
            y={y(lower)}
            width={BOX.width - BOX.left - BOX.right}
            height={Math.max(0, floor - y(lower))}
            fill="var(--rule)"
          />
        )}
        {lower === undefined &&
          upper === undefined &&
          y.ticks(3).map((v) => (
            <text
              key={v}
              x={BOX.left - 5}
              y={y(v)}
              dy="0.32em"
              textAnchor="end"
              fontSize={11}
              className="figure fill-soft"
            >
              {formatFigure(v, resolution, unit)}
            </text>
          ))}
        {[lower, upper].map(
          (limit) =>
            limit !== undefined && (
              <g key={limit}>
                <path d={`M${BOX.left} ${y(limit)}H${BOX.width - BOX.right}`} stroke="var(--ink)" strokeWidth={1.25} />
                <text
                  x={BOX.left - 5}
                  y={y(limit)}
                  dy="0.32em"
                  textAnchor="end"
                  fontSize={11}
                  className="figure fill-soft"
                >
                  {formatFigure(limit, resolution, unit)}
                </text>
              </g>
            ),
        )}
        {ahead.length > 0 && (
          <>
            <path d={fan(ahead) ?? ""} fill="var(--brass)" opacity={0.16} />
            <path d={path(ahead) ?? ""} fill="none" stroke="var(--brass)" strokeWidth={1.75} strokeDasharray="5 4" />
          </>
        )}
        <path d={between.join("")} fill="none" stroke="var(--soft)" strokeWidth={1} />
        {before.map((b, i) => (
          <path
            key={i}
            d={`M${x(b.at)} ${y(b.value) - 4.5}l4.5 4.5l-4.5 4.5l-4.5 -4.5z`}
            stroke="var(--soft)"
            strokeWidth={1.2}
            fill={b.phase === "as-left" ? "var(--soft)" : "var(--sheet)"}
          />
        ))}
        {visits.map((v) => (
          <g key={v.at} stroke="var(--ink)" strokeWidth={1.4}>
            {v.found && (
              <>
                <path d={`M${x(v.at)} ${y(v.found.value - v.found.U)}V${y(v.found.value + v.found.U)}`} />
                <circle cx={x(v.at)} cy={y(v.found.value)} r={4} fill="var(--sheet)" />
              </>
            )}
            {v.left && <circle cx={x(v.at)} cy={y(v.left.value)} r={3.6} fill="var(--ink)" />}
          </g>
        ))}
        {x.ticks(4).map((t) => (
          <text
            key={t.getTime()}
            x={x(t)}
            y={BOX.height - 5}
            textAnchor="middle"
            fontSize={11}
            className="figure fill-soft"
          >
            {x.tickFormat(4)(t)}
          </text>
        ))}
      </svg>
      <p className="text-sm text-soft">
        {said}
        {before.length > 0 &&
          ` Diamonds: ${before.length} ${before.length === 1 ? "reading" : "readings"} from before, uncertainty not known.`}
      </p>
    </figure>
  );
}
