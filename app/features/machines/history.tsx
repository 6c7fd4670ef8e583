import { Link } from "react-router";
import { Day, useDates } from "~app/ui/dates";
import { Strip } from "~app/ui/strip";
import { VerdictMark } from "~app/ui/verdict";
import type { Verdict } from "~core/metrology";
import { formatFigure, formatQuantity, unitById } from "~core/quantity";

/** The life of a machine on one line of time, newest first: visits with their work and shots, and what was changed between them. */

interface Mark {
  value: number;
  U: number;
  resolution: number;
  verdict: Verdict;
}

export interface Visited {
  id: string;
  /** ISO moment */
  at: string;
  title: string;
  pressure: {
    asFound: Mark;
    asLeft: Mark;
    tolerance: { lower?: number | undefined; upper?: number | undefined };
  } | null;
  complaint: string;
  finding: string | null;
  skipped: number;
  work: readonly string[];
  left: readonly string[];
  shots: number;
  taken: string | null;
}

export interface Changed {
  id: string;
  /** ISO day */
  on: string;
  by: string;
  text: string;
}

/** A visit from before this product. */
export interface Before {
  id: string;
  /** ISO day */
  on: string;
  by: string;
  file: string;
  /** Readings as they are said, then work and note. */
  readings: string;
  words: readonly string[];
}

export function History({
  visits,
  changes,
  before,
  unit,
}: {
  visits: readonly Visited[];
  changes: readonly Changed[];
  before: readonly Before[];
  unit: string;
}) {
  if (visits.length + changes.length + before.length === 0)
    return <p className="bg-sheet p-4">No signed visit yet. The first one will stand here, found and left.</p>;
  const all = [
    ...visits.map((v) => ({ key: v.id, when: v.at, item: <Visit visit={v} unit={unit} /> })),
    ...changes.map((c) => ({ key: c.id, when: c.on, item: <Change change={c} /> })),
    ...before.map((b) => ({ key: b.id, when: b.on, item: <Earlier visit={b} /> })),
  ].sort((a, b) => (a.when < b.when ? 1 : -1));
  return (
    <ol className="grid gap-px border-l-4 border-rule bg-rule">
      {all.map(({ key, item }) => (
        <li key={key} className="bg-sheet">
          {item}
        </li>
      ))}
    </ol>
  );
}

function Change({ change: c }: { change: Changed }) {
  return (
    <div className="flex flex-wrap gap-x-4 px-3 py-2.5">
      <span className="w-30 font-semibold">
        <Day iso={c.on} />
      </span>
      <span className="min-w-0 flex-1">{c.text}</span>
      <span className="text-sm text-soft">{c.by}</span>
    </div>
  );
}

function Earlier({ visit: { on, by, file, readings, words } }: { visit: Before }) {
  return (
    <div className="grid gap-x-4 gap-y-1 px-3 py-2.5 sm:grid-cols-[7.5rem_1fr_auto]">
      <span className="font-semibold">
        <Day iso={on} />
      </span>
      <span className="min-w-0">
        {readings && <span className="figure block">{readings}</span>}
        {words.map((w) => (
          <span key={w} className="block text-sm break-words">
            {w}
          </span>
        ))}
      </span>
      <span className="text-sm text-soft">
        {by}
        <span className="block">from {file}</span>
      </span>
    </div>
  );
}

function Visit({ visit: v, unit }: { visit: Visited; unit: string }) {
  const { day } = useDates();
  const u = unitById(unit);
  const p = v.pressure;
  return (
    <>
      <Link
        to={`/jobs/${v.id}`}
        className="grid items-center gap-x-4 gap-y-1 px-3 py-2.5 hover:bg-well sm:grid-cols-[7.5rem_12rem_1fr_auto]"
      >
        <span>
          <span className="block font-semibold">
            <Day iso={v.at} />
          </span>
          <span className="block text-sm text-soft">{v.title.toLowerCase()}</span>
        </span>
        {p ? (
          <>
            <Strip
              tolerance={p.tolerance}
              found={p.asFound}
              left={p.asLeft}
              unit={unit}
              resolution={p.asLeft.resolution}
              size="row"
              label={`Brew pressure, visit of ${day(v.at)}`}
            />
            <span className="figure whitespace-nowrap">
              {formatFigure(p.asFound.value, p.asFound.resolution, u)} →{" "}
              {formatQuantity(p.asLeft.value, p.asLeft.resolution, u)}
            </span>
            <VerdictMark verdict={p.asLeft.verdict} />
          </>
        ) : (
          <span className="text-sm text-soft sm:col-span-3">no brew pressure read</span>
        )}
        {(v.finding || v.complaint || v.skipped > 0) && (
          <span className="text-sm text-soft sm:col-start-2 sm:col-end-5">
            {v.finding || v.complaint}
            {v.skipped > 0 && ` ${v.skipped} ${v.skipped === 1 ? "step" : "steps"} skipped.`}
          </span>
        )}
      </Link>
      <More visit={v} />
    </>
  );
}

/** Work, faults left in and shots of a visit; folded away where there is much of it. */
function More({ visit: { work, left, shots, taken } }: { visit: Visited }) {
  if (work.length + left.length + shots === 0) return null;
  const parts = [
    work.length > 0 ? `${work.length} ${work.length === 1 ? "line" : "lines"} of work` : "",
    left.length > 0 ? `${left.length} left in` : "",
    shots > 0 ? `${shots} ${shots === 1 ? "shot" : "shots"}` : "",
  ];
  return (
    <details className="px-3 pb-2 text-sm">
      <summary className="min-h-11 cursor-pointer py-2.5 text-soft">{parts.filter(Boolean).join(", ")}</summary>
      <ul className="grid gap-1 pb-1">
        {work.map((said) => (
          <li key={said}>{said}</li>
        ))}
        {left.map((said) => (
          <li key={said}>Left in: {said}</li>
        ))}
        {taken && <li>Recipe: {taken}</li>}
      </ul>
    </details>
  );
}
