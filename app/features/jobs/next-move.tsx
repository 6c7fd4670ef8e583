import type { LoopView } from "~server/jobs/views/knob";
import type { SheetView } from "~server/jobs/views/sheet";
import { isLeftAsIs } from "~core/knobs";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";

/** The next move, as a colleague would say it; why, one tap away. */
export function NextMove({ sheet, loop, newId }: { sheet: SheetView; loop: LoopView; newId: string }) {
  const { advice, finding } = loop;
  const look = (calm: boolean) => (calm ? "border-brass bg-brass-wash" : "border-alarm bg-alarm-wash");
  if (finding)
    return (
      <p className={`border-l-8 p-3 font-semibold ${look(isLeftAsIs(finding.fault))}`}>
        {isLeftAsIs(finding.fault)
          ? "Left as it is: can’t tell with this instrument."
          : "Adjusting ended with a fault."}
      </p>
    );
  if (!advice) return null;
  const fault = advice.kind === "fault";
  return (
    <section
      aria-label="Next move"
      aria-live="polite"
      className={`grid gap-1 border-l-8 p-3 ${look(!fault || isLeftAsIs(advice.fault))}`}
    >
      <p className="text-2xl leading-tight font-bold text-balance">{advice.headline}</p>
      {loop.amount?.to && (
        <p className="font-semibold">
          From {loop.amount.now} to {loop.amount.to}.
        </p>
      )}
      <p>{advice.expect}</p>
      <details>
        <summary data-key="why" className="cursor-pointer py-1 text-sm underline decoration-edge underline-offset-4">
          Why
        </summary>
        <ul className="grid gap-1 pt-1 text-sm">
          {advice.why.map((line) => (
            <li key={line}>{line}</li>
          ))}
          {loop.learnt && <li>Learnt from {loop.learnt}.</li>}
          {loop.how.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </details>
      {fault && <TakeFault sheet={sheet} loop={loop} newId={newId} />}
    </section>
  );
}

function TakeFault({ sheet, loop, newId }: { sheet: SheetView; loop: LoopView; newId: string }) {
  const entry = useEntry("fault", sheet.job.id, newId, { key: `fault-${loop.id}` });
  const { checks = [], part, fault = null } = loop.advice ?? {};
  const asIs = isLeftAsIs(fault);
  return (
    <>
      {!asIs && (
        <>
          <h3 className="mt-2 font-bold">Look here next</h3>
          <ul className="grid gap-1 text-sm">
            {checks.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </>
      )}
      <EntryForm entry={entry} className="mt-2 grid gap-3">
        <input type="hidden" name="loop" value={loop.id} />
        <TextField field={entry.fields.text!} label="Found, for the report" />
        {part && <p className="text-sm">For the parts list: {part}.</p>}
        <Button look={asIs ? "plain" : "alarm"} disabled={entry.busy}>
          {asIs ? "Leave it as it is" : "End adjusting with this fault"}
        </Button>
      </EntryForm>
    </>
  );
}
