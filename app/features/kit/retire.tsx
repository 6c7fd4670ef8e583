import { AskFirst } from "~app/ui/ask-first";
import { Button } from "~app/ui/button";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";

/** Puts an instrument away: two taps, nothing is lost. */
export function Retire({ id, name, newId }: { id: string; name: string; newId: string }) {
  const entry = useEntry("retire", "kit", newId, { key: `retire-${id}` });
  return (
    <AskFirst
      does="Retire"
      of={name}
      means="It leaves the kit. What was read with it stays."
      className="-ml-2 text-sm open:ml-0 open:basis-full"
    >
      <EntryForm entry={entry}>
        <input type="hidden" name="id" value={id} />
        <Button disabled={entry.busy}>Retire it</Button>
      </EntryForm>
    </AskFirst>
  );
}
