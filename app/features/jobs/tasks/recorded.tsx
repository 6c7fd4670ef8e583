import { LineButton, Undo } from "../undo";
import type { SheetView } from "~server/jobs/views/sheet";
import type { TaskView } from "~server/jobs/views/station";
import type { TaskKind } from "~core/sheet";
import { Clock } from "~app/ui/dates";
import { VerdictMark } from "~app/ui/verdict";

interface Props {
  task: Pick<TaskView, "label" | "lines"> & { kind: TaskKind };
  sheet: SheetView;
  newId: string;
  /** Takes a line into the form to be corrected. */
  onEdit?: (line: TaskView["lines"][number]) => void;
}

/** What a choice was before: what it is now is shown by its own form. */
export function StruckLines({ task, ...props }: Props) {
  const struck = task.lines.filter((l) => l.struck).map((l) => ({ ...l, text: `${task.label}: ${l.text}` }));
  return <TaskLines task={{ ...task, lines: struck }} {...props} />;
}

/** What was recorded for a task, newest last; what was corrected or taken back stays, struck through, with who and when. */
export function TaskLines({ task, sheet, newId, onEdit }: Props) {
  if (task.lines.length === 0) return null;
  const open = sheet.job.state === "open";
  return (
    <ul aria-label={`${task.label}, recorded`} className="grid gap-1">
      {task.lines.map((line) => (
        <li key={line.id} className="flex flex-wrap items-center gap-x-3">
          <span
            className={`${"dimension" in task ? "figure font-semibold" : "whitespace-pre-line"} ${line.struck ? "text-soft line-through" : ""}`}
          >
            {line.text}
          </span>
          {!line.struck && line.verdict && <VerdictMark verdict={line.verdict} />}
          {!line.struck && line.early && <strong className="text-sm">{line.early}</strong>}
          <span className="text-sm text-soft">
            {line.by}
            {line.struck && (
              <>
                ; {line.struck.reason || "undone"}, {line.struck.by} <Clock iso={line.struck.at} />
              </>
            )}
          </span>
          {open && !line.struck && (
            <span className="ml-auto flex gap-2">
              {onEdit && <LineButton type="button" does="Edit" what={line.text} onClick={() => onEdit(line)} />}
              {task.kind !== "shots" && <Undo jobId={sheet.job.id} newId={newId} id={line.id} what={line.text} />}
            </span>
          )}
        </li>
      ))}
    </ul>
  );
}
