import type { ShotsView, TryView } from "~server/jobs/views/shots";
import { Clock, Day } from "~app/ui/dates";
import { VerdictMark } from "~app/ui/verdict";

interface Props {
  view: ShotsView;
  picked: readonly string[];
  onPick: (id: string) => void;
  onCorrect: (shot: TryView) => void;
}

/** The ladder of tries, newest on top: what was changed on the rung before each, what came of it. */
export function Tries({ view, picked, onPick, onCorrect }: Props) {
  if (view.tries.length === 0)
    return <p className="bg-sheet p-4">No shot yet. The first one stands here, with what it came to.</p>;
  return (
    <ol aria-label="Tries" reversed className="grid">
      {[...view.tries].reverse().map((shot) => (
        <li key={shot.id} className="grid grid-cols-[3.25rem_minmax(0,1fr)] border-t border-rule">
          <div className="grid content-start justify-items-center border-l-4 border-edge py-2">
            <span className="figure text-xl font-semibold">{shot.pull.preGround ? "–" : shot.pull.setting}</span>
            <span className="text-sm text-soft">{shot.pull.preGround ? "pre-ground" : "grind"}</span>
          </div>
          <Rung shot={shot} view={view} picked={picked} onPick={onPick} onCorrect={onCorrect} />
        </li>
      ))}
    </ol>
  );
}

/** Shots of the last visit, to be compared with those of this one. */
export function Earlier({ view, picked, onPick }: Omit<Props, "onCorrect">) {
  const { before } = view;
  if (!before || before.shots.length === 0) return null;
  return (
    <details className="border-t border-rule">
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
        Shots of the last visit, <Day iso={before.at} />
      </summary>
      <ul aria-label="Shots of the last visit" className="divide-y divide-rule">
        {before.shots.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-x-4">
            <span className="figure flex-1">
              Shot {s.number}, grind {s.pull.setting}: {s.said}
            </span>
            <Compare id={s.id} what={`shot ${s.number} of the last visit`} picked={picked} onPick={onPick} />
          </li>
        ))}
      </ul>
    </details>
  );
}

function Rung({ shot, view, picked, onPick, onCorrect }: Props & { shot: TryView }) {
  const off = shot.outside.map((what) => `the ${what}`);
  return (
    <div className="grid gap-1 py-2 pl-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="font-semibold">
          Shot {shot.number}
          {shot.accepted && ", the recipe"}
          {shot.amends && ", added after signing"}
        </h2>
        <VerdictMark verdict={shot.verdict} />
        {off.length > 0 && <span className="text-sm">{off.join(", ")}</span>}
        <span className="ml-auto text-sm text-soft">
          {shot.by}, <Clock iso={shot.at} />
        </span>
      </div>
      <p className="figure">{shot.said}</p>
      {shot.changed.length > 0 && <p className="text-sm">Changed: {shot.changed.join(", ")}.</p>}
      {[shot.tooMany, ...shot.notes, shot.early ? "Not warmed up." : "", shot.reason].filter(Boolean).map((line) => (
        <p key={line} className="border-l-4 border-brass pl-2 text-sm">
          {line}
        </p>
      ))}
      <div className="flex flex-wrap items-center gap-x-4">
        <details className="min-w-0">
          <summary className="min-h-11 cursor-pointer py-2.5 text-sm underline decoration-edge underline-offset-4">
            All of shot {shot.number}
          </summary>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 pb-2 text-sm">
            {[{ name: "Coffee", text: shot.coffee }, ...shot.facts].map((f) => (
              <div key={f.name} className="contents">
                <dt className="text-soft">{f.name}</dt>
                <dd className="figure">{f.text}</dd>
              </div>
            ))}
          </dl>
        </details>
        <Compare id={shot.id} what={`shot ${shot.number}`} picked={picked} onPick={onPick} />
        {(view.job.state === "open" || shot.amends) && (
          <button
            type="button"
            onClick={() => onCorrect(shot)}
            className="min-h-11 cursor-pointer text-sm underline decoration-edge underline-offset-4"
          >
            Correct<span className="sr-only"> shot {shot.number}</span>
          </button>
        )}
      </div>
    </div>
  );
}

function Compare({ id, what, picked, onPick }: Pick<Props, "picked" | "onPick"> & { id: string; what: string }) {
  return (
    <label className="flex min-h-11 cursor-pointer items-center gap-2 text-sm">
      <input
        type="checkbox"
        checked={picked.includes(id)}
        onChange={() => onPick(id)}
        className="size-5 shrink-0 accent-ink"
      />
      Compare<span className="sr-only"> {what}</span>
    </label>
  );
}
