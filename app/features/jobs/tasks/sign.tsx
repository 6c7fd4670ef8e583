import type { ReactNode } from "react";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, TextArea, TextField } from "~app/ui/field";
import { Day } from "~app/ui/dates";
import { VerdictMark } from "~app/ui/verdict";

function Release({ field, value, children }: { field: Field; value: string; children: ReactNode }) {
  return (
    <label className="flex min-h-11 items-center gap-3">
      <input type="radio" name={field.name} value={value} className="size-6 shrink-0 accent-ink" />
      {children}
    </label>
  );
}

type Field = Parameters<typeof FieldError>[0]["field"];

/** The end of the job: a name under what was found and left. */
export function SignTask({ sheet, newId, person }: TaskProps<"sign">) {
  const entry = useEntry("sign", sheet.job.id, newId);
  const left = sheet.loops.flatMap((l) => {
    const point = l.asLeft ?? l.asFound;
    return point ? [{ title: l.title, verdict: point.verdict }] : [];
  });
  const outside = left.filter((l) => l.verdict !== "holds" && l.verdict !== "just holds");
  const inside = outside.length === 0;
  const { unsafe, mayExcept } = sheet.job;
  return (
    <EntryForm entry={entry} className="grid gap-4">
      {unsafe.length > 0 && (
        <fieldset className="grid gap-2 border-l-8 border-alarm bg-alarm-wash p-3">
          <legend className="sr-only">Unsafe</legend>
          <p className="text-lg font-bold">This machine can’t be handed over as it is.</p>
          {unsafe.map((line) => (
            <p key={line}>{line}</p>
          ))}
          <Release field={entry.fields.release!} value="out-of-use">
            Mark it out of use: every paper of this visit says so first
          </Release>
          {mayExcept && (
            <>
              <Release field={entry.fields.release!} value="exception">
                Sign an exception, with the reason on the report
              </Release>
              <TextArea field={entry.fields.exception!} label="Reason for the exception (lead only)" rows={2} />
            </>
          )}
          <FieldError field={entry.fields.release!} />
        </fieldset>
      )}
      {outside.map((l) => (
        <p key={l.title} className="border-l-4 border-alarm pl-3">
          {l.title}: as left <VerdictMark verdict={l.verdict} />. It can be signed, with a remark for the owner.
        </p>
      ))}
      <TextArea
        field={entry.fields.remark!}
        label={inside ? "Remark for the owner (optional)" : "What the owner should know"}
        rows={2}
      />
      <TextField field={entry.fields.name!} label="Your name" defaultValue={person} autoComplete="name" />
      {sheet.job.nextService && (
        <p>
          Next service by <Day iso={sheet.job.nextService.on} />. {sheet.job.nextService.why}
        </p>
      )}
      <p className="text-sm text-soft">
        Signing freezes the sheet and makes the owner’s page. Later additions will be amendments.
      </p>
      <Button look="main" disabled={entry.busy} className="justify-self-start">
        {entry.busy ? "Signing…" : "Sign the job"}
      </Button>
    </EntryForm>
  );
}
