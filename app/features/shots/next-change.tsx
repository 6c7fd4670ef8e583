import type { ShotsView } from "~server/jobs/views/shots";
import { Button } from "~app/ui/button";
import { EntryForm } from "~app/ui/entry-form";
import { TextField } from "~app/ui/field";
import { type EntryAnswer, useEntry } from "~app/ui/use-entry";

interface Props {
  view: ShotsView;
  newId: string;
  onSaved: (answer: EntryAnswer) => void;
}

/** The one thing to change, as a colleague would say it; and the way to be done. */
export function NextChange({ view, newId, onSaved }: Props) {
  const { advice, tries, accepted } = view;
  const last = tries.findLast((t) => !t.amends);
  const taken = accepted && tries.find((t) => t.id === accepted.shotId);
  const done = last !== undefined && accepted?.shotId === last.id;
  return (
    <div className="grid gap-3">
      {taken && (
        <p className="border-l-8 border-ink bg-sheet p-3">
          <strong>Shot {taken.number} is the recipe.</strong> {taken.said}. {accepted.reason}
        </p>
      )}
      {/* Taken, it is the recipe: nothing is asked of it any more. */}
      {!done && (
        <section
          aria-label="Next change"
          aria-live="polite"
          className={`grid gap-1 border-l-8 p-3 ${advice.kind === "check" ? "border-alarm bg-alarm-wash" : "border-brass bg-brass-wash"}`}
        >
          <p className="text-2xl leading-tight font-bold text-balance">{advice.headline}</p>
          {advice.expect && <p className="figure">{advice.expect}</p>}
          {advice.why && <p className="text-sm">{advice.why}</p>}
        </section>
      )}
      {last && view.job.state === "open" && !done && (
        <Take key={last.id} view={view} newId={newId} onSaved={onSaved} shotId={last.id} number={last.number} />
      )}
    </div>
  );
}

function Take({ view, newId, onSaved, shotId, number }: Props & { shotId: string; number: number }) {
  const entry = useEntry("take", view.job.id, newId, { key: `take-${shotId}`, onSaved });
  const form = (
    <EntryForm entry={entry} className="grid gap-2">
      <input type="hidden" name="shotId" value={shotId} />
      {view.needsReason && (
        <>
          <p className="text-sm">{view.needsReason}</p>
          <TextField field={entry.fields.reason!} label="Reason" />
        </>
      )}
      <Button
        look={view.advice.kind === "keep" ? "main" : "plain"}
        disabled={entry.busy}
        className="justify-self-start"
      >
        {entry.busy ? "Saving…" : `Use shot ${number} as the recipe`}
      </Button>
    </EntryForm>
  );
  if (!view.needsReason) return form;
  return (
    <details open={entry.fields.reason!.errors ? true : undefined}>
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
        Use shot {number} as the recipe, with a reason
      </summary>
      {form}
    </details>
  );
}
