import { useState } from "react";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { Dialog } from "~app/ui/dialog";
import { TextField } from "~app/ui/field";

/** A modification, added to the machine’s history with its day and who did it. */
export function AddChange({ machineId, newId }: { machineId: string; newId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="Add a modification"
      about="What was changed on the machine, when, and by whom. It stays in its history."
      trigger={<Button type="button">Add a modification</Button>}
    >
      <Form machineId={machineId} newId={newId} onSaved={() => setOpen(false)} />
    </Dialog>
  );
}

function Form({ machineId, newId, onSaved }: { machineId: string; newId: string; onSaved: () => void }) {
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
