import { group } from "d3-array";
import { LRUCache } from "lru-cache";
import { type AdjustQuestion, type Advice, nextAction } from "../../core/adjust";
import { KINDS, type KindId, type MachineKind, type ModelCard, usualCard } from "../../core/kind";
import type { Tolerance } from "../../core/metrology";
import { type OpvModel, opvKnob, pressureCheck } from "../../core/pressure";
import type { SchoolsOf } from "../../core/school";
import {
  type JobType,
  type SheetQuestion,
  type SheetRecords,
  type Station,
  type StationProgress,
  type TaskValue,
  type TimerRecord,
  progress,
  sheetFor,
} from "../../core/sheet";
import type { SpecLine } from "../../core/spec";
import type { WarmLevel } from "../../core/warmup";
import { type Entry, type MoveRow, type ReadingRow, adjustEvents, entriesOf, standing } from "./events";

/** What of a job decides where it stands; a sheet row and a bench row both carry it. */
export interface StandingOf<R extends ReadingRow = ReadingRow, M extends MoveRow = MoveRow> {
  type: JobType;
  kind: KindId;
  state: "open" | "signed";
  tolerance: Tolerance;
  schools: SchoolsOf;
  level: WarmLevel;
  spec: { lines: SpecLine[] } | null;
  machine: {
    model: {
      kind: KindId;
      card: Partial<ModelCard>;
      opvResponse: number;
      opvResponseSd: number;
      opvRaises: "clockwise" | "anticlockwise";
    };
  };
  notes: { station: string }[];
  ticks: { key: string }[];
  entries: { id: string; task: string; value: TaskValue; at: Date; supersedes: string | null }[];
  timers: { task: string; at: Date; dueAt: Date; endedAt: Date | null; outcome: "done" | "alarm" | null }[];
  readings: R[];
  adjustments: M[];
  findings: unknown[];
}

export interface Stand<R extends ReadingRow = ReadingRow, M extends MoveRow = MoveRow> {
  kind: MachineKind;
  card: ModelCard;
  opv: OpvModel;
  entries: Entry<R, M>[];
  question: AdjustQuestion;
  advice: Advice;
  plan: Station[];
  records: SheetRecords;
  /** Where each station stands at a moment. */
  at(now: number): StationProgress[];
}

// The engine is a pure function of the log: the same log, asked again by bench, sheet and save, is the same advice.
const known = new LRUCache<string, Advice>({ max: 5000 });

function advise(question: AdjustQuestion): Advice {
  const key = JSON.stringify(question);
  let advice = known.get(key);
  if (!advice) known.set(key, (advice = nextAction(question)));
  return advice;
}

/** Where a job stands: its plan, its records, the log, and what the engine advises now. */
export function standOf<R extends ReadingRow, M extends MoveRow>(job: StandingOf<R, M>): Stand<R, M> {
  const sheet = questionOf(job);
  const { kind } = sheet;
  const opv = opvOf(job.machine.model);
  const entries = entriesOf(job.readings, job.adjustments);
  const question = { knob: opvKnob(opv, kind), tolerance: job.tolerance, events: adjustEvents(entries, opv) };
  const advice = advise(question);
  const plan = sheetFor(sheet);
  const records: SheetRecords = {
    ...recordsOf(job),
    events: standing(entries).map((e) => e.kind),
    accepted: advice.action.kind === "accept",
    faultTaken: job.findings.length > 0,
  };
  return {
    kind,
    card: sheet.card,
    opv,
    entries,
    question,
    advice,
    plan,
    records,
    at: (now) => progress(plan, records, now),
  };
}

/** What the sheet of a job is built from: all of it pinned at the start, but for what the model's card says. */
export function questionOf(
  job: Pick<StandingOf, "type" | "kind" | "schools" | "level" | "spec" | "machine">,
): SheetQuestion {
  const kind = KINDS[job.kind];
  const card = { ...usualCard(kind), ...(job.machine.model.kind === job.kind ? job.machine.model.card : {}) };
  return {
    type: job.type,
    // A model may have its valve elsewhere than its kind usually does.
    kind: { ...kind, opv: card.opvAccess },
    card,
    schools: job.schools,
    spec: job.spec?.lines ?? [],
    level: job.level,
  };
}

/** Under this task name stations are left out; an empty reason takes one up again. */
export const skipTask = (station: string) => `skip.${station}`;

function recordsOf(job: Pick<StandingOf, "notes" | "ticks" | "entries" | "timers" | "state">) {
  const replaced = new Set(job.entries.map((e) => e.supersedes));
  const values = new Map<string, TaskValue[]>();
  const add = (task: string, value: TaskValue) => values.set(task, [...(values.get(task) ?? []), value]);
  for (const { key } of job.ticks) add(key, { form: "tick" });
  for (const e of job.entries) if (!replaced.has(e.id)) add(e.task, e.value);
  const skipped = new Map<string, string>();
  for (const [task, all] of values) {
    const last = all.at(-1);
    if (task.startsWith("skip.") && last?.form === "text" && last.text)
      skipped.set(task.slice("skip.".length), last.text);
  }
  return { values, skipped, timers: timersOf(job.timers), notes: job.notes.length, signed: job.state === "signed" };
}

function timersOf(rows: StandingOf["timers"]): Map<string, TimerRecord[]> {
  return group(
    rows.map((t) => ({
      task: t.task,
      startedAt: t.at.getTime(),
      dueAt: t.dueAt.getTime(),
      endedAt: t.endedAt?.getTime() ?? null,
      outcome: t.outcome,
    })),
    (t) => t.task,
  );
}

export function opvOf(model: StandingOf["machine"]["model"]): OpvModel {
  return { responseMean: model.opvResponse, responseSd: model.opvResponseSd, raises: model.opvRaises };
}

export function adjustable(kind: MachineKind): boolean {
  return pressureCheck(kind) === "adjustable";
}
