import { TaskLines } from "./recorded";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { SelectField, TextField } from "~app/ui/field";

/** When the cartridge is due: by its date or its litres, whichever comes first. */
export function CartridgeTask({ task, sheet, newId }: TaskProps<"cartridge">) {
  const entry = useEntry("entry", sheet.job.id, newId, { key: `entry-${task.id}` });
  const { typed, capacity, perDay, months } = entry.fields;
  return (
    <div className="grid gap-2">
      <TaskLines task={task} sheet={sheet} newId={newId} />
      <EntryForm entry={entry} className="grid gap-3">
        <input type="hidden" name="task" value={task.id} />
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField field={typed!} label="Cartridge fitted on" type="date" />
          <SelectField field={months!} label="At most" defaultValue="12">
            {[3, 6, 9, 12].map((m) => (
              <option key={m} value={m}>
                {m} months
              </option>
            ))}
          </SelectField>
          <TextField
            field={capacity!}
            label="Litres it treats"
            inputMode="decimal"
            hint="At this hardness, from its table."
          />
          <TextField field={perDay!} label="Litres used a day" inputMode="decimal" />
        </div>
        <Button disabled={entry.busy} className="justify-self-start">
          Work out the next change
        </Button>
      </EntryForm>
    </div>
  );
}
