import { Suspense, memo, useState } from "react";
import { lazyPart } from "~app/ui/lazy-part";
import { Link } from "react-router";
import type { ShotsView, TryView } from "~server/jobs/views/shots";
import { NextChange } from "./next-change";
import { Traces } from "./traces";
import { Earlier, Tries } from "./tries";
import type { EntryAnswer } from "~app/ui/use-entry";

const ShotChart = lazyPart(() => import("./shot-chart"));
const Compare = lazyPart(() => import("./compare"));

interface Props {
  view: ShotsView;
  newId: string;
  onSaved: (answer: EntryAnswer) => void;
  onCorrect: (shot: TryView) => void;
}

/** What the shots came to: the recipe, the one thing to change, the chart, the tries. Not drawn again by a running clock. */
export const ShotsLog = memo(function ShotsLog({ view, newId, onSaved, onCorrect }: Props) {
  const [picked, setPicked] = useState<string[]>([]);
  const pick = (shot: string) =>
    setPicked((all) => (all.includes(shot) ? all.filter((x) => x !== shot) : [...all.slice(-1), shot]));
  return (
    <div className="grid content-start gap-5 p-4 wide:p-6">
      <header className="grid gap-1">
        <p className="flex flex-wrap items-baseline justify-between gap-x-4 text-sm">
          <span className="text-soft">
            {view.machine.site}, {view.machine.name}
          </span>
          <Link
            to={`/jobs/${view.job.id}`}
            className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4"
          >
            Back to the sheet
          </Link>
        </p>
        <h1 className="text-2xl font-bold tracking-tight">Calibration shots</h1>
        <p className="figure">
          {view.recipe.words}, by {view.recipe.by}.
        </p>
      </header>
      {view.doseAgain && (
        <p role="status" className="border-l-8 border-brass bg-brass-wash p-3 font-semibold">
          {view.doseAgain}{" "}
          <Link to={`/jobs/${view.job.id}?at=grinder`} className="underline underline-offset-4">
            To the dose
          </Link>
        </p>
      )}
      <NextChange view={view} newId={newId} onSaved={onSaved} />
      <div className="grid items-start gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="grid gap-4 xl:order-2">
          {(view.tries.length > 0 || view.before) && (
            <Suspense fallback={<p className="text-sm text-soft">Drawing…</p>}>
              <ShotChart view={view} />
            </Suspense>
          )}
          {picked.length === 2 && (
            <Suspense>
              <Compare view={view} picked={picked} />
            </Suspense>
          )}
        </div>
        <div className="grid gap-4">
          <Tries view={view} picked={picked} onPick={pick} onCorrect={onCorrect} />
          <Earlier view={view} picked={picked} onPick={pick} />
          <Traces view={view} />
        </div>
      </div>
    </div>
  );
});
