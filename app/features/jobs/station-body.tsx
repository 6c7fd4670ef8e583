import type { StationBrief, StationView, TaskView } from "~server/jobs/views/station";
import { EntryForm } from "~app/ui/entry-form";
import type { StationProps } from "./station-props";
import { TaskBody } from "./tasks";
import { TaskGroup } from "./tasks/group";
import { isAtGauge, isUndone } from "./undone";
import { useEntry } from "~app/ui/use-entry";
import { Button, ButtonLink } from "~app/ui/button";
import { TextField } from "~app/ui/field";

/** The open station: its cautions, then its tasks in order, and the way to leave it out. */
export function StationBody({ station, ...props }: StationProps & { station: StationView }) {
  const { sheet, newId } = props;
  return (
    <>
      {station.cautions.length > 0 && <Cautions lines={station.cautions} />}
      {station.list.length > 0 && <Laid out={station.list} />}
      {together(station.tasks).map((tasks) => (
        <div
          key={tasks[0]!.id}
          id={`task-${tasks[0]!.id}`}
          data-undone={undoneIn(tasks, sheet)}
          className="scroll-my-24 empty:hidden"
        >
          {tasks.length > 1 ? (
            <TaskGroup tasks={tasks} sheet={sheet} newId={newId} unit={props.unit} />
          ) : (
            <TaskBody task={tasks[0]!} sheet={sheet} newId={newId} unit={props.unit} person={props.person} />
          )}
        </div>
      ))}
      {station.triesShots && (
        <ButtonLink to={`/jobs/${sheet.job.id}/shots`} className="justify-self-start">
          Pull a shot to see
        </ButtonLink>
      )}
      {sheet.next && sheet.job.state === "open" && (
        <ButtonLink
          to={`?at=${sheet.next.id}`}
          preventScrollReset
          look="main"
          data-next=""
          className="justify-self-start max-wide:hidden"
        >
          Next: {sheet.next.title}
        </ButtonLink>
      )}
      {station.skippable && station.state !== "done" && station.state !== "skipped" && sheet.job.state === "open" && (
        <Skip jobId={sheet.job.id} newId={newId} station={station} />
      )}
    </>
  );
}

/** Something of these still has to be done, and where; the focus goes there after a save. */
function undoneIn(tasks: readonly TaskView[], { loop, job }: StationProps["sheet"]) {
  const undone = job.state === "open" ? tasks.find(isUndone) : undefined;
  return undone && (isAtGauge(undone, loop) ? "gauge" : "");
}

/** Tasks that one form takes are next to each other; every other stands alone. */
function together(tasks: StationView["tasks"]) {
  const groups: StationView["tasks"][] = [];
  for (const task of tasks) {
    const last = groups.at(-1);
    if (task.grouped && last?.[0]?.grouped === task.grouped) last.push(task);
    else groups.push([task]);
  }
  return groups as Parameters<typeof TaskGroup>[0]["tasks"][];
}

function Cautions({ lines }: { lines: readonly string[] }) {
  return (
    <ul aria-label="Cautions" className="grid gap-1 border-l-4 border-alarm pl-3 text-sm">
      {lines.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}

function Laid({ out }: { out: readonly string[] }) {
  return (
    <ul className="grid gap-1 sm:grid-cols-2">
      {out.map((t) => (
        <li key={t} className="flex gap-2.5">
          <span aria-hidden="true" className="mt-2 h-1.5 w-3 shrink-0 bg-brass" />
          {t}
        </li>
      ))}
    </ul>
  );
}

function Skip({ jobId, newId, station }: { jobId: string; newId: string; station: StationView }) {
  const entry = useEntry("skip", jobId, newId, { key: `skip-${station.id}` });
  return (
    <details className="border-t border-rule pt-1">
      <summary className="min-h-11 cursor-pointer py-2.5 text-sm text-soft underline decoration-edge underline-offset-4">
        Skip this step
      </summary>
      <EntryForm entry={entry} className="grid gap-2 pb-2">
        <input type="hidden" name="station" value={station.id} />
        <TextField field={entry.fields.reason!} label="Reason" hint="The report shows it." />
        <Button disabled={entry.busy} className="justify-self-start">
          Skip it
        </Button>
      </EntryForm>
    </details>
  );
}

/** A skip can be undone until the job is signed. */
export function TakeUp({ jobId, newId, station }: { jobId: string; newId: string; station: StationBrief }) {
  const entry = useEntry("take-up", jobId, newId, { key: `take-up-${station.id}` });
  return (
    <EntryForm entry={entry}>
      <input type="hidden" name="station" value={station.id} />
      <button
        disabled={entry.busy}
        className="min-h-11 cursor-pointer px-2 text-sm underline decoration-edge underline-offset-4"
      >
        Undo skip<span className="sr-only">: {station.title}</span>
      </button>
    </EntryForm>
  );
}
