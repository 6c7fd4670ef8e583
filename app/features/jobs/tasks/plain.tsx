import { TaskLines } from "./recorded";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { TextArea } from "~app/ui/field";

/** A tick: one large tap. */
export function TickTask({ task, sheet, newId }: TaskProps<"tick" | "heat">) {
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

export function TextTask({ task, sheet, newId }: TaskProps<"text">) {
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

export function ChoiceTask({ task, sheet, newId }: TaskProps<"choice">) {
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
