import { useCallback, useEffect, useState } from "react";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/shots";
import { ClockZone } from "./clock-zone";
import { ShotEntry } from "./shot-entry";
import { loadShots, writeShots } from "./shots.server";
import { ShotsLog } from "./shots-log";
import { CorrectionFrame } from "~app/ui/correction";
import { leadTo, useKeys } from "~app/ui/keys";
import { noteShown, unlessAnswered } from "~app/ui/shown";
import type { EntryAnswer } from "~app/ui/use-entry";
import type { ShotClock } from "~core/shot";
import { formOf } from "~server/body";
import type { ShotsView, TryView } from "~server/jobs/views/shots";
import { id, notFound, reading, who } from "~server/web";

/** The room of the shots: a clock for wet hands, the tries, and the one thing to change. */
const pickedIn = (request: Request) => new URL(request.url).searchParams.get("trace");

export async function loader({ params, context, request }: Route.LoaderArgs) {
  const person = who(context);
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  const view = await reading(() => loadShots(person, jobId.data, pickedIn(request)));
  if (!view || view.machine.groups === 0) throw notFound();
  return { view, shows: { jobId: view.job.id, revision: view.job.revision }, newId: uuidv7() };
}

export async function action({ params, context, request }: Route.ActionArgs) {
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  return writeShots(() => who(context), jobId.data, await formOf(request), pickedIn(request));
}

export const shouldRevalidate = unlessAnswered;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `Shots, ${loaderData?.view.machine.site ?? "job"} · Nimble Gauge` },
];

/** A signed job has no clock. */
const CLOCK = "[data-clock]";

export const handle = {
  keys: [
    { action: "pump", at: CLOCK },
    { action: "drop", at: CLOCK },
    { action: "stop", at: CLOCK },
    { action: "clear", at: CLOCK },
    { action: "grams" },
    { keys: "Enter", does: "Save shot" },
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

const NO_CLOCK: ShotClock = {};

export default function Shots({ loaderData }: Route.ComponentProps) {
  const { newId } = loaderData;
  const [view, onAnswer] = useNewest(loaderData.view);
  const [correcting, setCorrecting] = useState<TryView | null>(null);
  // Keys and taps work from here on: for those who test it, and for nobody else.
  const [ready, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  const signed = view.job.state === "signed";
  useKeys({ grams: () => leadTo(document, "#gauge [name=yield]") });
  return (
    <main id="main" {...(ready ? { "data-ready": "" } : {})}>
      <div className="grid min-h-full grid-cols-1 short:grid-cols-2 wide:grid-cols-[minmax(0,1fr)_27rem]">
        <section
          id="gauge"
          aria-label="Shot"
          className="grid content-start gap-4 bg-sheet p-4 short:order-2 wide:order-2 wide:border-l-2 wide:border-rule wide:p-5"
        >
          {/* On a phone the advice stands further down: its headline goes before the clock. */}
          <p className="text-lg leading-tight font-bold wide:hidden">{view.advice.headline}</p>
          {view.job.blocked && <p className="border-l-4 border-brass pl-3">First on the sheet: {view.job.blocked}</p>}
          {signed && (
            <p className="border-l-8 border-brass bg-brass-wash p-3">
              This job is signed. A shot added now stands beside it as an amendment, with the reason; what was signed
              stays as it was.
            </p>
          )}
          {correcting && (
            <CorrectionFrame what={`shot ${correcting.number}`} onLeave={() => setCorrecting(null)}>
              <ShotEntry
                key={correcting.id}
                view={view}
                newId={newId}
                clockId={null}
                clock={NO_CLOCK}
                correcting={correcting}
                onSaved={(answer) => {
                  setCorrecting(null);
                  onAnswer(answer);
                }}
              />
            </CorrectionFrame>
          )}
          {!signed && <ClockZone view={view} newId={newId} onSaved={onAnswer} open={!correcting} />}
          {signed && !correcting && (
            <ShotEntry
              key={view.tries.at(-1)?.id ?? "none"}
              view={view}
              newId={newId}
              clockId={null}
              clock={NO_CLOCK}
              onSaved={onAnswer}
            />
          )}
        </section>
        <ShotsLog view={view} newId={newId} onSaved={onAnswer} onCorrect={setCorrecting} />
      </div>
    </main>
  );
}
