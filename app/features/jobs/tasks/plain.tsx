import { useState } from "react";
import { Undo } from "../undo";
import { StruckLines, TaskLines } from "./recorded";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, TextArea } from "~app/ui/field";

/** A tick: one large tap, and one to take it back. */
export function TickTask({ task, sheet, newId }: TaskProps<"tick" | "heat">) {
  const entry = useEntry("tick", sheet.job.id, newId, { key: `tick-${task.id}` });
  const back = <TaskLines task={task} sheet={sheet} newId={newId} />;
  if (task.done)
    return (
      <div className="grid gap-1">
        {back}
        <div className="flex items-center gap-2">
          <p className="flex flex-1 items-baseline gap-2">
            <span aria-hidden="true">✓</span> {task.label}
            {task.undo && <span className="text-sm text-soft">{task.undo.by}</span>}
          </p>
          {task.undo && sheet.job.state === "open" && (
            <Undo jobId={sheet.job.id} newId={newId} id={task.undo.id} what={task.label} />
          )}
        </div>
      </div>
    );
  return (
    <EntryForm entry={entry} className="grid gap-1">
      {back}
      {task.remedy && (
        <p role="status" className="border-l-8 border-brass bg-brass-wash p-3 font-semibold">
          {task.remedy}
        </p>
      )}
      <Button
        name="key"
        value={task.id}
        look={task.kind === "heat" ? "main" : "plain"}
        disabled={entry.busy}
        className="justify-start text-left"
      >
        {task.label}
        {task.optional && <span className="font-normal text-soft">(optional)</span>}
      </Button>
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
    </EntryForm>
  );
}

export function TextTask({ task, sheet, newId }: TaskProps<"text">) {
  const [editing, setEditing] = useState<{ id: string; typed: string } | null>(null);
  const entry = useEntry("entry", sheet.job.id, newId, {
    key: `entry-${task.id}${editing ? `-${editing.id}` : ""}`,
    onSaved: () => setEditing(null),
  });
  // Its first words are typed with the condition.
  const elsewhere = task.id === "look-over.accessories" && task.lines.length === 0;
  const single = task.lines.findLast((l) => !l.struck);
  if (elsewhere) return null;
  return (
    <div className="grid gap-2">
      <TaskLines task={task} sheet={sheet} newId={newId} onEdit={setEditing} />
      <EntryForm key={editing?.id ?? "new"} entry={entry} className="grid gap-2">
        <input type="hidden" name="task" value={task.id} />
        {editing && <input type="hidden" name="supersedes" value={editing.id} />}
        <TextArea
          field={entry.fields.typed!}
          label={
            <>
              {task.label}
              {task.optional && <span className="font-normal text-soft"> (optional)</span>}
            </>
          }
          hint={task.hint}
          rows={2}
          {...(editing ? { defaultValue: editing.typed, autoFocus: true } : {})}
        />
        <span className="flex flex-wrap gap-2">
          <Button disabled={entry.busy} className="justify-self-start">
            {editing || single ? "Save the change" : "Save"}
          </Button>
          {editing && (
            <Button type="button" look="quiet" onClick={() => setEditing(null)}>
              Cancel
            </Button>
          )}
        </span>
      </EntryForm>
    </div>
  );
}

/** What to say and to show there: in full at the first part that is not answered, folded at those after it, gone once it is answered. */
function Guide({ task, sheet }: Pick<TaskProps<"choice">, "task" | "sheet">) {
  const next = sheet.open?.tasks.find((t) => t.kind === "choice" && t.guide.length > 0 && !t.done);
  return (
    <details key={String(next?.id === task.id)} open={next?.id === task.id} className="border-l-4 border-rule pl-3">
      <summary className="min-h-11 cursor-pointer py-2.5 text-soft">What to say and show</summary>
      <dl className="grid grid-cols-[4.5rem_minmax(0,1fr)] gap-x-3 gap-y-1">
        {task.guide.map(({ act, lines }) => (
          <div key={act} className="contents">
            <dt className="text-soft">{act}</dt>
            <dd className="grid gap-0.5">
              {lines.map((line) => (
                <p key={line}>{line}</p>
              ))}
            </dd>
          </div>
        ))}
      </dl>
    </details>
  );
}

export function ChoiceTask({ task, sheet, newId }: TaskProps<"choice">) {
  const entry = useEntry("entry", sheet.job.id, newId, { key: `entry-${task.id}` });
  const stands = task.lines.findLast((l) => !l.struck);
  const taken = stands?.text;
  return (
    <div className="grid gap-1">
      <StruckLines task={task} sheet={sheet} newId={newId} />
      <EntryForm entry={entry} className="grid gap-2">
        <input type="hidden" name="task" value={task.id} />
        <p className="font-semibold">
          {task.label}
          {taken && <span className="font-normal">: {taken}</span>}
          {!taken && task.optional && <span className="font-normal text-soft"> (optional)</span>}
        </p>
        {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
        {task.guide.length > 0 && !taken && <Guide task={task} sheet={sheet} />}
        {task.remedy && (
          <p role="status" className="border-l-8 border-brass bg-brass-wash p-3 font-semibold">
            {task.remedy}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          {task.options.map((o) => (
            <Button
              key={o.value}
              name="typed"
              value={o.value}
              disabled={entry.busy}
              aria-pressed={taken === o.label}
              className="aria-pressed:bg-brass-wash"
            >
              {o.label}
            </Button>
          ))}
        </div>
        <FieldError field={entry.fields.typed!} />
      </EntryForm>
      {stands && sheet.job.state === "open" && (
        <span className="flex items-center gap-2 text-sm text-soft">
          {stands.by}
          <Undo jobId={sheet.job.id} newId={newId} id={stands.id} what={`${task.label}: ${stands.text}`} />
        </span>
      )}
    </div>
  );
}
