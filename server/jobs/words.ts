import { format } from "date-fns/format";
import { parseISO } from "date-fns/parseISO";
import { PATTERNS } from "../../core/diagnose";
import { type DecisionRule, type Verdict, judge } from "../../core/metrology";
import { formatQuantity, formatUncertainty, unitById, unitsOf } from "../../core/quantity";
import type { Cell, Column, Task, TaskValue } from "../../core/sheet";
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
  { schools, typed = "", rule = "simple" }: { schools: SchoolsOf; typed?: string; rule?: DecisionRule },
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
      return sayFigure(task, value, { schools, typed, rule });
    case "row":
      return { text: sayRow(task, value.cells) };
    case "evidence":
      return { text: sayEvidence(task, value) };
    case "accepted":
      return { text: value.reason ? `taken as the recipe: ${value.reason}` : "taken as the recipe" };
    case "struck":
      return { text: `taken out: ${value.reason}` };
  }
}

/** A row of a table, cell after cell. */
function sayRow(task: Task, cells: Readonly<Record<string, Cell>>): string {
  if (task.kind !== "table") return "";
  return task.columns
    .flatMap((column) => {
      const cell = cells[column.name];
      return cell ? [`${column.label.toLowerCase()} ${sayCell(column, cell)}`] : [];
    })
    .join(", ");
}

export function sayCell({ type }: Column, cell: Cell): string {
  if (type.kind === "choice") return type.options.find((o) => o.value === cell.choice)?.label ?? "";
  if (type.kind === "count") return String(cell.value);
  return formatQuantity(cell.value ?? Number.NaN, type.resolution, unitById(unitsOf(type.dimension)[0]!.id));
}

function sayEvidence(task: Task, { check, outcome }: { check: string; outcome: string }): string {
  if (task.kind !== "diagnosis") return "";
  const found = PATTERNS[task.pattern].checks.find((c) => c.id === check);
  return `${found?.label ?? check}: ${found?.outcomes.find((o) => o.id === outcome)?.label ?? outcome}`;
}

interface About {
  schools: SchoolsOf;
  typed: string;
  rule: DecisionRule;
}

function sayFigure(task: Task, value: Extract<TaskValue, { form: "figure" }>, { schools, typed, rule }: About): Said {
  if (task.kind === "purge") return { text: `${round(value.value)} L` };
  if (task.kind === "hardness") {
    const { low = value.value, high = value.value } = value;
    const { verdict } = judgeHardness(low, high, schools.hardness);
    const figures = low === high ? round(low) : `${round(low)} to ${round(high)}`;
    const own = typed && !/mg|ppm/i.test(typed) ? ` (${typed})` : "";
    return { text: `${figures} mg/L CaCO₃${own}${late(value)}`, verdict };
  }
  if (task.kind !== "figure") return { text: String(value.value) };
  const unit = unitById(unitsOf(task.dimension)[0]!.id);
  const { u, U } = value;
  const plain = formatQuantity(value.value, task.resolution, unit);
  const text = `${plain}${U === undefined ? "" : ` ± ${formatUncertainty(U, task.resolution, unit)}`}${late(value)}`;
  if (!task.tolerance) return { text };
  if (u !== undefined && U !== undefined)
    return { text, verdict: judge({ value: value.value, u, U }, task.tolerance, rule).verdict };
  // No instrument is named: half a step of what was read is all that is claimed.
  const half = task.resolution / 2;
  return {
    text,
    verdict: judge({ value: value.value, u: half / Math.sqrt(3), U: half }, task.tolerance, "simple").verdict,
  };
}

/** An instrument past its date can be used; the report says so. */
function late({ outOfDate, instrument }: Extract<TaskValue, { form: "figure" }>): string {
  return outOfDate ? `, ${instrument}: calibration out of date` : "";
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
