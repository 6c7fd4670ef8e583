import { EntryForm } from "~app/ui/entry-form";
import type { LineEntryProps } from "./log";
import { type Entry, useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, TextField, tied } from "~app/ui/field";
import { moveDone, moveWords } from "~core/knobs";
import { formatTurns } from "~core/quantity";

/** What the hand did: the advised move in one tap, or another amount. */
export function MoveEntry({ sheet, loop, newId, correcting, onSaved }: LineEntryProps) {
  const advised = loop.advice?.amount ?? null;
  const hand = loop.hand;
  const prefix = `move-${loop.id}`;
  const own = useEntry("move", sheet.job.id, newId, {
    key: correcting ? `move-${correcting.id}` : prefix,
    ...(onSaved ? { onSaved } : {}),
  });
  const asAdvised = useEntry("move", sheet.job.id, newId, { key: `${prefix}-advised` });
  if (!hand) return null;
  if (loop.locked && !correcting)
    return (
      <p role="status" className="border-l-8 border-brass bg-brass-wash p-3 font-semibold">
        {loop.locked}
      </p>
    );
  const { amount, way, reason } = own.fields;
  const figure = (size: number) => (hand.fractions ? formatTurns(size) : String(Math.round(size * 100) / 100));
  const form = (
    <EntryForm entry={own} className="grid gap-3">
      <input type="hidden" name="loop" value={loop.id} />
      {correcting && <input type="hidden" name="supersedes" value={correcting.id} />}
      <div className="flex items-end gap-2">
        <div className="grid w-28 gap-1.5">
          <label htmlFor={amount!.id} className="font-semibold">
            {hand.fractions ? "Turned" : `How far, ${hand.unit.many}`}
          </label>
          <input
            {...tied(amount!)}
            type="text"
            inputMode={hand.fractions ? "text" : "decimal"}
            placeholder={hand.fractions ? "1/4" : "1"}
            {...(advised === null ? { "data-key": "turn" } : {})}
            className="figure h-12 w-full rounded-md border-2 border-edge bg-sheet px-3 text-xl aria-invalid:border-alarm"
          />
        </div>
        <select
          {...tied(way!)}
          aria-label="Which way"
          key={advised === null ? "none" : advised > 0 ? "up" : "down"}
          defaultValue={(advised ?? hand.sign) > 0 ? "plus" : "minus"}
          className="h-12 min-w-0 flex-1 rounded-md border-2 border-edge bg-sheet px-2"
        >
          <option value="plus">{hand.plus}</option>
          <option value="minus">{hand.minus}</option>
        </select>
        <Button disabled={own.busy} className="h-12">
          Save adjustment
        </Button>
      </div>
      <FieldError field={amount!} />
      <FieldError field={way!} />
      {loop.trapped && !correcting && <ZeroBox entry={own} />}
      {correcting && <TextField field={reason!} label="Reason" />}
    </EntryForm>
  );
  if (advised === null || correcting) return form;
  return (
    <>
      {/* Never under the fold of a small screen: what was done is said with one tap. */}
      <EntryForm entry={asAdvised} className="sticky bottom-0 z-1 grid gap-2 bg-sheet py-1">
        <input type="hidden" name="loop" value={loop.id} />
        <input type="hidden" name="amount" value={figure(Math.abs(advised))} />
        <input type="hidden" name="way" value={advised > 0 ? "plus" : "minus"} />
        {loop.trapped && <ZeroBox entry={asAdvised} />}
        <Button look="main" data-key="turn" disabled={asAdvised.busy} className="min-h-16 w-full">
          {hand.fractions
            ? `Turned ${moveWords(hand, advised, figure)}`
            : loop.taught
              ? "Taught, stopped by the scale"
              : moveDone(hand, advised, figure)}
        </Button>
      </EntryForm>
      <details>
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Adjusted otherwise</summary>
        {form}
      </details>
    </>
  );
}

/** No three-way valve: before anything is opened, the pressure is out and the machine is dead. Asked every time. */
function ZeroBox({ entry }: { entry: Entry }) {
  const { zero } = entry.fields;
  return (
    <div className="grid gap-1">
      <label className="flex min-h-11 items-center gap-3 border-l-8 border-alarm bg-alarm-wash p-2">
        <input {...tied(zero!)} type="checkbox" value="yes" className="size-6 shrink-0 accent-ink" />
        The gauge reads zero, the machine is off and unplugged
      </label>
      <FieldError field={zero!} />
    </div>
  );
}
