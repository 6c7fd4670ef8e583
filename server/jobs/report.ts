import { SCHOOLS, type SchoolId, schoolWords } from "../../core/school";
import { PATTERNS, diagnose } from "../../core/diagnose";
import { type Station, type Task, analyse, isEarlyEntry, tasksNow } from "../../core/sheet";
import type { SheetRow } from "../../db/queries/jobs";
import type { SignedDocument } from "../../db/schema";
import { analysisOf } from "./analysis";
import { standing } from "./events";
import { shotLines } from "./shots-words";
import type { Stand } from "./stand";
import { sayValue, saySeconds } from "./words";

/** What the report says of the stations: each record in words, what was left out and why, and the choices behind verdicts. */
export function reportOf(
  row: SheetRow,
  stand: Stand,
  at: Date,
): Required<Pick<SignedDocument, "stations" | "schools" | "spec" | "early">> {
  const progress = stand.at(at.getTime());
  return {
    stations: progress
      .filter((p) => p.station.id !== "sign")
      .map(({ station, state, why }) => ({
        title: station.title,
        lines: tasksNow(station, stand.records).flatMap((task) => linesOf(task, row, stand)),
        ...(state === "skipped" ? { skipped: why ?? "" } : {}),
      }))
      .filter((s) => s.lines.length > 0 || s.skipped !== undefined),
    schools: decisiveSchools(stand.plan, row).map((id) => ({
      question: SCHOOLS[id].question,
      choice: schoolWords(id, row.schools[id]),
      own: false,
    })),
    spec: row.spec ? { name: row.spec.card.name, version: row.spec.version } : null,
    early: stand.loops.flatMap((l) => standing(l.entries)).filter((e) => e.kind === "reading" && e.row.early).length,
  };
}

function linesOf(task: Task, row: SheetRow, stand: Stand) {
  if (task.kind === "bursts" || task.kind === "timer" || task.kind === "warm") return timedLines(task, stand);
  if (task.kind === "shots") return shotLines(row, stand);
  if (task.kind === "table") return tableLines(task, row, stand);
  if (task.kind === "diagnosis") return causeLines(task, stand);
  const entries = new Map(row.entries.map((e) => [e.value, e]));
  return (stand.records.values.get(task.id) ?? []).map((value) => {
    const written = entries.get(value);
    const { text, ...said } = sayValue(task, value, {
      schools: row.schools,
      typed: written?.typed ?? "",
      rule: row.decisionRule,
    });
    const early = written && isEarlyEntry(stand.records, row.level, task.id, written.at.getTime());
    return { label: task.label, text: early ? `${text}, read before the machine was warm` : text, ...said };
  });
}

/** What a table came to, not its rows. */
function tableLines(task: Extract<Task, { kind: "table" }>, row: SheetRow, stand: Stand) {
  return analyse(task.analysis, task.id, analysisOf(row, stand)).lines.map((line) => ({ label: task.label, ...line }));
}

/** A cause only once it was named, with its part for the parts list. */
function causeLines(task: Extract<Task, { kind: "diagnosis" }>, stand: Stand) {
  const evidence = (stand.records.values.get(task.id) ?? []).flatMap((v) => (v.form === "evidence" ? [v] : []));
  if (evidence.length === 0) return [];
  const pattern = PATTERNS[task.pattern];
  const { named, ranked } = diagnose(pattern, evidence);
  const text = named
    ? `${named.label}. ${named.remedy}${named.part === "None" ? "" : ` Parts: ${named.part}.`}`
    : `Not settled: ${ranked[0]!.cause.label.toLowerCase()} likeliest.`;
  return [{ label: pattern.title, text }];
}

function timedLines(task: Task, stand: Stand) {
  return (stand.records.timers.get(task.id) ?? []).flatMap((t) =>
    t.endedAt === null || t.outcome === null
      ? []
      : [
          {
            label: task.label,
            text:
              t.outcome === "done"
                ? saySeconds((t.endedAt - t.startedAt) / 1000)
                : `stopped after ${saySeconds((t.endedAt - t.startedAt) / 1000)}`,
          },
        ],
  );
}

/** Schools that change a verdict or the work on this sheet. */
export function decisiveSchools(plan: readonly Station[], row: Pick<SheetRow, "type">): SchoolId[] {
  const has = (id: string) => plan.some((s) => s.id === id);
  const ids: (SchoolId | false)[] = [
    has("as-found") && "opv",
    has("water") && "hardness",
    has("warm") && "warmUp",
    has("clean") && "backFlush",
    has("clean") && "ownerDescaling",
    has("shots") && "shotClock",
    has("shots") && "shotWindow",
    has("shots") && "ratio",
    has("shots") && "grindOrDose",
    has("volumes") && "teaching",
    has("temperature") && row.type !== "handover" && "temperatureOffset",
  ];
  return ids.filter((id) => id !== false);
}
