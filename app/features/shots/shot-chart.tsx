import type { ShotsView } from "~server/jobs/views/shots";
import { Chart, Frame, HEIGHT, PAD, WIDTH, axesFor } from "~app/ui/chart";

/** How far beside the box is drawn, in widths of the box: one choked shot does not shrink it to a speck. */
const BESIDE = 2.5;

/** A point further off stands at the edge. */
const within = (value: number, low: number, high: number) => {
  const beside = BESIDE * (high - low);
  return Math.min(high + beside, Math.max(low - beside, value));
};

/** Grams against seconds: does a try land in the box, and where is the next one thought to? */
export default function ShotChart({ view }: { view: ShotsView }) {
  const { recipe, advice } = view;
  const { seconds, yield: cup } = recipe;
  const drawn = <P extends { seconds: number; yield: number }>(p: P) => ({
    ...p,
    at: { x: within(p.seconds, seconds.lower, seconds.upper), y: within(p.yield, cup.lower, cup.upper) },
  });
  const now = view.tries.flatMap((t) => (t.point ? [drawn({ ...t.point, number: t.number, verdict: t.verdict })] : []));
  const past = (view.before?.points ?? []).map(drawn);
  const next =
    advice.seconds === null || advice.kind === "keep" ? null : { seconds: advice.seconds, spread: advice.spread ?? 0 };
  const box = { x0: seconds.lower, x1: seconds.upper, y0: cup.lower, y1: cup.upper };
  const axes = axesFor(
    [
      box.x0 - 4,
      box.x1 + 4,
      ...(next ? [within(next.seconds, box.x0, box.x1)] : []),
      ...[...now, ...past].map((p) => p.at.x),
    ],
    [box.y0 - 4, box.y1 + 4, ...[...now, ...past].map((p) => p.at.y)],
  );
  const { x, y } = axes;
  const inside = (px: number) => Math.min(WIDTH - PAD.right, Math.max(PAD.left, px));
  const good = now.filter((p) => p.verdict === "holds" || p.verdict === "just holds").length;
  const off = now.filter((p) => p.at.x !== p.seconds || p.at.y !== p.yield);
  const said = [
    `${now.length} ${now.length === 1 ? "shot" : "shots"}, ${good} in spec; the box is ${box.x0.toFixed(0)} to ${box.x1.toFixed(0)} s and ${box.y0.toFixed(0)} to ${box.y1.toFixed(0)} g.`,
    next ? `The next is thought to take ${next.seconds.toFixed(0)} ± ${Math.ceil(next.spread)} s.` : "",
    off.length > 0 ? `Further off, at the edge: ${off.map((p) => `shot ${p.number}`).join(", ")}.` : "",
    past.length > 0 ? `${past.length} of the last visit are drawn small.` : "",
  ]
    .filter(Boolean)
    .join(" ");
  return (
    <Chart title="Every shot against the recipe" said={said}>
      <rect
        x={x(box.x0)}
        y={y(box.y1)}
        width={x(box.x1) - x(box.x0)}
        height={y(box.y0) - y(box.y1)}
        fill="var(--brass-wash)"
        stroke="var(--brass)"
      />
      <Frame axes={axes} xLabel="s" yLabel="g in the cup" />
      {next && (
        <g stroke="var(--brass)" strokeWidth={1.75} fill="none" strokeDasharray="4 3">
          <path
            d={`M${inside(x(next.seconds - next.spread))} ${y(recipe.yield.target)}H${inside(x(next.seconds + next.spread))}`}
          />
          <circle cx={x(within(next.seconds, box.x0, box.x1))} cy={y(recipe.yield.target)} r={7} />
        </g>
      )}
      {past.map((p, i) => (
        // Shots of the past never change their order.
        <circle key={i} cx={x(p.at.x)} cy={y(p.at.y)} r={2.5} fill="var(--soft)" />
      ))}
      {now.map((p) => (
        <g key={p.number}>
          {(p.choked || p.at.x < p.seconds) && (
            <path
              d={`M${x(p.at.x) + 8} ${y(p.at.y)}h10m-4 -4l4 4l-4 4`}
              stroke="var(--ink)"
              strokeWidth={1.5}
              fill="none"
            />
          )}
          <circle cx={x(p.at.x)} cy={y(p.at.y)} r={8} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.5} />
          <text x={x(p.at.x)} y={y(p.at.y)} dy="0.35em" textAnchor="middle" fontSize={11} fill="var(--ink)">
            {p.number}
          </text>
        </g>
      ))}
      <path d={`M${PAD.left} ${HEIGHT - PAD.bottom}V${PAD.top}`} stroke="var(--rule)" />
    </Chart>
  );
}
