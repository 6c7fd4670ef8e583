import type { TaskView } from "~server/jobs/station-view";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { Countdown } from "~app/ui/clock";
import { SureBox } from "~app/ui/field";

interface Props {
  task: TaskView;
  jobId: string;
  newId: string;
  at: number;
}

/** Something timed on the server: a purge, a level of warm-up. */
export function ClockTask({ task, jobId, newId, at }: Props) {
  const start = useEntry("timer-start", jobId, newId, { key: `start-${task.id}` });
  const end = useEntry("timer-end", jobId, newId, { key: `end-${task.id}` });
  const warm = task.kind === "warm";
  if (task.done)
    return (
      <p>
        {task.label}: {task.took}
        {task.endedBy && <span className="text-soft">, {task.endedBy}</span>}
      </p>
    );
  if (!task.clock)
    return warm ? (
      <p className="text-soft">Its clock starts when the heat goes on.</p>
    ) : (
      <EntryForm entry={start} className="grid gap-2">
        <input type="hidden" name="task" value={task.id} />
        <Button look="main" disabled={start.busy} className="justify-self-start">
          {task.label}: start {task.seconds} s
        </Button>
      </EntryForm>
    );
  const { dueAt } = task.clock;
  return (
    <EntryForm entry={end} className="grid gap-2">
      <input type="hidden" name="task" value={task.id} />
      <input type="hidden" name="outcome" value="done" />
      <p className="flex items-baseline justify-between gap-3">
        <span className="font-semibold">{task.label}</span>
        <Countdown dueAt={dueAt} at={at} className="text-3xl font-semibold" />
      </p>
      {warm && (
        <p className="text-sm text-soft">Expected from this kind and this machine’s earlier times. The sign decides.</p>
      )}
      <SureBox field={end.fields.sure!} />
      <Button look="main" disabled={end.busy || (!warm && dueAt > at)} className="justify-self-start">
        {warm ? `${task.label} now` : "Done"}
      </Button>
    </EntryForm>
  );
}

/** Bursts against a limit: run, alarm, off, again, and then a fault with what to look for. */
export function BurstTask({ task, jobId, newId, at }: Props) {
  const start = useEntry("timer-start", jobId, newId, { key: `start-${task.id}` });
  const end = useEntry("timer-end", jobId, newId, { key: `end-${task.id}` });
  const burst = task.burst!;
  const begin = (label: string) => (
    <EntryForm entry={start} className="grid gap-2">
      <input type="hidden" name="task" value={task.id} />
      <Button look="main" disabled={start.busy} className="justify-self-start">
        {label}
      </Button>
    </EntryForm>
  );
  switch (burst.phase) {
    case "idle":
      return begin("On: start the clock");
    case "running":
      return (
        <div className="grid gap-3">
          <p className="flex items-baseline justify-between gap-3">
            <span className="font-semibold">
              {burst.running}
              {burst.tries > 1 && (
                <span className="font-normal text-soft">
                  , try {burst.attempt} of {burst.tries}
                </span>
              )}
            </span>
            <Countdown dueAt={burst.until!} at={at} className="text-4xl font-semibold" />
          </p>
          <EntryForm entry={end} className="flex flex-wrap gap-3">
            <input type="hidden" name="task" value={task.id} />
            <Button look="main" name="outcome" value="done" disabled={end.busy}>
              {burst.ended}
            </Button>
            <Button name="outcome" value="alarm" disabled={end.busy}>
              Alarm, or stopped
            </Button>
          </EntryForm>
        </div>
      );
    case "pause":
      return (
        <p className="flex items-baseline justify-between gap-3 border-l-4 border-alarm pl-3">
          <span>
            No end in time: that was try {burst.attempt} of {burst.tries}. Switch off and wait.
          </span>
          <Countdown dueAt={burst.until!} at={at} className="text-4xl font-semibold" />
        </p>
      );
    case "again":
      return (
        <div className="grid gap-3">
          <p className="border-l-4 border-brass pl-3">
            Try {burst.attempt} of {burst.tries} ended without water. Now on again.
          </p>
          {begin("On again: start the clock")}
        </div>
      );
    case "resting":
      return (
        <p className="flex items-baseline justify-between gap-3">
          <span>Water flows. The pump rests; other work can be done.</span>
          <Countdown dueAt={burst.until!} at={at} className="text-3xl font-semibold" />
        </p>
      );
    case "fault":
      return (
        <div role="alert" className="grid gap-2 border-l-8 border-alarm bg-alarm-wash p-3">
          <p className="text-xl font-bold">No water is arriving. Stop here.</p>
          <p>Do not switch the heat on. Look for, likeliest first:</p>
          <ol className="list-decimal pl-6">
            {burst.lookFor.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
        </div>
      );
    default:
      return <p>{task.took ? `${burst.ended}: ${task.took}` : burst.ended}</p>;
  }
}
