import { Suspense, lazy, useCallback, useEffect, useState } from "react";
import { Link } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/shots";
import { ClockPanel, Forecast, WeighNow } from "./clock";
import { NextChange } from "./next-change";
import { ShotEntry } from "./shot-entry";
import { loadShots, writeShots } from "./shots.server";
import { Tries } from "./tries";
import { useScale } from "./use-scale";
import { useShotClock } from "./use-shot-clock";
import { useKeys } from "~app/ui/keys";
import { noteShown } from "~app/ui/shown";
import type { EntryAnswer } from "~app/ui/use-entry";
import type { Weighed } from "~core/shot";
import type { ShotsView, TryView } from "~server/jobs/shots-view";
import { id, notFound, reading, who } from "~server/web";

const ShotChart = lazy(() => import("./shot-chart"));
const Compare = lazy(() => import("./compare"));

/** The room of the shots: a clock for wet hands, the tries, and the one thing to change. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const person = who(context);
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  const view = await reading(() => loadShots(person, jobId.data));
  if (!view || view.machine.groups === 0) throw notFound();
  return { view, shows: { jobId: view.job.id, revision: view.job.revision }, newId: uuidv7() };
}

export async function action({ params, context, request }: Route.ActionArgs) {
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  return writeShots(() => who(context), jobId.data, await request.formData());
}

export async function clientAction({ serverAction }: Route.ClientActionArgs) {
  try {
    return await serverAction();
  } catch (error) {
    // Only a lost connection is answered here; redirects and refusals of the server go their way.
    if (!(error instanceof TypeError)) throw error;
    return { outcome: "unreachable" as const };
  }
}

/** What was saved brings the room with it: nothing is asked for twice. */
export function shouldRevalidate({
  actionResult,
  defaultShouldRevalidate,
}: {
  actionResult?: { outcome?: string; view?: unknown };
  defaultShouldRevalidate: boolean;
}) {
  return actionResult?.outcome === "unreachable" || actionResult?.view ? false : defaultShouldRevalidate;
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `Shots, ${loaderData?.view.machine.site ?? "job"} · Nimble Gauge` },
];

export const handle = {
  keys: [
    { keys: "p", does: "Pump on: start the clock" },
    { keys: "d", does: "First drop" },
    { keys: "s", does: "Stop" },
    { keys: "c", does: "Clear the clock" },
    { keys: "g", does: "To the grams in the cup" },
    { keys: "Enter", does: "Note the shot" },
  ],
};

/** The newest of what the loader and the last answer brought. */
function useNewest(loaded: ShotsView) {
  const [answered, setAnswered] = useState<ShotsView | null>(null);
  const newest =
    answered && answered.job.revision >= loaded.job.revision && answered.at > loaded.at ? answered : loaded;
  const onAnswer = useCallback((answer: EntryAnswer) => {
    const view = (answer as { view?: ShotsView | null }).view;
    if (!view) return;
    noteShown(view.job.id, view.job.revision);
    setAnswered(view);
  }, []);
  return [newest, onAnswer] as const;
}

export default function Shots({ loaderData }: Route.ComponentProps) {
  const { newId } = loaderData;
  const [view, onAnswer] = useNewest(loaderData.view);
  const clock = useShotClock(view.job.id, view.clock, view.at);
  const [picked, setPicked] = useState<string[]>([]);
  const [correcting, setCorrecting] = useState<TryView | null>(null);
  const [weighed, setWeighed] = useState<{ clockId: string | null; all: Weighed[] }>({ clockId: null, all: [] });
  const [listening, setListening] = useState(false);
  const scale = useScale(view.job.id, listening, clock);
  const typed = weighed.clockId === clock.clockId ? weighed.all : [];
  const known = listening ? scale.weighed : typed;
  const stored = view.stored.find((p) => p.by === view.carried.by && String(p.group) === view.carried.group);
  const signed = view.job.state === "signed";

  useKeys({
    p: () => clock.tap("pump"),
    d: () => clock.tap("first-drop"),
    s: () => clock.tap("stop"),
    c: () => clock.tap("cleared"),
    g: () => document.querySelector<HTMLElement>("#gauge [name=yield]")?.focus(),
  });
  // Keys and taps work from here on: for those who test it, and for nobody else.
  const [ready, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  const saved = (answer: EntryAnswer) => {
    clock.done();
    onAnswer(answer);
  };
  const last = view.tries.at(-1)?.id ?? "none";
  return (
    <main id="main" {...(ready ? { "data-ready": "" } : {})}>
      <div className="grid min-h-full wide:grid-cols-[minmax(0,1fr)_27rem]">
        <section
          id="gauge"
          aria-label="Shot"
          className="grid content-start gap-4 bg-sheet p-4 wide:order-2 wide:border-l-2 wide:border-rule wide:p-5"
        >
          {/* On a phone the advice stands further down: its headline goes before the clock. */}
          <p className="text-lg leading-tight font-bold wide:hidden">{view.advice.headline}</p>
          {view.job.blocked && <p className="border-l-4 border-brass pl-3">First on the sheet: {view.job.blocked}</p>}
          {!signed && (
            <ClockPanel clock={clock}>
              <Forecast clock={clock} expected={view.expected} weighed={known} stored={stored?.grams ?? null} />
              {listening ? (
                <p className="figure text-3xl font-semibold" role="status" aria-live="off">
                  {scale.grams === null ? "–.–" : scale.grams.toFixed(1)} g
                  <span className="ml-3 text-base font-normal">on the bench scale, stand-in</span>
                </p>
              ) : (
                <WeighNow
                  clock={clock}
                  onWeigh={(one) => setWeighed({ clockId: clock.clockId, all: [...typed, one] })}
                />
              )}
              <label className="flex min-h-11 cursor-pointer items-center gap-3 text-sm">
                <input
                  type="checkbox"
                  checked={listening}
                  onChange={(e) => setListening(e.target.checked)}
                  className="size-5 accent-ink"
                />
                Read the bench scale (stand-in)
              </label>
            </ClockPanel>
          )}
          {signed && (
            <p className="border-l-8 border-brass bg-brass-wash p-3">
              This job is signed. A shot added now stands beside it as an amendment, with the reason; what was signed
              stays as it was.
            </p>
          )}
          {correcting ? (
            <section aria-label="Correction" className="grid gap-3 border-2 border-brass p-4">
              <div className="flex items-center justify-between gap-2">
                <p>Correct shot {correcting.number}. The old line stays on record.</p>
                <button
                  type="button"
                  onClick={() => setCorrecting(null)}
                  className="min-h-11 cursor-pointer px-2 underline underline-offset-4"
                >
                  Leave it
                </button>
              </div>
              <ShotEntry
                key={correcting.id}
                view={view}
                newId={newId}
                clockId={null}
                clock={{}}
                correcting={correcting}
                onSaved={(answer) => {
                  setCorrecting(null);
                  onAnswer(answer);
                }}
              />
            </section>
          ) : (
            <ShotEntry
              key={last}
              view={view}
              newId={newId}
              clockId={clock.clockId}
              clock={clock.clock}
              scale={scale}
              onSaved={saved}
            />
          )}
        </section>
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
          <NextChange view={view} newId={newId} onSaved={onAnswer} />
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
            <Tries
              view={view}
              picked={picked}
              onPick={(shot) =>
                setPicked((all) => (all.includes(shot) ? all.filter((x) => x !== shot) : [...all.slice(-1), shot]))
              }
              onCorrect={setCorrecting}
            />
          </div>
        </div>
      </div>
    </main>
  );
}
