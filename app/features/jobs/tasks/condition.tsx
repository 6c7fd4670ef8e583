import { useState } from "react";
import type { SheetView } from "~server/jobs/views/sheet";
import { Photos } from "../photos";
import { LineButton, Undo } from "../undo";
import { isUndone } from "../undone";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { Clock } from "~app/ui/dates";
import { SelectField, TextArea } from "~app/ui/field";

/** Condition before anything is touched: words, and photos. */
export function ConditionTask({ sheet, newId }: TaskProps<"condition">) {
  const [editing, setEditing] = useState<SheetView["notes"][number] | null>(null);
  // Counted in the same look over: one form takes both, until both are there. What is typed meanwhile stays where it is.
  const counts = sheet.open?.tasks.find((t) => t.id === "look-over.accessories" && t.lines.length === 0);
  const entry = useEntry("note", sheet.job.id, newId, {
    key: editing ? `note-${editing.id}` : "note",
    onSaved: () => setEditing(null),
  });
  return (
    <div className="grid gap-4">
      <Photos sheet={sheet} newId={newId} />
      {sheet.notes.length > 0 && (
        <ul aria-label="Condition, recorded" className="grid gap-1">
          {sheet.notes.map((n) => (
            <li key={n.id} className="flex flex-wrap items-center gap-x-3">
              <span className={`whitespace-pre-line ${n.stands ? "" : "text-soft line-through"}`}>
                {n.area && <strong>{n.area}: </strong>}
                {n.text}
              </span>
              <span className="text-sm text-soft">
                {n.by}
                {n.struck && (
                  <>
                    ; {n.struck.reason || "undone"}, {n.struck.by} <Clock iso={n.struck.at} />
                  </>
                )}
              </span>
              {n.stands && sheet.job.state === "open" && (
                <span className="ml-auto flex gap-2">
                  <LineButton type="button" does="Edit" what={n.text} onClick={() => setEditing(n)} />
                  <Undo jobId={sheet.job.id} newId={newId} id={n.id} what={n.text} of="note" />
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
      <EntryForm key={editing?.id ?? "new"} entry={entry} className="grid gap-4">
        <input type="hidden" name="station" value="look-over" />
        {editing && (
          <>
            <input type="hidden" name="supersedes" value={editing.id} />
            <input type="hidden" name="reason" value="corrected" />
          </>
        )}
        <SelectField field={entry.fields.area!} label="Where" {...(editing ? { defaultValue: editing.area } : {})}>
          <option value="">all of it</option>
          {sheet.areas.map((a) => (
            <option key={a} value={a}>
              {a}
            </option>
          ))}
        </SelectField>
        <TextArea
          field={entry.fields.text!}
          label="Condition as it stands"
          hint="Scratches, dents, noises, missing parts, changes made. Before anything is touched."
          {...(editing ? { defaultValue: editing.text, autoFocus: true } : {})}
        />
        {counts && !editing && (
          <TextArea
            field={entry.fields.accessories!}
            label={counts.label}
            hint={counts.hint}
            rows={2}
            data-takes={counts.id}
            {...(sheet.open?.tasks.find(isUndone)?.id === counts.id && { "data-undone": "" })}
          />
        )}
        <Button look="main" disabled={entry.busy} className="justify-self-start">
          {entry.busy ? "Saving…" : editing ? "Save the change" : "Save the condition"}
        </Button>
        {editing && (
          <Button type="button" look="quiet" className="justify-self-start" onClick={() => setEditing(null)}>
            Cancel
          </Button>
        )}
      </EntryForm>
    </div>
  );
}
