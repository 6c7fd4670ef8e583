import type { SheetView } from "~server/jobs/view";
import { EntryForm } from "./entry-form";
import type { Correcting } from "./log";
import { useEntry } from "./use-entry";
import { Button } from "~app/ui/button";
import { FieldError, TextField, tied } from "~app/ui/field";
import { formatTurns, formatTurnsLong } from "~core/quantity";

interface Props {
  sheet: SheetView;
  newId: string;
  correcting?: Correcting;
  onSaved?: () => void;
}

/** What the hand did: the advised turn in one tap, or another amount. */
export function MoveEntry({ sheet, newId, correcting, onSaved }: Props) {
  const { turns: advised } = sheet.advice;
  const raises = sheet.machine.raises;
  const own = useEntry("move", sheet.job.id, newId, {
    key: correcting ? `move-${correcting.id}` : "move",
    ...(onSaved ? { onSaved } : {}),
  });
  const asAdvised = useEntry("move", sheet.job.id, newId, { key: "move-advised" });
  const { turns, way, reason } = own.fields;
  const form = (
    <EntryForm entry={own} className="grid gap-3">
      {correcting && <input type="hidden" name="supersedes" value={correcting.id} />}
      <div className="flex items-end gap-2">
        <div className="grid w-28 gap-1.5">
          <label htmlFor={turns!.id} className="font-semibold">
            Turned
          </label>
          <input
            {...tied(turns!)}
            type="text"
            autoComplete="off"
            placeholder="1/4"
            {...(advised === null ? { "data-key": "turn" } : {})}
            className="figure h-12 w-full rounded-md border-2 border-edge bg-sheet px-3 text-xl aria-invalid:border-alarm"
          />
        </div>
        <select
          {...tied(way!)}
          aria-label="Which way"
          defaultValue={raises}
          className="h-12 min-w-0 flex-1 rounded-md border-2 border-edge bg-sheet px-2"
        >
          <option value="clockwise">clockwise</option>
          <option value="anticlockwise">anticlockwise</option>
        </select>
        <Button disabled={own.busy} className="h-12">
          Log it
        </Button>
      </div>
      <FieldError field={turns!} />
      <FieldError field={way!} />
      {correcting && <TextField field={reason!} label="Why it is corrected" />}
    </EntryForm>
  );
  if (advised === null || correcting) return form;
  return (
    <div className="grid gap-1">
      <EntryForm entry={asAdvised}>
        <input type="hidden" name="turns" value={formatTurns(advised)} />
        <input type="hidden" name="way" value={advised > 0 ? "clockwise" : "anticlockwise"} />
        <Button look="main" data-key="turn" disabled={asAdvised.busy} className="min-h-16 w-full">
          Turned {formatTurnsLong(advised)} {advised > 0 ? "clockwise" : "anticlockwise"}
        </Button>
      </EntryForm>
      <details>
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Turned something else</summary>
        {form}
      </details>
    </div>
  );
}
