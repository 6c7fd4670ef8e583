import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, tied } from "~app/ui/field";

type Props = Pick<TaskProps<"diagnosis">, "task" | "sheet" | "newId">;
type Diagnosis = Props["task"]["diagnosis"];

/** Something off: causes by likelihood, and the one check that tells most next. Nothing is named on one check alone. */
export function DiagnosisTask({ task, sheet, newId }: Props) {
  const d = task.diagnosis;
  const next = d.checks.find((c) => c.id === d.next);
  const seen = d.checks.filter((c) => c.seen !== null);
  return (
    <details open={d.typed > 0 ? true : undefined} className="border-t border-rule">
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
        {task.label}
        <span className="font-normal text-soft">
          {d.named ? `: ${d.named.label.toLowerCase()}` : " (if something is wrong)"}
        </span>
      </summary>
      <div className="grid gap-3 pb-2">
        {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
        {d.seen > 0 && <Causes d={d} />}
        {d.named && (
          <p role="status" className="border-l-8 border-alarm bg-alarm-wash p-3">
            <strong>{d.named.label}.</strong> {d.named.remedy}
            {d.named.part && ` For the parts list: ${d.named.part}.`}
          </p>
        )}
        {next && <Check check={next} next task={task} sheet={sheet} newId={newId} />}
        {seen.length > 0 && (
          <ul aria-label="Checked so far" className="grid gap-1">
            {seen.map((check) => (
              <li key={check.id} className="text-sm">
                {check.label}: <strong>{check.outcomes.find((o) => o.id === check.seen)?.label}</strong>
                {check.derived && <span className="text-soft"> (from the readings)</span>}
              </li>
            ))}
          </ul>
        )}
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 text-sm font-semibold">Other checks, and repeats</summary>
          <div className="grid gap-3">
            {d.checks
              .filter((check) => check.id !== d.next)
              .map((check) => (
                <Check key={check.id} check={check} next={false} task={task} sheet={sheet} newId={newId} />
              ))}
          </div>
        </details>
      </div>
    </details>
  );
}

function Causes({ d }: { d: Diagnosis }) {
  return (
    <ol aria-label="Causes, likeliest first" className="grid gap-1">
      {d.ranked.map((cause) => {
        const percent = Math.min(99, Math.max(1, Math.round(100 * cause.probability)));
        return (
          <li key={cause.id} className="grid grid-cols-[minmax(0,1fr)_3.5rem] items-center gap-2">
            <span className="relative border-b-2 border-rule">
              {cause.label}
              <span
                aria-hidden="true"
                className="absolute -bottom-0.5 left-0 h-0.5 bg-ink"
                style={{ width: `${percent}%` }}
              />
            </span>
            <span className="figure text-right">{percent} %</span>
          </li>
        );
      })}
    </ol>
  );
}

function Check({ check, next, task, sheet, newId }: Props & { check: Diagnosis["checks"][number]; next: boolean }) {
  const entry = useEntry("evidence", sheet.job.id, newId, { key: `evidence-${task.id}-${check.id}` });
  const seen = check.outcomes.find((o) => o.id === check.seen);
  return (
    <div className={`grid gap-1 border-l-4 pl-3 ${next ? "border-brass" : "border-rule"}`}>
      <p className="font-semibold">
        {check.label}
        {seen && <span className="font-normal">: {seen.label}</span>}
        {next && <span className="font-normal text-soft">, recommended next</span>}
      </p>
      <p className="text-sm text-soft">{check.how}</p>
      {sheet.job.state === "open" && (
        <EntryForm entry={entry} className="flex flex-wrap gap-2">
          <input type="hidden" name="task" value={task.id} />
          <input type="hidden" name="check" value={check.id} />
          {check.zero && (
            <div className="grid w-full gap-1">
              <label className="flex min-h-11 items-center gap-3 border-l-8 border-alarm bg-alarm-wash p-2">
                <input
                  {...tied(entry.fields.zero!)}
                  type="checkbox"
                  value="yes"
                  className="size-6 shrink-0 accent-ink"
                />
                Pressure let out slowly, the gauge reads zero: only then the handle was turned
              </label>
              <FieldError field={entry.fields.zero!} />
            </div>
          )}
          {check.outcomes.map((o) => (
            <Button
              key={o.id}
              name="outcome"
              value={o.id}
              disabled={entry.busy}
              aria-pressed={check.seen === o.id}
              className="min-h-11 aria-pressed:bg-brass-wash"
            >
              {o.label}
            </Button>
          ))}
        </EntryForm>
      )}
    </div>
  );
}
