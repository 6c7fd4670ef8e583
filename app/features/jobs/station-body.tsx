import { Suspense } from "react";
import { lazyPart } from "~app/ui/lazy-part";
import type { StationView, TaskView } from "~server/jobs/station-view";
import { EntryForm } from "~app/ui/entry-form";
import { LookOver } from "./look-over";
import { SignStation } from "./sign";
import type { StationProps } from "./stations";
import { BurstTask, ClockTask } from "./task-clock";
import { LoopTask, ReadingsTask } from "./loop-task";
import { CartridgeTask, ChoiceTask, FigureTask, TextTask, TickTask } from "./task-entry";
import { useEntry } from "~app/ui/use-entry";
import { Button, ButtonLink } from "~app/ui/button";
import { TextField } from "~app/ui/field";

// What only some stations have comes when one of them is opened.
const TableTask = lazyPart(() => import("./table-task"));
const PlanTask = lazyPart(() => import("./plan-task"));
const ShotsTask = lazyPart(() => import("./shots-task"));
const DiagnosisTask = lazyPart(() => import("./diagnosis"));

/** The open station: its cautions, then its tasks in order, and the way to leave it out. */
export function StationBody({ station, ...props }: StationProps & { station: StationView }) {
  const { sheet, newId } = props;
  return (
    <>
      {station.cautions.length > 0 && <Cautions lines={station.cautions} />}
      {station.id === "tools" && <Tools tools={sheet.tools} />}
      <Suspense>
        {station.tasks.map((task) => (
          <TaskBody key={task.id} {...props} task={task} />
        ))}
      </Suspense>
      {station.id === "grinder" && sheet.job.type === "service" && sheet.machine.groups > 0 && (
        <ButtonLink to={`/jobs/${sheet.job.id}/shots`} className="justify-self-start">
          Pull a shot to see
        </ButtonLink>
      )}
      {station.skippable && station.state !== "done" && sheet.job.state === "open" && (
        <Skip jobId={sheet.job.id} newId={newId} station={station} />
      )}
    </>
  );
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

function TaskBody({ task, ...props }: StationProps & { task: TaskView }) {
  const { sheet, newId, unit } = props;
  switch (task.kind) {
    case "condition":
      return <LookOver sheet={sheet} newId={newId} />;
    case "tick":
    case "heat":
      return <TickTask task={task} sheet={sheet} newId={newId} />;
    case "figure":
    case "hardness":
    case "purge":
      return <FigureTask task={task} sheet={sheet} newId={newId} unit={unit} />;
    case "text":
      return <TextTask task={task} sheet={sheet} newId={newId} />;
    case "choice":
      return <ChoiceTask task={task} sheet={sheet} newId={newId} />;
    case "cartridge":
      return <CartridgeTask task={task} sheet={sheet} newId={newId} />;
    case "bursts":
      return (
        <div className="grid gap-2">
          <p className="font-semibold">{task.label}</p>
          {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
          <BurstTask task={task} jobId={sheet.job.id} newId={newId} at={sheet.at} />
        </div>
      );
    case "timer":
    case "warm":
      return (
        <div className="grid gap-2">
          {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
          <ClockTask task={task} jobId={sheet.job.id} newId={newId} at={sheet.at} />
        </div>
      );
    case "readings":
      return <ReadingsTask task={task} sheet={sheet} />;
    case "adjust":
      return (
        <p>
          {sheet.loop?.hand?.fractions === false
            ? "Follow the next move beside, read after each."
            : "Follow the next move beside, read after each. The screw is turned with the pump stopped."}
        </p>
      );
    case "loop":
      return <LoopTask task={task} sheet={sheet} />;
    case "table":
      return <TableTask task={task} sheet={sheet} newId={newId} unit={unit} />;
    case "plan":
      return <PlanTask task={task} sheet={sheet} newId={newId} />;
    case "shots":
      return <ShotsTask task={task} sheet={sheet} />;
    case "diagnosis":
      return <DiagnosisTask task={task} sheet={sheet} newId={newId} />;
    case "sign":
      return <SignStation sheet={sheet} newId={newId} person={props.person} />;
  }
}

function Tools({ tools }: { tools: readonly string[] }) {
  return (
    <ul className="grid gap-1 sm:grid-cols-2">
      {tools.map((t) => (
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
        Leave this station out
      </summary>
      <EntryForm entry={entry} className="grid gap-2 pb-2">
        <input type="hidden" name="station" value={station.id} />
        <TextField field={entry.fields.reason!} label="Why it is left out" hint="The report shows it." />
        <Button disabled={entry.busy} className="justify-self-start">
          Leave it out
        </Button>
      </EntryForm>
    </details>
  );
}

/** A station that was left out can be taken up again until the job is signed. */
export function TakeUp({ jobId, newId, station }: { jobId: string; newId: string; station: StationView }) {
  const entry = useEntry("take-up", jobId, newId, { key: `take-up-${station.id}` });
  return (
    <EntryForm entry={entry}>
      <input type="hidden" name="station" value={station.id} />
      <button
        disabled={entry.busy}
        className="min-h-11 cursor-pointer px-2 text-sm underline decoration-edge underline-offset-4"
      >
        Take it up<span className="sr-only">: {station.title}</span>
      </button>
    </EntryForm>
  );
}
