import { useState } from "react";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";

/** Puts an instrument away: two taps, nothing is lost. */
export function Retire({ id, name, newId }: { id: string; name: string; newId: string }) {
  const entry = useEntry("retire", "kit", newId, { key: `retire-${id}` });
  const [sure, setSure] = useState(false);
  if (!sure)
    return (
      <button
        type="button"
        onClick={() => setSure(true)}
        className="min-h-11 cursor-pointer justify-self-start text-sm underline decoration-edge underline-offset-4"
      >
        Retire<span className="sr-only">: {name}</span>
      </button>
    );
  return (
    <EntryForm entry={entry} className="grid gap-1">
      <input type="hidden" name="id" value={id} />
      <button
        disabled={entry.busy}
        className="min-h-11 cursor-pointer rounded-md border-2 border-alarm px-3 text-sm font-semibold"
      >
        Retire it
      </button>
      <button type="button" onClick={() => setSure(false)} className="min-h-11 cursor-pointer px-2 text-sm">
        Cancel
      </button>
    </EntryForm>
  );
}
