import { useState } from "react";
import type { SheetView } from "~server/jobs/views/sheet";
import { LineButton, Undo } from "../undo";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { Clock } from "~app/ui/dates";
import { FieldError, SelectField, TextArea, tied } from "~app/ui/field";

const LIMIT = 12 * 1024 * 1024;

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
    <>
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
          <TextArea field={entry.fields.accessories!} label={counts.label} hint={counts.hint} rows={2} />
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
    </>
  );
}

function Photos({ sheet, newId }: { sheet: SheetView; newId: string }) {
  const entry = useEntry("photo", sheet.job.id, newId);
  const [tooBig, setTooBig] = useState(false);
  const field = entry.fields.photo!;
  const shown = tooBig
    ? {
        ...field,
        id: field.id,
        errorId: field.errorId,
        name: field.name,
        errors: ["The photo is over 12 MB. Take it at a lower resolution."],
      }
    : field;
  return (
    <EntryForm entry={entry} encType="multipart/form-data" className="grid gap-2">
      <label htmlFor={field.id} className="font-semibold">
        Photos
      </label>
      <div className="flex flex-wrap items-center gap-2">
        <select
          {...tied(entry.fields.area!)}
          aria-label="Where the photo was taken"
          className="min-h-11 rounded-md border-2 border-edge bg-sheet px-2 text-sm"
        >
          <option value="">all of it</option>
          {sheet.areas.map((a) => (
            <option key={a} value={a}>
              {a}
            </option>
          ))}
        </select>
        {sheet.photos.map((p, i) => (
          <a
            key={p.id}
            href={`/jobs/${sheet.job.id}/photos/${p.id}`}
            target="_blank"
            rel="noreferrer"
            aria-label={`Photo ${i + 1}${p.area ? `, ${p.area}` : ""}, opens large`}
          >
            <img
              src={`/jobs/${sheet.job.id}/photos/${p.id}`}
              alt=""
              width={p.width}
              height={p.height}
              loading="lazy"
              className="size-16 border-2 border-rule object-cover"
            />
          </a>
        ))}
        <input
          {...tied(shown)}
          type="file"
          accept="image/jpeg,image/png,image/webp"
          onChange={(e) => setTooBig((e.target.files?.[0]?.size ?? 0) > LIMIT)}
          className="min-w-0 flex-1 text-sm file:mr-3 file:min-h-11 file:cursor-pointer file:rounded-md file:border-2 file:border-edge file:bg-sheet file:px-3 file:font-semibold"
        />
        <Button disabled={entry.busy || tooBig}>{entry.busy ? "Adding…" : "Add photo"}</Button>
      </div>
      <FieldError field={shown} />
    </EntryForm>
  );
}
