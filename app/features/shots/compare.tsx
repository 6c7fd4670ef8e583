import type { ShotsView } from "~server/jobs/views/shots";
import { useDates } from "~app/ui/dates";
import { compareShots } from "~core/shot";

/** Two shots side by side, the earlier one first: does what lies between them show? */
export default function Compare({ view, picked }: { view: ShotsView; picked: readonly string[] }) {
  const { day } = useDates();
  const earlier = (view.before?.shots ?? []).map((s) => ({
    ...s,
    name: `shot ${s.number} of ${day(view.before!.at)}`,
  }));
  const all = [...earlier, ...view.tries.map((t) => ({ ...t, name: `shot ${t.number}` }))];
  const [a, b] = all.filter((t) => picked.includes(t.id));
  if (!a || !b) return null;
  const { lines, says } = compareShots(a.pull, b.pull, view.recipe.from);
  return (
    <section aria-label="Two shots compared" className="grid gap-2 border-t-2 border-rule pt-3">
      <h2 className="font-bold">
        {a.name.replace(/^s/, "S")} and {b.name}
      </h2>
      <p>{says}</p>
      <table className="w-full text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th scope="col">what</th>
            <th scope="col">{a.name}</th>
            <th scope="col">{b.name}</th>
            <th scope="col">difference ± normal variation</th>
          </tr>
        </thead>
        <tbody className="divide-y divide-rule border-y border-rule">
          {lines.map((l) => (
            <tr key={l.what}>
              <th scope="row" className="py-1.5 font-semibold">
                {l.what}
              </th>
              <td className="figure">{l.a.toFixed(1)}</td>
              <td className="figure">{l.b.toFixed(1)}</td>
              <td className="figure">
                {l.by.value < 0 ? "−" : "+"}
                {Math.abs(l.by.value).toFixed(1)} {l.unit}, ± {l.by.U.toFixed(1)}
                {l.tells && <strong> clear difference</strong>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
