import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";

/** Out of service, or back in it: either with a reason, and either can be undone by the other. */
export function Retire({ machineId, newId, retired }: { machineId: string; newId: string; retired: boolean }) {
  const entry = useEntry("retire", machineId, newId);
  const { field } = entry;
  return (
    <details open={field("reason").errors ? true : undefined} className="bg-sheet px-4">
      <summary className="min-h-11 cursor-pointer py-2.5">
        {retired ? "Back in service" : "Out of service for good"}
      </summary>
      <EntryForm key={String(retired)} entry={entry} className="grid gap-3 pb-4">
        <input type="hidden" name="state" value={retired ? "in-service" : "retired"} />
        <TextField
          field={field("reason")}
          label="Reason"
          hint={retired ? undefined : "Scrapped, sold on, given back …"}
        />
        <Button disabled={entry.busy} className="justify-self-start">
          {retired ? "Take it back into service" : "Retire the machine"}
        </Button>
      </EntryForm>
    </details>
  );
}
