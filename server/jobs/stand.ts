import { group } from "d3-array";
import { type AdjustQuestion, type Advice, nextAction } from "../../core/adjust";
import { KINDS, type KindId, type MachineKind, type ModelCard } from "../../core/kind";
import { type Loop, type LoopId, loopsOf } from "../../core/loop";
import type { Tolerance } from "../../core/metrology";
import { type OpvModel, endsTheTest } from "../../core/pressure";
import type { SchoolsOf } from "../../core/school";
import type { Recipe } from "../../core/shot";
import {
  type JobType,
  type LoopRecord,
  NOTHING_RECORDED,
  type SheetQuestion,
  type SheetRecords,
  type Station,
  type StationProgress,
  type TaskValue,
  type TimerRecord,
  metersOf,
  progress,
  sheetFor,
} from "../../core/sheet";
import type { SpecLine } from "../../core/spec";
import type { WarmLevel } from "../../core/warmup";
import type { LearntLoop } from "../../db/schema/learnt";
import { type Timed, cardOf, recipeFrom, sinceGrind, targetsOf, timedOf } from "./coffee";
import { remembered } from "./remembered";
import { type Entry, type MoveRow, type ReadingRow, adjustEvents, entriesOf, runOf, standing } from "./events";

/** What of a job decides where it stands; a sheet row and a bench row both carry it. */
export interface StandingOf<R extends ReadingRow = ReadingRow, M extends MoveRow = MoveRow> {
  type: JobType;
  kind: KindId;
  state: "open" | "signed";
  tolerance: Tolerance;
  schools: SchoolsOf;
  level: WarmLevel;
  learnt: Partial<Record<LoopId, LearntLoop>>;
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
  findings: { loop: LoopId }[];
  shots: { id: string; supersedes: string | null }[];
}

/** One knob of the job: its log, what the engine is asked and what it says. */
export interface LoopStand<R extends ReadingRow = ReadingRow, M extends MoveRow = MoveRow> {
  loop: Loop;
  entries: Entry<R, M>[];
  /** Null where it is read only. */
  question: AdjustQuestion | null;
  advice: Advice | null;
  record: LoopRecord;
}

export interface Stand<R extends ReadingRow = ReadingRow, M extends MoveRow = MoveRow> {
  kind: MachineKind;
  card: ModelCard;
  loops: LoopStand<R, M>[];
  recipe: Recipe;
  /** Where the grind of a timed grinder stands, and what it has shown; null for all others. */
  timed: Timed | null;
  plan: Station[];
  records: SheetRecords;
  /** Where each station stands at a moment. */
  at(now: number): StationProgress[];
}

/** The same log, asked again by bench, sheet and save, is the same advice. */
const advise = remembered<AdjustQuestion, Advice>(nextAction, 5000);

/** Where a job stands: its plan, its records, the logs, and what the engine advises now. */
export function standOf<R extends ReadingRow, M extends MoveRow>(job: StandingOf<R, M>): Stand<R, M> {
  const base = recordsOf(job);
  const soFar = { ...NOTHING_RECORDED, ...base };
  const recipe = recipeFrom(job, soFar);
  const timed = timedOf(job);
  const question = questionOf(job, { meters: metersOf(soFar), recipe, targets: targetsOf(soFar), timed });
  const readings = group(job.readings, (r) => r.loop);
  const moves = group(job.adjustments, (a) => a.loop);
  const plan = sheetFor(question);
  const planned = new Set(plan.flatMap((s) => s.tasks.flatMap((t) => ("loop" in t ? [t.loop] : []))));
  // What was read before the sheet changed its kind stays on record, and in sight.
  const loops = question.loops
    .filter((loop) => planned.has(loop.id) || readings.has(loop.id))
    .map((loop) => loopStand(loop, entriesOf(readings.get(loop.id) ?? [], moves.get(loop.id) ?? []), job, timed));
  const records: SheetRecords = { ...base, loops: new Map(loops.map((l) => [l.loop.id, l.record])) };
  return {
    kind: question.kind,
    card: question.card,
    loops,
    recipe,
    timed,
    plan,
    records,
    at: (now) => progress(plan, records, now, question.loops),
  };
}

function loopStand<R extends ReadingRow, M extends MoveRow>(
  loop: Loop,
  entries: Entry<R, M>[],
  job: StandingOf<R, M>,
  timed: Timed | null,
): LoopStand<R, M> {
  const count = standing(entries);
  const question: AdjustQuestion | null = loop.knob && {
    knob: loop.knob,
    tolerance: loop.tolerance,
    events: adjustEvents(loop.with.amount?.grind && timed ? sinceGrind(entries, timed.setting) : entries, loop),
  };
  const noReturn = count.some(
    (e) => e.kind === "reading" && endsTheTest(e.row.value, e.row.detail.returned ?? "not-looked", loop.tolerance),
  );
  const advice = question && (noReturn ? endedBy(advise(question)) : advise(question));
  const last = runOf(entries, "as-left");
  return {
    loop,
    entries,
    question,
    advice,
    record: {
      events: count.map((e) => e.kind),
      accepted: advice ? advice.action.kind === "accept" : count.length > 0,
      faultTaken: job.findings.some((f) => f.loop === loop.id),
      early: last.some((r) => r.early),
      noReturn,
      last: lastOf(last.at(-1)),
    },
  };
}

function lastOf(row: ReadingRow | undefined): LoopRecord["last"] {
  if (!row) return null;
  const u = Math.sqrt(Math.max(0, row.u ** 2 - row.uCommon ** 2));
  return { value: row.value, setPoint: row.detail.setPoint ?? null, u };
}

/** Over the limit and no water back: the test ends there, whatever turning might still promise. */
function endedBy(advice: Advice): Advice {
  return {
    ...advice,
    action: { kind: "fault", fault: "stuck", causes: [{ kind: "stuck", probability: 0.97 }] },
  };
}

/** The stand of one loop of the job. @throws RangeError when the kind has no such loop */
export function loopOf<R extends ReadingRow, M extends MoveRow>(stand: Stand<R, M>, id: LoopId): LoopStand<R, M> {
  const found = stand.loops.find((l) => l.loop.id === id);
  if (!found) throw new RangeError(`This sheet has no “${id}”.`);
  return found;
}

type Found = Pick<Parameters<typeof loopsOf>[0], "meters" | "recipe" | "targets"> & { timed?: Timed | null };

/** What the sheet of a job is built from: all of it pinned at the start, but for what the model's card says. */
export function questionOf(
  job: Pick<StandingOf, "type" | "kind" | "schools" | "level" | "spec" | "machine" | "tolerance" | "learnt">,
  { timed, ...found }: Found = {},
): SheetQuestion {
  const own = KINDS[job.kind];
  const card = cardOf(job);
  // A model may have its valve elsewhere than its kind usually does.
  const kind = { ...own, opv: card.opvAccess };
  const spec = job.spec?.lines ?? [];
  return {
    type: job.type,
    kind,
    card,
    schools: job.schools,
    spec,
    level: job.level,
    loops: loopsOf({
      kind,
      card,
      schools: job.schools,
      spec,
      opv: opvOf(job.machine.model),
      brew: job.tolerance,
      learnt: job.learnt,
      ...found,
      ...(timed ? { timed } : {}),
    }),
  };
}

/** Under this task name a shot is taken as the recipe. */
export const SHOTS_TASK = "shots";

/** Under this task name stations are left out; an empty reason takes one up again. */
export const skipTask = (station: string) => `skip.${station}`;

function recordsOf(job: Pick<StandingOf, "notes" | "ticks" | "entries" | "timers" | "state" | "shots">) {
  const replaced = new Set(job.entries.map((e) => e.supersedes));
  const values = new Map<string, TaskValue[]>();
  const add = (task: string, value: TaskValue) => values.set(task, [...(values.get(task) ?? []), value]);
  for (const { key } of job.ticks) add(key, { form: "tick" });
  for (const e of job.entries) if (!replaced.has(e.id) && e.value.form !== "struck") add(e.task, e.value);
  const skipped = new Map<string, string>();
  for (const [task, all] of values) {
    const last = all.at(-1);
    if (task.startsWith("skip.") && last?.form === "text" && last.text)
      skipped.set(task.slice("skip.".length), last.text);
  }
  const taken = values.get(SHOTS_TASK)?.at(-1);
  const corrected = new Set(job.shots.map((s) => s.supersedes));
  return {
    values,
    skipped,
    timers: timersOf(job.timers),
    notes: job.notes.length,
    // A shot corrected since is not the one that was taken.
    shotAccepted: taken?.form === "accepted" && !corrected.has(taken.shot),
    signed: job.state === "signed",
  };
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
