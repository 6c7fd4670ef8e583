import { useState } from "react";
import type { TaskProps } from "./props";
import { TaskLines } from "./recorded";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { SelectField, TextArea, TextField } from "~app/ui/field";
import { DECISIONS, type FaultLeft } from "~core/work";

/** Faults that stay in: what, since when, what was decided, and what the owner may try. */
export function LeftTask({ task, sheet, newId }: TaskProps<"left">) {
  const [editing, setEditing] = useState<string | null>(null);
  const [saved, setSaved] = useState(0);
  const fault = editing ? task.faults[editing] : undefined;
  const kept = task.lines.some((l) => !l.struck);
  return (
    <details open={kept || editing ? true : undefined} className="border-t border-rule">
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
        {task.label}
        <span className="font-normal text-soft"> (optional)</span>
      </summary>
      <div className="grid gap-3 pb-2">
        {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
        <TaskLines
          task={task}
          sheet={sheet}
          newId={newId}
          onEdit={(l) => setEditing(task.faults[l.id] ? l.id : null)}
        />
        {sheet.job.state === "open" && (
          <FaultForm
            key={`${editing ?? "new"} ${saved}`}
            jobId={sheet.job.id}
            newId={newId}
            fault={fault ?? {}}
            supersedes={fault ? editing : null}
            onDone={() => {
              setEditing(null);
              setSaved(saved + 1);
            }}
          />
        )}
      </div>
    </details>
  );
}

function FaultForm({
  jobId,
  newId,
  fault,
  supersedes,
  onDone,
}: {
  jobId: string;
  newId: string;
  fault: Partial<FaultLeft>;
  supersedes: string | null;
  onDone: () => void;
}) {
  const entry = useEntry("fault-left", jobId, newId, { key: `fault-left-${supersedes ?? "new"}`, onSaved: onDone });
  const { field } = entry;
  const was = (name: "what" | "since" | "why" | "reduction" | "mayTry") =>
    fault[name] ? { defaultValue: fault[name] } : {};
  return (
    <EntryForm entry={entry} className="grid gap-3">
      {supersedes && <input type="hidden" name="supersedes" value={supersedes} />}
      <TextArea field={field("what")} label="What stays in" rows={2} {...was("what")} />
      <div className="grid items-start gap-3 sm:grid-cols-2">
        <TextField field={field("since")} label="Since when" {...was("since")} />
        <label className="flex min-h-11 items-center gap-3 sm:mt-7">
          <input
            type="checkbox"
            name="comesAndGoes"
            value="yes"
            defaultChecked={fault.comesAndGoes ?? false}
            className="size-6 accent-ink"
          />
          Comes and goes
        </label>
        <SelectField field={field("decision")} label="Left in because" defaultValue={fault.decision ?? "wish"}>
          {Object.entries(DECISIONS).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
        <TextField field={field("why")} label="More to that" {...was("why")} />
        <TextField field={field("reduction")} label="Price reduction" {...was("reduction")} />
        <TextField field={field("mayTry")} label="What the owner may try" {...was("mayTry")} />
      </div>
      <span className="flex flex-wrap gap-2">
        <Button disabled={entry.busy}>{supersedes ? "Save the change" : "Save the fault"}</Button>
        {supersedes && (
          <Button type="button" look="quiet" onClick={onDone}>
            Cancel
          </Button>
        )}
      </span>
    </EntryForm>
  );
}
