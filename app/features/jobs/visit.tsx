import { useState } from "react";
import type { SheetView } from "~server/jobs/views/sheet";
import { Button } from "~app/ui/button";
import { Dialog } from "~app/ui/dialog";
import { EntryForm } from "~app/ui/entry-form";
import { FieldError, TextField } from "~app/ui/field";
import { useEntry } from "~app/ui/use-entry";
import { SCOPES, SCOPE_IDS } from "~core/sheet";

/** What this visit is for, and the data it goes by: both can change while the job is open. */
export function Visit({ sheet, newId }: { sheet: SheetView; newId: string }) {
  const [open, setOpen] = useState(false);
  const { job } = sheet;
  if (job.state === "signed") return null;
  return (
    <div className="grid w-full gap-2">
      {job.changedSince && <ChangedSince sheet={sheet} newId={newId} />}
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="What this visit is for"
        about="Add at any time. Taking out what was begun needs a reason; what was recorded stays on record."
        trigger={
          <button
            type="button"
            className="min-h-11 cursor-pointer justify-self-start text-sm underline decoration-edge underline-offset-4"
          >
            Change what this visit is for
          </button>
        }
      >
        <Scopes sheet={sheet} newId={newId} onSaved={() => setOpen(false)} />
      </Dialog>
    </div>
  );
}

function Scopes({ sheet, newId, onSaved }: { sheet: SheetView; newId: string; onSaved: () => void }) {
  const { job } = sheet;
  const entry = useEntry("scopes", job.id, newId, { onSaved });
  const here = SCOPE_IDS.filter((id) => job.scopes.includes(id) || job.offered.includes(id));
  return (
    <EntryForm entry={entry} className="grid gap-3">
      <fieldset className="grid gap-1 sm:grid-cols-2">
        <legend className="sr-only">Scopes of the visit</legend>
        {here.map((id) => (
          <label key={id} className="flex min-h-11 cursor-pointer items-center gap-3">
            <input
              type="checkbox"
              name="scopes"
              value={id}
              defaultChecked={job.scopes.includes(id)}
              className="size-6 shrink-0 accent-ink"
            />
            <span>
              <span className="font-semibold">{SCOPES[id].title}</span>
              <span className="block text-sm text-soft">{SCOPES[id].about}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <FieldError field={entry.fields.scopes!} />
      <TextField field={entry.fields.reason!} label="Why something is taken out, if it was begun" />
      <Button look="main" disabled={entry.busy} className="justify-self-start">
        {entry.busy ? "Saving…" : "Change the visit"}
      </Button>
    </EntryForm>
  );
}

/** Library or register say otherwise since the job began: the sheet waits for a decision, nothing is lost. */
function ChangedSince({ sheet, newId }: { sheet: SheetView; newId: string }) {
  const entry = useEntry("particulars", sheet.job.id, newId);
  return (
    <div role="status" className="grid gap-2 border-l-8 border-brass bg-brass-wash p-3 text-ink">
      <p>
        Since this job began <strong>{sheet.job.changedSince}</strong>. The sheet stays as it is until you decide; all
        that is recorded stays either way.
      </p>
      <EntryForm entry={entry}>
        <Button disabled={entry.busy}>Take the model’s data as they are now</Button>
      </EntryForm>
    </div>
  );
}
