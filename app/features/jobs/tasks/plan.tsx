import { useEffect, useState } from "react";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { useServerNow } from "~app/ui/clock";
import { type PlanStep, planAt } from "~core/temperature";

/** A timed plan as a running clock: the step in hand large, the seconds left, the next one under it. */
export function PlanTask({ task, sheet, newId }: TaskProps<"plan">) {
  const { plan } = task;
  const start = useEntry("timer-start", sheet.job.id, newId, { key: `start-${task.id}` });
  const end = useEntry("timer-end", sheet.job.id, newId, { key: `end-${task.id}` });
  return (
    <section aria-label={task.label} className="grid gap-2 border-t border-rule pt-3">
      <h4 className="font-semibold">{task.label}</h4>
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      {plan.missing && <p className="text-soft">{plan.missing}</p>}
      {task.clock ? (
        <Running steps={plan.steps} startedAt={task.clock.startedAt} at={sheet.at} taskId={task.id} />
      ) : (
        <Steps steps={plan.steps} at={null} />
      )}
      {!plan.missing &&
        sheet.job.state === "open" &&
        (task.clock ? (
          <EntryForm entry={end}>
            <input type="hidden" name="task" value={task.id} />
            <input type="hidden" name="outcome" value="done" />
            <Button disabled={end.busy}>Stop the timer</Button>
          </EntryForm>
        ) : (
          <EntryForm entry={start}>
            <input type="hidden" name="task" value={task.id} />
            <Button look="main" disabled={start.busy}>
              Start the timer
            </Button>
          </EntryForm>
        ))}
    </section>
  );
}

/** When each step that ends by something seen was ended here, ms of the server; kept on this device for as long as the timer runs. */
function useSeen(key: string): [readonly number[], (at: number) => void] {
  const [seen, setSeen] = useState<readonly number[]>([]);
  useEffect(() => {
    try {
      setSeen(JSON.parse(localStorage.getItem(key) ?? "[]") as number[]);
    } catch {
      setSeen([]);
    }
  }, [key]);
  const add = (at: number) => {
    const all = [...seen, at];
    setSeen(all);
    try {
      localStorage.setItem(key, JSON.stringify(all));
    } catch {
      // A forbidden store: it is known until the page is loaded again.
    }
  };
  return [seen, add];
}

/** A step that ends by something seen goes on when somebody says that it was seen, never by itself. */
function Running({
  steps,
  startedAt,
  at,
  taskId,
}: {
  steps: readonly PlanStep[];
  startedAt: number;
  at: number;
  taskId: string;
}) {
  const now = useServerNow(at);
  const [seen, add] = useSeen(`seen:${taskId}:${startedAt}`);
  const stands = planAt(
    steps,
    (now - startedAt) / 1000,
    seen.map((x) => (x - startedAt) / 1000),
  );
  const step = stands && steps[stands.index];
  return (
    <>
      <Steps steps={steps} at={stands ?? { index: steps.length, left: 0 }} />
      {step?.until && (
        <Button type="button" look="main" className="justify-self-start" onClick={() => add(now)}>
          {step.until === "light" ? "Light changed" : "Boiling stopped"}
        </Button>
      )}
    </>
  );
}

function Steps({ steps, at }: { steps: readonly PlanStep[]; at: { index: number; left: number } | null }) {
  return (
    <ol className="grid gap-1">
      {steps.map((step, i) => {
        const current = at?.index === i;
        const look = current
          ? "border-brass bg-brass-wash text-xl font-bold"
          : at && i < at.index
            ? "border-ink text-soft"
            : "border-rule";
        return (
          <li
            key={`${step.label} ${steps.slice(0, i).reduce((sum, s) => sum + s.seconds, 0)}`}
            aria-current={current ? "step" : undefined}
            className={`grid grid-cols-[4rem_minmax(0,1fr)] items-baseline gap-3 border-l-4 py-1 pl-3 ${look}`}
          >
            <span className="figure" suppressHydrationWarning>
              {current
                ? `${Math.ceil(Math.abs(at.left))} s${at.left < 0 ? " over" : ""}`
                : step.seconds > 0
                  ? `${step.seconds} s`
                  : ""}
            </span>
            <span>
              {step.label}
              {step.until && <span className="font-normal text-soft"> (by eye; about this long)</span>}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
