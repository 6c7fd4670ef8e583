import { Link } from "react-router";
import type { SinceLast } from "~server/jobs/views/since-last";
import { Day } from "~app/ui/dates";
import { VerdictMark } from "~app/ui/verdict";

/** At the top of a visit that has begun: how the last one left the machine, and what was changed since. */
export function SinceLastVisit({ since }: { since: SinceLast | null }) {
  if (!since) return null;
  const { changes, carried, left } = since;
  const news = [
    changes.length > 0 ? `${changes.length} ${changes.length === 1 ? "change" : "changes"}` : "",
    carried.length > 0 ? `${carried.length} left open` : "",
  ].filter(Boolean);
  return (
    <details className="w-full text-sm" open={changes.length > 0 ? true : undefined}>
      <summary className="min-h-11 cursor-pointer py-2.5">
        Since the last visit, <Day iso={since.on} />: {news.length > 0 ? news.join(", ") : "nothing changed"}
      </summary>
      <ul className="grid gap-1 pb-2">
        {changes.map((c) => (
          <li key={c.id}>
            <strong>
              <Day iso={c.on} />: {c.said}
            </strong>
            {c.by && <span className="text-soft"> {c.by}</span>}
          </li>
        ))}
        {carried.map((c) => (
          <li key={c.id}>{c.said}</li>
        ))}
        {left.map((l) => (
          <li key={l.id} className="flex flex-wrap gap-x-2">
            {l.title}: <span className="figure">{l.text}</span> <VerdictMark verdict={l.verdict} />
          </li>
        ))}
        <li>
          <Link to={`/jobs/${since.jobId}`} className="inline-flex min-h-11 items-center underline underline-offset-4">
            The last visit
          </Link>
        </li>
      </ul>
    </details>
  );
}
