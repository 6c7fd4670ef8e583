import { line } from "d3-shape";
import { Frame, WIDTH, axesFor } from "~app/ui/chart";
import type { TraceView } from "~server/jobs/views/traces";

const HEIGHT = 120;

const FIELDS = [
  ["pressure", "Pressure"],
  ["flow", "Flow"],
  ["weight", "Weight"],
  ["temperature", "Temperature"],
] as const;

const UNITS = { flow: "ml/s", weight: "g", temperature: "°C" } as const;

/** A trace: what was logged, one below the other, over the same seconds. */
export default function TraceChart({ view: { trace, facts, unit }, title }: { view: TraceView; title: string }) {
  const drawn = FIELDS.flatMap(([field, name]) => {
    const values = trace[field];
    return values ? [{ name, unit: field === "pressure" ? unit : UNITS[field], values }] : [];
  });
  return (
    <figure className="grid gap-2 border-t-2 border-rule pt-3">
      <figcaption className="text-sm font-bold">{title}</figcaption>
      {drawn.map(({ name, unit, values }, i) => {
        const present = values.filter((v) => v !== null);
        // Only what begins at nothing is drawn from nothing.
        const axes = axesFor(trace.time, name === "Temperature" ? present : [0, ...present], HEIGHT);
        const path = line<number | null>(
          (_, at) => axes.x(trace.time[at]!),
          (v) => axes.y(v!),
        ).defined((v) => v !== null)(values);
        return (
          <div key={name} className="max-w-md">
            <p className="text-sm text-soft">
              {name}, {unit}
            </p>
            <svg
              viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
              role="img"
              aria-label={`${name}: from ${Math.min(...present).toFixed(1)} to ${Math.max(...present).toFixed(1)} ${unit} over ${trace.time.at(-1)!.toFixed(0)} s.`}
              className="block w-full"
            >
              <Frame axes={axes} xLabel={i === drawn.length - 1 ? "s" : ""} yLabel="" height={HEIGHT} />
              <path d={path ?? ""} fill="none" stroke="var(--ink)" strokeWidth={1.75} />
            </svg>
          </div>
        );
      })}
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        {facts.map(({ name, text }) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className="figure">{text}</dd>
          </div>
        ))}
      </dl>
    </figure>
  );
}
