import type { LineEntryProps } from "./log";
import { Button } from "~app/ui/button";
import { EntryForm } from "~app/ui/entry-form";
import { TextField } from "~app/ui/field";
import { useEntry } from "~app/ui/use-entry";

/** What was renewed or freed: from there on the machine is read as a new one. What was found stays. */
export function RepairEntry({ sheet, loop, newId, correcting, onSaved }: LineEntryProps) {
  const entry = useEntry("repair", sheet.job.id, newId, {
    key: correcting ? `repair-${correcting.id}` : `repair-${loop.id}`,
    ...(onSaved ? { onSaved } : {}),
  });
  return (
    <EntryForm entry={entry} className="grid gap-3">
      <input type="hidden" name="loop" value={loop.id} />
      {correcting && <input type="hidden" name="supersedes" value={correcting.id} />}
      <TextField
        field={entry.fields.text!}
        label="What was renewed or freed"
        hint="Readings as left start again; those as found stay, and the report says both."
      />
      {correcting && <TextField field={entry.fields.reason!} label="Reason" />}
      <Button disabled={entry.busy} className="justify-self-start">
        {entry.busy ? "Saving…" : "Save repair"}
      </Button>
    </EntryForm>
  );
}
