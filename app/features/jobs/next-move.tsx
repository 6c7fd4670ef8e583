import type { LoopView } from "~server/jobs/loop-view";
import type { SheetView } from "~server/jobs/view";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";

/** The next move, as a colleague would say it; why, one tap away. */
export function NextMove({ sheet, loop, newId }: { sheet: SheetView; loop: LoopView; newId: string }) {
  const { advice, finding } = loop;
  if (finding)
    return (
      <p className="border-l-8 border-alarm bg-alarm-wash p-3 font-semibold">
        Adjusting ended with a fault. {loop.runs.asLeft < loop.needed.left && !loop.noReturn && "Read what is left."}
      </p>
    );
  if (!advice) return null;
  const fault = advice.kind === "fault";
  return (
    <section
      aria-label="Next move"
      aria-live="polite"
      className={`grid gap-1 border-l-8 p-3 ${fault ? "border-alarm bg-alarm-wash" : "border-brass bg-brass-wash"}`}
    >
      <p className="text-2xl leading-tight font-bold text-balance">
        {loop.noReturn ? "Stop the pump. No water returns and the pressure is over its limit." : advice.headline}
      </p>
      {loop.amount?.to && (
        <p className="font-semibold">
          From {loop.amount.now} to {loop.amount.to}.
        </p>
      )}
      <p>{loop.noReturn ? "The valve is stuck: the test ends here." : advice.expect}</p>
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
  const entry = useEntry("fault", sheet.job.id, newId, { key: loop.id === "opv" ? "fault" : `fault-${loop.id}` });
  const { checks = [], part } = loop.advice ?? {};
  return (
    <>
      <h3 className="mt-2 font-bold">Look here next</h3>
      <ul className="grid gap-1 text-sm">
        {checks.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <EntryForm entry={entry} className="mt-2 grid gap-3">
        <input type="hidden" name="loop" value={loop.id} />
        <TextField field={entry.fields.text!} label="What you found, for the report" />
        {part && part !== "None" && <p className="text-sm">For the parts list: {part}.</p>}
        <Button look="alarm" disabled={entry.busy}>
          End adjusting with this fault
        </Button>
      </EntryForm>
    </>
  );
}
