import { useState } from "react";
import type { SheetView } from "~server/jobs/views/sheet";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, tied } from "~app/ui/field";

const LIMIT = 12 * 1024 * 1024;

/** Photos of a job, and one more. */
export function Photos({ sheet, newId }: { sheet: SheetView; newId: string }) {
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
    <EntryForm entry={entry} encType="multipart/form-data" className="grid grid-cols-1 gap-2">
      <label htmlFor={field.id} className="font-semibold">
        Photos
      </label>
      <div className="flex flex-wrap items-center gap-2">
        {sheet.areas.length > 0 && (
          <select
            {...tied(entry.fields.area!)}
            aria-label="Where the photo was taken"
            className="min-h-11 rounded-md border-2 border-edge bg-sheet px-2"
          >
            <option value="">all of it</option>
            {sheet.areas.map((a) => (
              <option key={a} value={a}>
                {a}
              </option>
            ))}
          </select>
        )}
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
          className="min-w-0 grow basis-60 text-sm"
        />
        <Button disabled={entry.busy || tooBig}>{entry.busy ? "Adding…" : "Add photo"}</Button>
      </div>
      <FieldError field={shown} />
    </EntryForm>
  );
}
