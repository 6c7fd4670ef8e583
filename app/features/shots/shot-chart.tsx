import type { ShotsView } from "~server/jobs/views/shots";
import { Chart, Frame, HEIGHT, PAD, WIDTH, axesFor } from "~app/ui/chart";

/** Grams against seconds: does a try land in the box, and where is the next one thought to? */
export default function ShotChart({ view }: { view: ShotsView }) {
  const { recipe, advice } = view;
  const now = view.tries.flatMap((t) => (t.point ? [{ ...t.point, number: t.number, verdict: t.verdict }] : []));
  const past = view.before?.points ?? [];
  const next =
    advice.seconds === null || advice.kind === "keep" ? null : { seconds: advice.seconds, spread: advice.spread ?? 0 };
  const box = { x0: recipe.seconds.lower, x1: recipe.seconds.upper, y0: recipe.yield.lower, y1: recipe.yield.upper };
  const axes = axesFor(
    [
      box.x0 - 4,
      box.x1 + 4,
      ...(next ? [next.seconds] : []),
      ...now.map((p) => p.seconds),
      ...past.map((p) => p.seconds),
    ],
    [box.y0 - 4, box.y1 + 4, ...now.map((p) => p.yield), ...past.map((p) => p.yield)],
  );
  const { x, y } = axes;
  const inside = now.filter((p) => p.verdict === "holds" || p.verdict === "just holds").length;
  const said = [
    `${now.length} ${now.length === 1 ? "shot" : "shots"}, ${inside} in the box of ${box.x0.toFixed(0)} to ${box.x1.toFixed(0)} s and ${box.y0.toFixed(0)} to ${box.y1.toFixed(0)} g.`,
    next ? `The next is thought to take ${next.seconds.toFixed(0)} ± ${Math.ceil(next.spread)} s.` : "",
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
            d={`M${Math.max(PAD.left, x(next.seconds - next.spread))} ${y(recipe.yield.target)}H${Math.min(WIDTH - PAD.right, x(next.seconds + next.spread))}`}
          />
          <circle cx={x(next.seconds)} cy={y(recipe.yield.target)} r={7} />
        </g>
      )}
      {past.map((p, i) => (
        // Shots of the past never change their order.
        <circle key={i} cx={x(p.seconds)} cy={y(p.yield)} r={2.5} fill="var(--soft)" />
      ))}
      {now.map((p) => (
        <g key={p.number}>
          {p.choked && (
            <path
              d={`M${x(p.seconds) + 8} ${y(p.yield)}h10m-4 -4l4 4l-4 4`}
              stroke="var(--ink)"
              strokeWidth={1.5}
              fill="none"
            />
          )}
          <circle cx={x(p.seconds)} cy={y(p.yield)} r={8} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.5} />
          <text x={x(p.seconds)} y={y(p.yield)} dy="0.35em" textAnchor="middle" fontSize={11} fill="var(--ink)">
            {p.number}
          </text>
        </g>
      ))}
      <path d={`M${PAD.left} ${HEIGHT - PAD.bottom}V${PAD.top}`} stroke="var(--rule)" />
    </Chart>
  );
}
