import type { SheetView } from "~server/jobs/view";
import type { TaskView } from "~server/jobs/station-view";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, SureBox, TextArea, TextField, tied } from "~app/ui/field";
import { VerdictMark } from "~app/ui/verdict";
import type { Verdict } from "~core/metrology";
import { formatFigure, unitById, unitsOf } from "~core/quantity";

interface Props {
  task: TaskView;
  sheet: SheetView;
  newId: string;
  unit: string;
}

/** What was recorded for a task, newest last; older ones stay. */
export function TaskLines({ task }: { task: TaskView }) {
  if (task.lines.length === 0) return null;
  return (
    <ul aria-label={`${task.label}, recorded`} className="grid gap-1">
      {task.lines.map((line, i) => (
        <li
          key={line.id}
          className={`flex flex-wrap items-baseline gap-x-3 ${i < task.lines.length - 1 && !task.many ? "text-soft" : ""}`}
        >
          <span
            className={
              task.kind === "figure" || task.kind === "hardness" || task.kind === "purge"
                ? "figure font-semibold"
                : "whitespace-pre-line"
            }
          >
            {line.text}
          </span>
          {line.verdict && <VerdictMark verdict={line.verdict as Verdict} />}
          {line.early && <strong className="text-sm">early: before the machine was warm</strong>}
          <span className="text-sm text-soft">{line.by}</span>
        </li>
      ))}
    </ul>
  );
}

/** A tick: one large tap. */
export function TickTask({ task, sheet, newId }: Omit<Props, "unit">) {
  const entry = useEntry("tick", sheet.job.id, newId, { key: `tick-${task.id}` });
  if (task.done)
    return (
      <p className="flex items-baseline gap-2">
        <span aria-hidden="true">✓</span> {task.label}
      </p>
    );
  return (
    <EntryForm entry={entry} className="grid gap-1">
      <Button
        name="key"
        value={task.id}
        look={task.kind === "heat" ? "main" : "plain"}
        disabled={entry.busy}
        className="justify-start text-left"
      >
        {task.label}
      </Button>
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
    </EntryForm>
  );
}

/** A figure with its unit: "130 psi", "6,8 bar", "3-4 °dH" are understood. */
export function FigureTask({ task, sheet, newId, unit }: Props) {
  const entry = useEntry("entry", sheet.job.id, newId, { key: `entry-${task.id}` });
  const { typed, sure } = entry.fields;
  const pressure = task.dimension === "pressure";
  const shown = pressure
    ? unit
    : task.kind === "hardness"
      ? "mg/L"
      : task.kind === "purge"
        ? "l"
        : unitsOf(task.dimension ?? "mass")[0]!.id;
  const { tolerance } = task;
  return (
    <div className="grid gap-2">
      <TaskLines task={task} />
      {task.remedy && (
        <p role="status" className="border-l-8 border-alarm bg-alarm-wash p-3 font-semibold">
          {task.remedy}
        </p>
      )}
      <EntryForm entry={entry} className="grid gap-2">
        <input type="hidden" name="task" value={task.id} />
        {task.kind !== "hardness" && <input type="hidden" name="unit" value={shown} />}
        <div className="flex flex-wrap items-end gap-2">
          <div className="grid min-w-40 flex-1 gap-1.5">
            <label htmlFor={typed!.id} className="font-semibold">
              {task.label}
              {task.optional && <span className="font-normal text-soft">, if you have it</span>}
            </label>
            <input
              {...tied(typed!, task.hint)}
              type="text"
              inputMode={task.kind === "hardness" ? "text" : "decimal"}
              autoComplete="off"
              className="figure h-14 w-full rounded-md border-2 border-edge bg-sheet px-3 text-2xl font-semibold aria-invalid:border-alarm"
            />
          </div>
          {task.kind === "hardness" ? (
            <select
              {...tied(entry.fields.unit!)}
              aria-label="Unit of hardness"
              defaultValue="mg/L"
              className="h-14 rounded-md border-2 border-edge bg-sheet px-2"
            >
              {unitsOf("hardness").map((u) => (
                <option key={u.id} value={u.id}>
                  {u.symbol}
                </option>
              ))}
            </select>
          ) : (
            <span className="figure grid h-14 items-center text-lg text-soft">{unitById(shown).symbol}</span>
          )}
          <Button disabled={entry.busy} className="h-14">
            {entry.busy ? "Saving…" : "Note it"}
          </Button>
        </div>
        {task.instruments.length > 0 && (
          <label className="flex flex-wrap items-center gap-2 text-sm">
            Read with
            <select
              name="instrumentId"
              className="min-h-11 min-w-0 rounded-md border-2 border-edge bg-sheet px-2"
              defaultValue={task.instruments[0]!.id}
            >
              {task.instruments.map((g) => (
                <option key={g.id} value={g.id}>
                  {g.name}
                </option>
              ))}
              <option value="">something else: no uncertainty is claimed</option>
            </select>
          </label>
        )}
        {(task.hint || tolerance) && (
          <p id={`${typed!.id}-hint`} className="text-sm text-soft">
            {task.hint} {tolerance && `Limits: ${limitsIn(tolerance, task.resolution, shown)}.`}
          </p>
        )}
        <FieldError field={typed!} />
        <SureBox field={sure!} />
      </EntryForm>
    </div>
  );
}

function limitsIn(
  { lower, upper }: { lower?: number | undefined; upper?: number | undefined },
  resolution: number,
  unitId: string,
): string {
  const unit = unitById(unitId);
  const show = (value: number) => formatFigure(value, resolution, unit);
  if (lower === undefined) return `up to ${show(upper!)} ${unit.symbol}`;
  return upper === undefined
    ? `${show(lower)} ${unit.symbol} or more`
    : `${show(lower)} to ${show(upper)} ${unit.symbol}`;
}

export function TextTask({ task, sheet, newId }: Omit<Props, "unit">) {
  const entry = useEntry("entry", sheet.job.id, newId, { key: `entry-${task.id}` });
  return (
    <div className="grid gap-2">
      <TaskLines task={task} />
      <EntryForm entry={entry} className="grid gap-2">
        <input type="hidden" name="task" value={task.id} />
        <TextArea field={entry.fields.typed!} label={task.label} hint={task.hint} rows={2} />
        <Button disabled={entry.busy} className="justify-self-start">
          {task.many && task.lines.length > 0 ? "Note another" : "Note it"}
        </Button>
      </EntryForm>
    </div>
  );
}

export function ChoiceTask({ task, sheet, newId }: Omit<Props, "unit">) {
  const entry = useEntry("entry", sheet.job.id, newId, { key: `entry-${task.id}` });
  const taken = task.lines.at(-1)?.text;
  return (
    <EntryForm entry={entry} className="grid gap-2">
      <input type="hidden" name="task" value={task.id} />
      <p className="font-semibold">
        {task.label}
        {taken && <span className="font-normal">: {taken}</span>}
      </p>
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      <div className="flex flex-wrap gap-2">
        {task.options.map((o) => (
          <Button key={o.value} name="typed" value={o.value} disabled={entry.busy} aria-pressed={taken === o.label}>
            {o.label}
          </Button>
        ))}
      </div>
    </EntryForm>
  );
}

/** When the cartridge is due: by its date or its litres, whichever comes first. */
export function CartridgeTask({ task, sheet, newId }: Omit<Props, "unit">) {
  const entry = useEntry("entry", sheet.job.id, newId, { key: `entry-${task.id}` });
  const { typed, capacity, perDay, months } = entry.fields;
  return (
    <div className="grid gap-2">
      <TaskLines task={task} />
      <EntryForm entry={entry} className="grid gap-3">
        <input type="hidden" name="task" value={task.id} />
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField field={typed!} label="Cartridge fitted on" type="date" />
          <SelectField field={months!} label="At most" defaultValue="12">
            {[3, 6, 9, 12].map((m) => (
              <option key={m} value={m}>
                {m} months
              </option>
            ))}
          </SelectField>
          <TextField
            field={capacity!}
            label="Litres it treats"
            inputMode="decimal"
            hint="At this hardness, from its table."
          />
          <TextField field={perDay!} label="Litres used a day" inputMode="decimal" />
        </div>
        <Button disabled={entry.busy} className="justify-self-start">
          Work out the next change
        </Button>
      </EntryForm>
    </div>
  );
}
