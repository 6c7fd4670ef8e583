import type { ReactNode } from "react";
import { Undo } from "../undo";
import { TaskLines } from "./recorded";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { type Entry, useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { Countdown } from "~app/ui/clock";
import { SureBox, TextField } from "~app/ui/field";

/** Something timed on the server: a purge, a level of warm-up. */
export function ClockTask({ task, sheet, newId }: TaskProps<"timer" | "warm">) {
  const { at } = sheet;
  const jobId = sheet.job.id;
  const start = useEntry("timer-start", jobId, newId, { key: `start-${task.id}` });
  const end = useEntry("timer-end", jobId, newId, { key: `end-${task.id}` });
  const back = <TaskLines task={task} sheet={sheet} newId={newId} />;
  if (task.done)
    return (
      <div className="grid gap-1">
        {back}
        <div className="flex items-center gap-2">
          <p className="flex-1">
            {task.label}: {task.took}
            {task.endedBy && <span className="text-soft">, {task.endedBy}</span>}
          </p>
          {task.undo && sheet.job.state === "open" && (
            <Undo jobId={jobId} newId={newId} id={task.undo.id} what={`${task.label}: ${task.took}`} />
          )}
        </div>
      </div>
    );
  return (
    <div className="grid gap-2">
      {back}
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      <RunningClock task={task} at={at} start={start} end={end} />
    </div>
  );
}

function RunningClock({
  task,
  at,
  start,
  end,
}: Pick<TaskProps<"timer" | "warm">, "task"> & { at: number; start: Entry; end: Entry }) {
  const warm = task.kind === "warm";
  if (!task.clock)
    return warm ? (
      <p className="text-soft">The timer starts when the heat is switched on.</p>
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
        <p className="text-sm text-soft">
          Expected from this kind and this machine’s earlier times. Confirm when ready shows.
        </p>
      )}
      <SureBox field={end.fields.sure!} />
      <Button look="main" disabled={end.busy || (!warm && dueAt > at)} className="justify-self-start">
        {warm ? `${task.label} now` : "Done"}
      </Button>
    </EntryForm>
  );
}

/** Bursts against a limit: run, alarm, off, again, and then a fault with what to look for. */
export function BurstTask({ task, sheet, newId }: TaskProps<"bursts">) {
  const { at } = sheet;
  const jobId = sheet.job.id;
  const start = useEntry("timer-start", jobId, newId, { key: `start-${task.id}` });
  const end = useEntry("timer-end", jobId, newId, { key: `end-${task.id}` });
  const begin = (label: string) => (
    <EntryForm entry={start} className="grid gap-2">
      <input type="hidden" name="task" value={task.id} />
      <Button look="main" disabled={start.busy} className="justify-self-start">
        {label}
      </Button>
    </EntryForm>
  );
  return (
    <div className="grid gap-2">
      <p className="font-semibold">{task.label}</p>
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      <Burst task={task} at={at} begin={begin} end={end} anew={<TryAnew task={task} sheet={sheet} newId={newId} />} />
    </div>
  );
}

/** After the last try: once the cause is found and cleared, the tries begin anew. */
function TryAnew({ task, sheet, newId }: Pick<TaskProps<"bursts">, "task" | "sheet" | "newId">) {
  const entry = useEntry("try-anew", sheet.job.id, newId, { key: `try-anew-${task.id}` });
  return (
    <EntryForm entry={entry} className="grid gap-2">
      <input type="hidden" name="task" value={task.id} />
      <TextField field={entry.fields.found!} label="Cause found and cleared" />
      <Button disabled={entry.busy} className="justify-self-start">
        Begin again
      </Button>
    </EntryForm>
  );
}

function Burst({
  task,
  at,
  begin,
  end,
  anew,
}: Pick<TaskProps<"bursts">, "task"> & {
  at: number;
  begin: (label: string) => ReactNode;
  end: Entry;
  anew: ReactNode;
}) {
  const { burst } = task;
  switch (burst.phase) {
    case "idle":
      return begin("On: start the timer");
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
              Alarm, or stopped before it was full
            </Button>
          </EntryForm>
        </div>
      );
    case "pause":
      return (
        <p className="flex items-baseline justify-between gap-3 border-l-4 border-alarm pl-3">
          <span>
            Not full in time: try {burst.attempt} of {burst.tries}, after {burst.short.at(-1)}. Switch off and wait.
          </span>
          <Countdown dueAt={burst.until!} at={at} className="text-4xl font-semibold" />
        </p>
      );
    case "again":
      return (
        <div className="grid gap-3">
          <p className="border-l-4 border-brass pl-3">
            Try {burst.attempt} of {burst.tries} ran {burst.short.at(-1)} and was not full. Now on again.
          </p>
          {begin("On again: start the timer")}
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
          <p className="text-xl font-bold">Not full after {burst.tries} tries. Stop here.</p>
          <p>
            They ran {burst.short.join(" and ")}. Do not switch the heat on. A fill that was only slow: find what holds
            the water back. Look for, likeliest first:
          </p>
          <ol className="list-decimal pl-6">
            {burst.lookFor.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ol>
          {anew}
        </div>
      );
    default:
      return <p>{task.took ? `${burst.ended}: ${task.took}` : burst.ended}</p>;
  }
}
