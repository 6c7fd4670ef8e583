import { format } from "date-fns/format";
import { parseISO } from "date-fns/parseISO";
import { type Verdict, judge } from "../../core/metrology";
import { formatQuantity, unitById, unitsOf } from "../../core/quantity";
import type { Task, TaskValue } from "../../core/sheet";
import { judgeHardness } from "../../core/water";
import type { SchoolsOf } from "../../core/school";

/** What was recorded for a task, in words, with its verdict where there are limits. */
export interface Said {
  text: string;
  verdict?: Verdict;
}

export function sayValue(
  task: Task,
  value: TaskValue,
  { schools, typed = "" }: { schools: SchoolsOf; typed?: string },
): Said {
  switch (value.form) {
    case "tick":
      return { text: "done" };
    case "text":
      return { text: value.text };
    case "choice":
      return {
        text: (task.kind === "choice" && task.options.find((o) => o.value === value.choice)?.label) || value.choice,
      };
    case "cartridge":
      return { text: `fitted ${day(value.fittedOn)}, next change ${day(value.dueOn)} by ${value.by}` };
    case "figure":
      return sayFigure(task, value, schools, typed);
  }
}

function sayFigure(task: Task, value: Extract<TaskValue, { form: "figure" }>, schools: SchoolsOf, typed: string): Said {
  if (task.kind === "purge") return { text: `${round(value.value)} L` };
  if (task.kind === "hardness") {
    const { low = value.value, high = value.value } = value;
    const { verdict } = judgeHardness(low, high, schools.hardness);
    const figures = low === high ? round(low) : `${round(low)} to ${round(high)}`;
    return { text: `${figures} mg/L CaCO₃${typed && !/mg|ppm/i.test(typed) ? ` (${typed})` : ""}`, verdict };
  }
  if (task.kind !== "figure") return { text: String(value.value) };
  const unit = unitById(unitsOf(task.dimension)[0]!.id);
  const text = formatQuantity(value.value, task.resolution, unit);
  if (!task.tolerance) return { text };
  // No instrument is named for these: half a step of what was read is all that is claimed.
  const half = task.resolution / 2;
  return {
    text,
    verdict: judge({ value: value.value, u: half / Math.sqrt(3), U: half }, task.tolerance, "simple").verdict,
  };
}

function round(value: number): string {
  return value >= 100 ? value.toFixed(0) : String(Math.round(value * 10) / 10);
}

export function day(isoDay: string): string {
  return format(parseISO(isoDay), "d MMM yyyy");
}

/** "2:05", "48 s". */
export function saySeconds(seconds: number): string {
  if (seconds < 100) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  return minutes < 100 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}
