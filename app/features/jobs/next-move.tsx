import type { SheetView } from "~server/jobs/view";
import { EntryForm } from "./entry-form";
import { useEntry } from "./use-entry";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";

/** The next move, as a colleague would say it; why, one tap away. */
export function NextMove({ sheet, newId }: { sheet: SheetView; newId: string }) {
  const { advice, finding } = sheet;
  if (finding)
    return (
      <p className="border-l-8 border-alarm bg-alarm-wash p-3 font-semibold">
        Adjusting ended with a fault. Read what is left.
      </p>
    );
  const fault = advice.kind === "fault";
  return (
    <section
      aria-label="Next move"
      className={`grid gap-1 border-l-8 p-3 ${fault ? "border-alarm bg-alarm-wash" : "border-brass bg-brass-wash"}`}
    >
      <p className="text-2xl leading-tight font-bold text-balance">{advice.headline}</p>
      <p>{advice.expect}</p>
      <details>
        <summary data-key="why" className="cursor-pointer py-1 text-sm underline decoration-edge underline-offset-4">
          Why
        </summary>
        <ul className="grid gap-1 pt-1 text-sm">
          {advice.why.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </details>
      {fault && <TakeFault sheet={sheet} newId={newId} />}
    </section>
  );
}

function TakeFault({ sheet, newId }: { sheet: SheetView; newId: string }) {
  const entry = useEntry("fault", sheet.job.id, newId);
  return (
    <>
      <h3 className="mt-2 font-bold">Look here next</h3>
      <ul className="grid gap-1 text-sm">
        {sheet.advice.checks.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <EntryForm entry={entry} className="mt-2 grid gap-3">
        <TextField field={entry.fields.text!} label="What you found, for the report" />
        <Button look="alarm" disabled={entry.busy}>
          End adjusting with this fault
        </Button>
      </EntryForm>
    </>
  );
}
