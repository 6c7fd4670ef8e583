import { Undo } from "../undo";
import { KitOptions, unitOfFigure } from "./figure";
import { StruckLines, TaskLines } from "./recorded";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { type Entry, useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, SureBox, tied } from "~app/ui/field";
import { formatFigure, unitById, unitsOf } from "~core/quantity";
import type { TaskView } from "~server/jobs/views/station";

type Grouped = Extract<TaskView, { kind: "figure" | "hardness" | "choice" }>;
type Props = Omit<TaskProps<"figure">, "task" | "person">;

/** Ids of tasks have dots, which names of form fields do not. */
const named = (id: string) => id.replaceAll(".", "_");

/** Values that are read together, under one Save: Enter commits all of them. What is left empty is left out. */
export function TaskGroup({ tasks, sheet, newId, unit }: Props & { tasks: readonly Grouped[] }) {
  const entry = useEntry("entries", sheet.job.id, newId, { key: `entries-${tasks[0]!.id}` });
  return (
    <div className="grid gap-2">
      {tasks.map((task) =>
        task.kind === "choice" ? (
          <Answered key={task.id} task={task} sheet={sheet} newId={newId} />
        ) : (
          <TaskLines key={task.id} task={task} sheet={sheet} newId={newId} />
        ),
      )}
      {tasks.map(
        (task) =>
          task.remedy && (
            <p key={task.id} role="status" className="border-l-8 border-alarm bg-alarm-wash p-3 font-semibold">
              {task.remedy}
            </p>
          ),
      )}
      <EntryForm entry={entry} className="grid gap-3">
        <div className="grid items-start gap-3 sm:grid-cols-2">
          {tasks.map((task) =>
            task.kind === "choice" ? (
              <Answers key={task.id} task={task} entry={entry} />
            ) : (
              <Value key={task.id} task={task} entry={entry} unit={unit} />
            ),
          )}
        </div>
        <Button disabled={entry.busy} className="justify-self-start">
          {entry.busy ? "Saving…" : "Save"}
        </Button>
      </EntryForm>
    </div>
  );
}

/** A choice that stands, with the way to take it back. */
function Answered({
  task,
  sheet,
  newId,
}: Pick<Props, "sheet" | "newId"> & { task: Extract<Grouped, { kind: "choice" }> }) {
  const stands = task.lines.findLast((l) => !l.struck);
  return (
    <>
      <StruckLines task={task} sheet={sheet} newId={newId} />
      {stands && (
        <p className="flex items-center gap-2">
          <span className="flex-1">
            {task.label}: {stands.text} <span className="text-sm text-soft">{stands.by}</span>
          </span>
          {sheet.job.state === "open" && (
            <Undo jobId={sheet.job.id} newId={newId} id={stands.id} what={`${task.label}: ${stands.text}`} />
          )}
        </p>
      )}
    </>
  );
}

function Value({
  task,
  entry,
  unit,
}: {
  task: Extract<Grouped, { kind: "figure" | "hardness" }>;
  entry: Entry;
  unit: string;
}) {
  const name = named(task.id);
  const field = entry.field(`typed.${name}`);
  const sure = entry.field(`sure.${name}`);
  const shown = unitOfFigure(task, unit);
  const u = unitById(shown);
  const limits =
    task.tolerance &&
    [task.tolerance.lower, task.tolerance.upper]
      .map((x) => (x === undefined ? "–" : formatFigure(x, task.resolution, u)))
      .join(" to ");
  const hint = [task.hint, limits && task.kind === "figure" && `Limits: ${limits} ${u.symbol}.`]
    .filter(Boolean)
    .join(" ");
  return (
    <div className="grid min-w-0 gap-1">
      <label htmlFor={field.id} className="font-semibold">
        {task.label}
        {task.optional && <span className="font-normal text-soft"> (optional)</span>}
      </label>
      <span className="flex min-w-0 items-center gap-2">
        <input
          {...tied(field, hint, sure)}
          type="text"
          inputMode={task.kind === "hardness" ? "text" : "decimal"}
          className="figure h-12 w-full min-w-0 flex-1 rounded-md border-2 border-edge bg-sheet px-3 text-xl font-semibold aria-invalid:border-alarm"
        />
        {task.kind === "hardness" ? (
          <select
            name={`unit.${name}`}
            aria-label="Unit of hardness"
            defaultValue="mg/L"
            className="h-12 w-24 rounded-md border-2 border-edge bg-sheet px-1"
          >
            {unitsOf("hardness").map((x) => (
              <option key={x.id} value={x.id}>
                {x.symbol}
              </option>
            ))}
          </select>
        ) : (
          <>
            <input type="hidden" name={`unit.${name}`} value={shown} />
            <span className="figure text-sm text-soft">{u.symbol}</span>
          </>
        )}
      </span>
      {task.instruments.length > 0 && (
        <label className="flex min-w-0 items-center gap-2 text-sm">
          <span className="shrink-0">Read with</span>
          <select
            name={`with.${name}`}
            className="min-h-11 w-full min-w-0 rounded-md border-2 border-edge bg-sheet px-2"
            defaultValue={task.instruments[0]!.id}
          >
            <KitOptions kit={task.instruments} />
          </select>
        </label>
      )}
      {hint && (
        <p id={`${field.id}-hint`} className="text-sm text-soft">
          {hint}
        </p>
      )}
      <FieldError field={field} />
      <SureBox field={sure} />
    </div>
  );
}

function Answers({ task, entry }: { task: Extract<Grouped, { kind: "choice" }>; entry: Entry }) {
  const name = `typed.${named(task.id)}`;
  return (
    <fieldset className="grid gap-1 sm:col-span-2">
      <legend className="mb-1 font-semibold">
        {task.label}
        <span className="font-normal text-soft"> (optional)</span>
      </legend>
      <span className="flex flex-wrap gap-1">
        {task.options.map((o) => (
          <label
            key={o.value}
            className="grid min-h-11 cursor-pointer place-items-center rounded-md border-2 border-edge bg-sheet px-3 has-checked:border-ink has-checked:bg-ink has-checked:text-on-ink has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-brass"
          >
            <input type="radio" name={name} value={o.value} className="sr-only" />
            {o.label}
          </label>
        ))}
      </span>
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      <FieldError field={entry.field(name)} />
    </fieldset>
  );
}
