import { useState } from "react";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { Day } from "~app/ui/dates";
import { Dialog } from "~app/ui/dialog";
import { TextField } from "~app/ui/field";

interface Props {
  machineId: string;
  newId: string;
  changes: readonly { id: string; on: string; by: string; text: string }[];
}

/** What was changed on this machine: modifications and where its gauge sat, each with its day and who did it. */
export function Changes({ machineId, newId, changes }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-labelledby="changes" className="grid gap-2">
      <div className="flex items-center justify-between gap-3">
        <h2 id="changes" className="text-xl font-bold">
          Modifications
        </h2>
        <Dialog
          open={open}
          onOpenChange={setOpen}
          title="Add a modification"
          about="What was changed on the machine, when, and by whom. It stays in its history."
          trigger={<Button type="button">Add</Button>}
        >
          <AddChange machineId={machineId} newId={newId} onSaved={() => setOpen(false)} />
        </Dialog>
      </div>
      {changes.length === 0 ? (
        <p className="bg-sheet p-4 text-soft">None recorded.</p>
      ) : (
        <ul className="divide-y divide-rule bg-sheet">
          {changes.map((c) => (
            <li key={c.id} className="flex flex-wrap gap-x-4 px-3 py-2.5">
              <span className="font-semibold">
                <Day iso={c.on} />
              </span>
              <span className="min-w-0 flex-1">{c.text}</span>
              <span className="text-sm text-soft">{c.by}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function AddChange({ machineId, newId, onSaved }: { machineId: string; newId: string; onSaved: () => void }) {
  const entry = useEntry("modification", machineId, newId, { onSaved });
  return (
    <EntryForm entry={entry} className="grid gap-3">
      <TextField field={entry.fields.text!} label="What was changed" />
      <TextField field={entry.fields.doneOn!} label="On (empty: today)" type="date" />
      <TextField field={entry.fields.doneBy!} label="By (empty: you)" />
      <Button look="main" disabled={entry.busy} className="justify-self-start">
        {entry.busy ? "Saving…" : "Save"}
      </Button>
    </EntryForm>
  );
}
