import { Suspense } from "react";
import { Link } from "react-router";
import { Clock } from "~app/ui/dates";
import { lazyPart } from "~app/ui/lazy-part";
import type { ShotsView } from "~server/jobs/views/shots";

const TraceChart = lazyPart(() => import("./trace-chart"));

/** What loggers wrote down on this visit: the newest or the picked one drawn, the others to pick. */
export function Traces({ view: { traces, job } }: { view: ShotsView }) {
  const { list, picked, view } = traces;
  if (list.length === 0 && job.state === "signed") return null;
  const shown = list.find((t) => t.id === picked);
  return (
    <section aria-labelledby="traces" className="grid gap-3">
      <h2 id="traces" className="text-lg font-bold">
        Traces
      </h2>
      {shown && view && (
        <Suspense fallback={<p className="text-sm text-soft">Drawing…</p>}>
          <TraceChart view={view} title={titleOf(shown)} />
        </Suspense>
      )}
      {list.length > 1 && (
        <ul className="divide-y divide-rule bg-sheet">
          {list.map((t) => (
            <li key={t.id} className="flex flex-wrap items-baseline justify-between gap-x-4 px-3 py-1">
              <Link
                to={`?trace=${t.id}`}
                preventScrollReset
                aria-current={t.id === picked ? "true" : undefined}
                className="inline-flex min-h-11 items-center underline underline-offset-4 aria-[current]:font-bold aria-[current]:no-underline"
              >
                {titleOf(t)}
              </Link>
              <span className="text-sm text-soft">
                <Clock iso={t.at} />
              </span>
            </li>
          ))}
        </ul>
      )}
      {job.state === "open" && (
        <Link
          to={`/jobs/${job.id}/trace`}
          className="inline-flex min-h-11 items-center justify-self-start underline decoration-edge underline-offset-4"
        >
          Add a trace from a logger
        </Link>
      )}
    </section>
  );
}

type Listed = ShotsView["traces"]["list"][number];

const titleOf = ({ shot, file }: Listed) => (shot === null ? `${file}, of no shot here` : `Shot ${shot}, ${file}`);
