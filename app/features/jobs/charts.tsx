import { extent } from "d3-array";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { LoopView } from "~server/jobs/views/knob";
import type { TaskViewOf } from "~server/jobs/views/station";
import type { SheetView } from "~server/jobs/views/sheet";
import { type Axes, Chart, Frame, HEIGHT, PAD, WIDTH, axesFor } from "~app/ui/chart";
import { useDates } from "~app/ui/dates";
import { formatFigure, formatQuantity, unitById } from "~core/quantity";

/** Charts of the instrument zone. Each answers one question, and says its answer in words below. */

function Limits({ axes: { y }, tolerance }: { axes: Axes; tolerance: LoopView["tolerance"] }) {
  const [bottom, top] = y.range() as [number, number];
  const clamp = (v: number | undefined, fallback: number) =>
    v === undefined ? fallback : Math.min(bottom, Math.max(top, y(v)));
  const high = clamp(tolerance.upper, top);
  const low = clamp(tolerance.lower, bottom);
  return (
    <rect
      x={PAD.left}
      y={high}
      width={WIDTH - PAD.right - PAD.left}
      height={Math.max(0, low - high)}
      fill="var(--brass-wash)"
    />
  );
}

export default function Charts({ loop, visits }: { loop: LoopView; visits: SheetView["visits"] }) {
  return (
    <>
      {loop.chart.points.length > 1 && loop.runs.touched && <KnobChart loop={loop} />}
      {loop.curve?.curve && <CurveChart loop={loop} />}
      {visits.length > 1 && <VisitsChart loop={loop} visits={visits} />}
    </>
  );
}

/** Reading against where the knob stood: does it answer, and by how much? The band is what is believed of the response. */
function KnobChart({ loop }: { loop: LoopView }) {
  const { points, line: response, now, at } = loop.chart;
  const unit = unitById(loop.unit);
  const show = (v: number) => formatFigure(v, loop.resolution, unit);
  const scale = (v: number) => (loop.unit === "bar" ? v : (v - unit.shift) / unit.factor);
  const [low = 0, high = 0] = extent([...points.map((p) => p.at), at]);
  const reach = Math.max(high - low, 0.25) * 0.35;
  const xs = [low - reach, high + reach];
  const fitted = now && response ? (x: number, slope: number) => scale(now.value + slope * (x - at)) : null;
  const ys = [
    ...points.flatMap((p) => [scale(p.value - 2 * p.u), scale(p.value + 2 * p.u)]),
    ...[loop.tolerance.lower, loop.tolerance.upper].flatMap((v) => (v === undefined ? [] : [scale(v)])),
  ];
  const axes = axesFor(xs, ys);
  const { x, y } = axes;
  const steps = Array.from({ length: 21 }, (_, i) => xs[0]! + ((xs[1]! - xs[0]!) * i) / 20);
  const clip = (v: number) => Math.min(y.range()[0]!, Math.max(y.range()[1]!, y(v)));
  const per = loop.hand?.unit.one ?? "";
  const said = response
    ? `${points.length} readings over ${loop.runs.moves} ${loop.runs.moves === 1 ? "adjustment" : "adjustments"}: ${show(Math.abs(response.mean))} ± ${show(2 * response.sd)} ${unit.symbol} per ${per}.`
    : `${points.length} readings.`;
  const band = area<number>()
    .x((v) => x(v))
    .y0((v) => clip(fitted!(v, response!.mean - 2 * response!.sd)))
    .y1((v) => clip(fitted!(v, response!.mean + 2 * response!.sd)));
  const tolerance = {
    lower: loop.tolerance.lower === undefined ? undefined : scale(loop.tolerance.lower),
    upper: loop.tolerance.upper === undefined ? undefined : scale(loop.tolerance.upper),
  };
  return (
    <Chart title="Response to adjustments" said={said}>
      <Limits axes={axes} tolerance={tolerance} />
      {fitted && response && (
        <>
          <path d={band(steps) ?? ""} fill="var(--rule)" opacity={0.75} />
          <path
            d={
              line<number>()
                .x((v) => x(v))
                .y((v) => clip(fitted(v, response.mean)))(steps) ?? ""
            }
            fill="none"
            stroke="var(--ink)"
            strokeDasharray="5 4"
          />
        </>
      )}
      <Frame
        axes={axes}
        xLabel={`${per === "turn" ? "turns" : (loop.hand?.unit.many ?? "")} ${loop.hand?.plus ?? ""}`}
        yLabel={unit.symbol}
      />
      {points.map((p, i) => (
        <g key={`${p.at} ${p.value} ${points.slice(0, i).filter((q) => q.at === p.at && q.value === p.value).length}`}>
          <path d={`M${x(p.at)} ${y(scale(p.value - 2 * p.u))}V${y(scale(p.value + 2 * p.u))}`} stroke="var(--ink)" />
          <circle
            cx={x(p.at)}
            cy={y(scale(p.value))}
            r={4.5}
            fill={i === 0 ? "var(--sheet)" : "var(--ink)"}
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
        </g>
      ))}
    </Chart>
  );
}

/** Water at the coffee over a flush, against the set point: where is its plateau? */
function CurveChart({ loop }: { loop: LoopView }) {
  const { curve = [], setPoint, by, recovery } = loop.curve!;
  const axes = axesFor(
    curve.map(([t]) => t),
    [...curve.map(([, c]) => c), ...(setPoint === undefined ? [] : [setPoint])],
  );
  const { x, y } = axes;
  const peak = curve.reduce((a, b) => (b[1] > a[1] ? b : a));
  const said = [
    `${curve.length} points over ${curve.at(-1)![0]} s, peak ${peak[1].toFixed(1)} °C at ${peak[0]} s; the ${by} counts.`,
    setPoint !== undefined && `Set point ${setPoint} °C.`,
    recovery != null && `Back within a degree in ${recovery} s.`,
  ]
    .filter(Boolean)
    .join(" ");
  return (
    <Chart title="Water through the flush" said={said}>
      <Frame axes={axes} xLabel="s" yLabel="°C" />
      {setPoint !== undefined && (
        <path
          d={`M${PAD.left} ${y(setPoint)}H${WIDTH - PAD.right}`}
          stroke="var(--brass)"
          strokeWidth={2}
          strokeDasharray="8 4"
        />
      )}
      <path
        d={
          line<[number, number]>()
            .x((p) => x(p[0]))
            .y((p) => y(p[1]))(curve) ?? ""
        }
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2}
      />
      {curve.length <= 40 && curve.map(([t, c]) => <circle key={t} cx={x(t)} cy={y(c)} r={3} fill="var(--ink)" />)}
    </Chart>
  );
}

/** As found and as left, visit by visit: does it drift? */
function VisitsChart({ loop, visits }: { loop: LoopView; visits: SheetView["visits"] }) {
  const { day } = useDates();
  const unit = unitById(loop.unit);
  const scale = (v: number) => (v - unit.shift) / unit.factor;
  const past = [...visits].reverse();
  const points = past.flatMap((v, i) => [
    { at: i, value: scale(v.asFound.value), left: false },
    { at: i + 0.35, value: scale(v.asLeft.value), left: true },
  ]);
  const axes = axesFor(
    [-0.2, past.length - 0.4],
    [
      ...points.map((p) => p.value),
      ...[loop.tolerance.lower, loop.tolerance.upper].flatMap((v) => (v === undefined ? [] : [scale(v)])),
    ],
    150,
  );
  const { x, y } = axes;
  const show = (v: number) => formatQuantity(v, loop.resolution, unit);
  const first = past[0]!;
  const last = past.at(-1)!;
  const drift = past.slice(1).map((v, i) => v.asFound.value - past[i]!.asLeft.value);
  const mean = drift.reduce((a, b) => a + b, 0) / Math.max(1, drift.length);
  const by = formatFigure(Math.abs(mean), loop.resolution, { ...unit, shift: 0 });
  const between =
    Number(by) === 0
      ? "Between visits it did not move."
      : `Between visits it went ${mean < 0 ? "down" : "up"} by ${by} ${unit.symbol} on average.`;
  const said = `${past.length} visits since ${day(first.at)}; found at ${show(last.asFound.value)} and left at ${show(last.asLeft.value)} last time. ${between}`;
  return (
    <Chart title="Visit by visit" said={said} height={150}>
      <Limits
        axes={axes}
        tolerance={{
          lower: loop.tolerance.lower === undefined ? undefined : scale(loop.tolerance.lower),
          upper: loop.tolerance.upper === undefined ? undefined : scale(loop.tolerance.upper),
        }}
      />
      <g className="fill-soft" fontSize={13}>
        {y.ticks(3).map((t) => (
          <text key={t} x={PAD.left - 6} y={y(t)} dy="0.32em" textAnchor="end">
            {y.tickFormat(3)(t)}
          </text>
        ))}
        {past.map((v, i) => (
          <text key={v.jobId} x={x(i + 0.17)} y={136} textAnchor="middle">
            {day(v.at).replace(/ \d{4}$/, "")}
          </text>
        ))}
      </g>
      <path
        d={
          line<(typeof points)[number]>()
            .x((p) => x(p.at))
            .y((p) => y(p.value))(points) ?? ""
        }
        fill="none"
        stroke="var(--edge)"
      />
      {points.map((p) => (
        <circle
          key={p.at}
          cx={x(p.at)}
          cy={y(p.value)}
          r={4.5}
          fill={p.left ? "var(--ink)" : "var(--sheet)"}
          stroke="var(--ink)"
          strokeWidth={1.5}
        />
      ))}
    </Chart>
  );
}

/** The meter’s line, and what each run misses it by: is one run odd, does the scatter grow? */
export function MeterChart({
  meter,
  label,
}: {
  meter: NonNullable<TaskViewOf<"table">["table"]["meter"]>;
  label: string;
}) {
  const { points, K, start } = meter;
  const axes = axesFor([0, ...points.map((p) => p.pulses)], [0, ...points.map((p) => p.ml)]);
  const { x, y } = axes;
  const most = Math.max(...points.map((p) => Math.abs(p.residual)), 0.1);
  const low = 60;
  const residual = scaleLinear([-most * 1.2, most * 1.2], [HEIGHT + low - 6, HEIGHT + 6]);
  const end = x.domain()[1]!;
  const worst = points.reduce((a, b) => (Math.abs(b.residual) > Math.abs(a.residual) ? b : a));
  const said = `${points.length} runs from ${Math.min(...points.map((p) => p.pulses))} to ${Math.max(...points.map((p) => p.pulses))} pulses lie on a line of ${K.toFixed(2)} pulses per ml; the run furthest off misses it by ${Math.abs(worst.residual).toFixed(1)} ml.`;
  return (
    <Chart title={`${label}: water against pulses, and what each run misses`} said={said} height={HEIGHT + low}>
      <Frame axes={axes} xLabel="pulses" yLabel="ml" />
      <path d={`M${x(0)} ${y(start)}L${x(end)} ${y(start + end / K)}`} stroke="var(--ink)" strokeDasharray="5 4" />
      {points.map((p) => (
        <circle key={`${p.pulses} ${p.ml}`} cx={x(p.pulses)} cy={y(p.ml)} r={4.5} fill="var(--ink)" />
      ))}
      <path d={`M${PAD.left} ${residual(0)}H${WIDTH - PAD.right}`} stroke="var(--edge)" />
      <text x={PAD.left - 6} y={residual(0)} dy="0.32em" textAnchor="end" fontSize={13} className="fill-soft">
        ± {most.toFixed(1)}
      </text>
      {points.map((p) => (
        <path
          key={`r ${p.pulses} ${p.ml}`}
          d={`M${x(p.pulses)} ${residual(0)}V${residual(p.residual)}`}
          stroke="var(--brass)"
          strokeWidth={5}
        />
      ))}
    </Chart>
  );
}
