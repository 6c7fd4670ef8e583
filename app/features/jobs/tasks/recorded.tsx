import type { TaskView } from "~server/jobs/views/station";
import type { TaskKind } from "~core/sheet";
import { VerdictMark } from "~app/ui/verdict";

/** What was recorded for a task, newest last; older ones stay. */
export function TaskLines({ task }: { task: Pick<TaskView, "label" | "lines"> & { kind: TaskKind } }) {
  if (task.lines.length === 0) return null;
  return (
    <ul aria-label={`${task.label}, recorded`} className="grid gap-1">
      {task.lines.map((line, i) => (
        <li
          key={line.id}
          className={`flex flex-wrap items-baseline gap-x-3 ${i < task.lines.length - 1 && !("many" in task && task.many) ? "text-soft" : ""}`}
        >
          <span className={"dimension" in task ? "figure font-semibold" : "whitespace-pre-line"}>{line.text}</span>
          {line.verdict && <VerdictMark verdict={line.verdict} />}
          {line.early && <strong className="text-sm">early: before the machine was warm</strong>}
          <span className="text-sm text-soft">{line.by}</span>
        </li>
      ))}
    </ul>
  );
}
