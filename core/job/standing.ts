import { group } from "d3-array";
import { type AdjustQuestion, type Advice, type Knob } from "../adjust";
import { heldToRecord, nextAction } from "../belief";
import type { MachineKind, ModelCard } from "../kind";
import { type KnobId, type Loop, type LoopId, type LoopQuestion, type Stop, loopsOf, moduleOf } from "../knobs";
import { isCoarse } from "../metrology";
import type { Recipe } from "../shot";
import {
  type AnalyseQuestion,
  type LoopRecord,
  NOTHING_RECORDED,
  type SheetQuestion,
  type SheetRecords,
  type Station,
  type StationProgress,
  type TaskValue,
  STOP_TASK,
  type TimerRecord,
  type Seek,
  chosen,
  keptFrom,
  loopRecord,
  metersOf,
  progress,
  sheetFor,
  tasksNow,
} from "../sheet";
import { type Kept, balanced } from "../volume";
import { type Timed, sinceGrind, timedOf } from "./grind";
import type { Entry, Finding, Job, Note, Reading, Repair, Tick, Timer } from "./job";
import { figureOf } from "./figure";
import {
  type LogLine,
  adjustEvents,
  basketInUse,
  changesIn,
  counted,
  lastRepair,
  logOf,
  ownU,
  runOf,
  setAside,
  sinceMoved,
  sinceRepair,
} from "./log";
import { kindOf } from "./particulars";
import { recipeFrom, targetsOf } from "./recipe";
import { remembered } from "./remembered";
import { judged } from "./judged";
import { type CauseFound, causeFound, heldToCause, isPatternOf, seenInReadings, stopFor } from "./evidence";
import { asksToTeach } from "./dialling";
import { SHOTS_TASK } from "./shots-standing";
import { takenBack } from "./taken-back";

/** One knob of the job: its log, what the engine is asked and what it says. */
export interface KnobStanding {
  readonly loop: Loop;
  readonly log: readonly LogLine[];
  /** Null where it is read only. */
  readonly question: AdjustQuestion | null;
  readonly advice: Advice | null;
  /** Set where a rule of the trade, or a cause that was found, has ended the test. */
  readonly stop: Stop | null;
  /** What is known towards a cause; null where nobody looks for one here. */
  readonly cause: CauseFound | null;
  readonly record: LoopRecord;
}

/** Where a job stands: worked out once from its records, and passed on. */
export interface Standing {
  readonly job: Job;
  readonly kind: MachineKind;
  readonly card: ModelCard;
  readonly loops: readonly KnobStanding[];
  readonly recipe: Recipe;
  /** Where the grind of a timed grinder stands, and what it has shown; null for all others. */
  readonly timed: Timed | null;
  readonly plan: readonly Station[];
  readonly records: SheetRecords;
  /** Where each station stands at a moment, ms. */
  at(now: number): StationProgress[];
}

/** The same log, asked again by bench, sheet and save, is the same advice. */
const advise = remembered<AdjustQuestion, Advice>(nextAction, 5000);

/** Where a job stands: its plan, its records, the logs, and what the engine advises now. */
export function standingOf(job: Job): Standing {
  const base = recordsOf(job);
  const soFar = { ...NOTHING_RECORDED, ...base };
  const recipe = recipeFrom(job, soFar);
  const timed = timedOf(job);
  const amountStart = firstAmount(job);
  const basket = basketInUse(logOf(job, "basket"));
  const question = sheetQuestion(job, {
    meters: metersOf(soFar),
    recipe,
    targets: targetsOf(soFar),
    timed,
    ...stopFound(soFar),
    ...(amountStart === undefined ? {} : { amountStart }),
    ...(basket ? { basket } : {}),
  });
  const plan = sheetFor(question);
  const kept = keptFrom({ ...question, records: soFar }, []);
  const planned = new Set(plan.flatMap((s) => s.tasks.flatMap((t) => ("loop" in t ? [t.loop] : []))));
  // What was read before the sheet changed its kind stays on record, and in sight.
  const { kind } = question;
  const seeks = plan.flatMap((s) => s.tasks).filter((t) => t.kind === "diagnosis");
  const loops = question.loops.flatMap((loop) => {
    const log = logOf(job, loop.id);
    const seek = seeks.find((t) => isPatternOf(loop, t.pattern)) ?? null;
    return planned.has(loop.id) || log.length > 0
      ? [knobStanding(loop, log, job, { timed, recipe, kept, values: base.values, kind, seek })]
      : [];
  });
  const records: SheetRecords = {
    ...base,
    loops: new Map(loops.map((l) => [l.loop.id, l.record])),
    grindKept: plan.some((s) => s.id === "buttons") && asksToTeach({ job, kind, recipe, timed, records: soFar }),
  };
  return {
    job,
    kind,
    card: question.card,
    loops,
    recipe,
    timed,
    plan,
    records,
    at: (now) => progress(plan, records, now, question.loops),
  };
}

/** What a knob hangs together with. */
interface Around {
  readonly timed: Timed | null;
  readonly recipe: Recipe;
  readonly kept: Kept;
  readonly values: SheetRecords["values"];
  readonly kind: MachineKind;
  /** The task under which its cause is looked for. */
  readonly seek: Seek | null;
}

function knobStanding(
  loop: Loop,
  lines: readonly LogLine[],
  job: Job,
  { timed, recipe, kept, values, kind, seek }: Around,
): KnobStanding {
  const count = counted(lines);
  const repair = lastRepair(lines);
  const told = loop.with.amount?.grind && timed ? sinceGrind(lines, timed.setting) : sinceMoved(lines);
  const finer = values.has(`${loop.id}.finer`) ? "" : finerAsked(loop, count);
  const question: AdjustQuestion | null = loop.knob && {
    knob: weighed(repair ? anew(loop, job) : loop.knob, { loop, count, recipe, kept }),
    tolerance: loop.tolerance,
    finer: finer !== "",
    opens: loop.opens === true,
    events: adjustEvents(told, loop),
  };
  const believed = question && advise(question);
  const log = setAside(lines, believed?.belief?.doubted ?? [], counted(sinceRepair(told)));
  const last = runOf(log, "as-left");
  const shown = recordedBy(last, loop, job);
  const recorded = believed && heldToRecord(believed, shown, isBehindTap(counted(told)));
  const cause = seek && causeHere(loop, log, job, { seek, kind, repair });
  const advice = recorded && heldToCause(recorded, cause);
  const stop = stopOf(loop, counted(sinceRepair(lines))) ?? stopFor(shown?.verdict ?? null, cause);
  const asks = stop === null && advice?.action.kind === "recheck" ? advice.action.reason : null;
  return {
    loop,
    log,
    question,
    advice,
    stop,
    cause,
    record: {
      events: changesIn(log),
      accepted: stop === null && (advice ? advice.action.kind === "accept" || asks === "open-tap" : count.length > 0),
      faultTaken: findingOf(job, loop.id, repair) !== null,
      early: last.some((r) => r.early),
      stopped: stop !== null,
      turns: stop === null && advice?.action.kind === "move",
      asks: asks !== null && asks !== "moved-not-read" && asks !== "open-tap",
      regrind: regrindOf(lines),
      finer: asks === "finer-first" ? finer : "",
      last: lastOf(last.at(-1)),
    },
  };
}

/** Read last against the closed tap, since it was last adjusted: what the group gets is still to be read. */
function isBehindTap(count: readonly LogLine[]): boolean {
  const last = count.at(-1);
  return last?.kind === "reading" && last.row.detail.tap === "closed";
}

function regrindOf(lines: readonly LogLine[]): LoopRecord["regrind"] {
  if (lines.at(-1)?.kind === "grind") return "asked";
  return lines.some((line) => line.kind === "grind") ? "weighed" : null;
}

/** What was found towards a cause since the last repair: before it, it was another machine. */
function causeHere(
  loop: Loop,
  log: readonly LogLine[],
  job: Job,
  { seek, kind, repair }: { seek: Seek; kind: MachineKind; repair: Repair | null },
): CauseFound {
  const since = sinceRepair(log);
  const run = runOf(since, "as-found");
  const result = judged(figureOf(run, loop, kind.pump), loop.tolerance, job.rule);
  return causeFound(seek.pattern, kind, {
    typed: evidenceIn(job, seek.id).flatMap(({ at, value }) => (!repair || at > repair.at ? [value] : [])),
    derived: seenInReadings(loop, { log: since, run, result, pump: kind.pump }),
  });
}

/** What was found towards the cause that a task asks for: by the readings too, where it is the cause of a knob. */
export function causeOf({ id, pattern }: Seek, { loops, job, kind }: Standing): CauseFound {
  const knob = loops.find((k) => isPatternOf(k.loop, pattern))?.cause;
  return knob ?? causeFound(pattern, kind, { typed: evidenceIn(job, id).map((e) => e.value), derived: [] });
}

/** Outcomes of checks that stand. */
function evidenceIn(job: Job, task: string) {
  return standingEntries(job).flatMap(({ at, task: of, value }) =>
    of === task && value.form === "evidence" ? [{ at, value }] : [],
  );
}

/** What the readings since the last change show by themselves, and what as many again would. */
function recordedBy(run: readonly Reading[], loop: Loop, { rule, particulars }: Job) {
  const { pump } = kindOf(particulars);
  const of = (rows: readonly Reading[]) => judged(figureOf(rows, loop, pump), loop.tolerance, rule);
  const now = of(run);
  if (!now) return null;
  const again = now.verdict === "can't tell" ? of([...run, ...run])!.verdict : now.verdict;
  return {
    verdict: now.verdict,
    readings: run.length,
    wouldShow: again === "holds" || again === "just holds",
    byHand: run.at(-1)?.detail.trimmed !== undefined,
  };
}

/** The finer instrument to read with before anything is adjusted: while nothing was, and all that was read is coarse. */
function finerAsked({ knob, tolerance }: Loop, count: readonly LogLine[]): string {
  if (!knob || count.some((line) => line.kind !== "reading")) return "";
  const read = count.flatMap((line) => (line.kind === "reading" ? [line.row] : []));
  return read.every((r) => isCoarse(r.uCommon, tolerance)) ? (read.at(-1)?.detail.finer ?? "") : "";
}

/** A programme in pulses, with what the first shot of it gave. */
function weighed(
  knob: Knob,
  { loop, count, recipe, kept }: { loop: Loop; count: readonly LogLine[]; recipe: Recipe; kept: Kept },
): Knob {
  const first = count.find((line) => line.kind === "reading");
  const stored = first?.kind === "reading" && loop.with.amount?.kind === "pulses" ? first.row.detail.amount : undefined;
  if (!stored || first?.kind !== "reading") return knob;
  return balanced(knob, { stored, cup: first.row.value, dose: recipe.dose.target }, kept);
}

/** What this machine showed before a repair says nothing of it after: the model’s prior stands. */
function anew({ id, knob }: Loop, { learnt }: Job) {
  const ofModel = learnt[id]?.ofModel;
  return { ...knob!, ...(ofModel ? { response: ofModel } : {}) };
}

/** The fault taken on this knob, while nothing was repaired since; null when none. */
export function findingOf({ findings }: Pick<Job, "findings">, loop: LoopId, repair: Repair | null): Finding | null {
  return findings.findLast((f) => f.loop === loop && (!repair || f.at > repair.at)) ?? null;
}

function lastOf(row: Reading | undefined): LoopRecord["last"] {
  return row ? { value: row.value, setPoint: row.detail.setPoint ?? null, u: ownU(row) } : null;
}

/**
 * A rule of the trade that ends the test, whatever turning might still promise; the engine’s own figures stay what they are. It stands until
 * a later reading shows the part work: water back, or inside the limit.
 */
function stopOf({ at, tolerance }: Loop, count: readonly LogLine[]): Stop | null {
  const { ends } = moduleOf(at.knob);
  if (!ends) return null;
  const read = count.flatMap((line) => (line.kind === "reading" ? [line.row] : []));
  const over = ({ value, detail }: Reading) => ends.at(value, detail.returned ?? "not-looked", tolerance);
  const works = ({ value, detail }: Reading) => detail.returned === "seen" || !ends.at(value, "none", tolerance);
  const since = read.findLastIndex(over);
  return since >= 0 && !read.slice(since + 1).some(works) ? ends.stop : null;
}

/** The one knob of its name that a machine has; undefined where it has none. */
export function knobNamed(
  { loops }: Pick<Standing, "loops">,
  knob: Exclude<KnobId, "button">,
): KnobStanding | undefined {
  return loops.find((l) => l.loop.at.knob === knob);
}

/** What this visit found out of a dose stop. */
function stopFound(records: SheetRecords): Pick<LoopQuestion, "stopThreads"> {
  const gives = chosen(records, STOP_TASK);
  return gives === "more" || gives === "less" ? { stopThreads: gives } : {};
}

type Found = Pick<LoopQuestion, "meters" | "recipe" | "targets" | "amountStart" | "stopThreads" | "basket"> & {
  timed?: Timed | null;
};

/** Where the amount of coffee stood at the first dose since the last repair. */
function firstAmount(job: Job): number | undefined {
  for (const line of counted(sinceRepair(logOf(job, "basket"))))
    if (line.kind === "reading" && line.row.detail.amount !== undefined) return line.row.detail.amount;
  return undefined;
}
type Pinned = Pick<Job, "scopes" | "particulars" | "schools" | "level" | "spec" | "learnt"> &
  Partial<Pick<Job, "wanted" | "carried">>;

/** What the sheet of a job is built from: all of it pinned at the start. */
export function sheetQuestion(
  { scopes, particulars, schools, level, learnt, ...job }: Pinned,
  { timed, ...found }: Found = {},
): SheetQuestion {
  const kind = kindOf(particulars);
  const { card, opv } = particulars;
  const spec = job.spec?.lines ?? [];
  return {
    scopes,
    kind,
    card,
    schools,
    spec,
    level,
    flowControl: particulars.flowControl ?? false,
    carried: job.carried ?? [],
    loops: loopsOf({
      kind,
      card,
      schools,
      spec,
      opv,
      learnt,
      ...found,
      wanted: { ...particulars.wanted, ...job.wanted },
      gaugeSeat: particulars.gauge.place,
      ...(timed ? { timed } : {}),
    }),
  };
}

/** What the tables of a sheet are worked out from. */
export function analysisOf({ job, kind, card, recipe, records }: Standing): AnalyseQuestion {
  return {
    kind,
    card,
    schools: job.schools,
    spec: job.spec?.lines ?? [],
    altitude: job.particulars.altitude,
    recipe,
    records,
  };
}

/** Under this task name it is kept how the visit was changed while it was open. */
export const VISIT_TASK = "visit";

/** Under this task name it is kept why a job was withdrawn. */
export const WITHDRAWN_TASK = "withdrawn";

/** Under this task name stations are left out; an empty reason takes one up again. */
export const skipTask = (station: string) => `${SKIP}${station}`;
const SKIP = "skip.";

function recordsOf(job: Job) {
  const values = new Map<string, TaskValue[]>();
  const add = (task: string, value: TaskValue) => values.set(task, [...(values.get(task) ?? []), value]);
  for (const { key } of standingTicks(job)) add(key, { form: "tick" });
  for (const e of standingEntries(job)) add(e.task, e.value);
  const skipped = new Map<string, string>();
  for (const [task, all] of values) {
    const last = all.at(-1);
    if (task.startsWith(SKIP) && last?.form === "text" && last.text) skipped.set(task.slice(SKIP.length), last.text);
  }
  const taken = values.get(SHOTS_TASK)?.at(-1);
  const corrected = new Set(job.shots.map((s) => s.supersedes));
  return {
    values,
    skipped,
    timers: timersOf(standingTimers(job)),
    notes: standingNotes(job).length,
    // A shot corrected since is not the one that was taken.
    shotAccepted: taken?.form === "accepted" && !corrected.has(taken.shot),
    signed: job.state === "signed",
  };
}

/** Ticks that were not taken back. Ticked anew after that, it is an entry. */
export function standingTicks(job: Pick<Job, "ticks" | "entries">): Tick[] {
  const back = takenBack(job);
  return job.ticks.filter(({ id }) => !back.has(id));
}

/** Timers that were not taken back. */
export function standingTimers(job: Pick<Job, "timers" | "entries">): Timer[] {
  const back = takenBack(job);
  return job.timers.filter(({ id }) => !back.has(id));
}

/** Entries that were neither corrected nor taken back. */
export function standingEntries(job: Pick<Job, "entries">): Entry[] {
  const back = takenBack(job);
  return job.entries.filter((e) => !back.has(e.id) && e.value.form !== "struck");
}

/** Condition notes that stand: the newest of each, with words. */
export function standingNotes({ notes }: Pick<Job, "notes">): Note[] {
  const replaced = new Set(notes.map((n) => n.supersedes));
  return notes.filter((n) => !replaced.has(n.id) && n.text !== "");
}

/** Stations of which something was recorded. */
export function begunIn({ plan, records }: Pick<Standing, "plan" | "records">): Station[] {
  return plan.filter((station) =>
    tasksNow(station, records).some(
      (task) =>
        (records.values.get(task.id)?.length ?? 0) > 0 ||
        (records.timers.get(task.id)?.length ?? 0) > 0 ||
        ("loop" in task && loopRecord(records, task.loop).events.length > 0),
    ),
  );
}

function timersOf(timers: readonly Timer[]): Map<string, TimerRecord[]> {
  return group(
    timers.map((t) => ({
      task: t.task,
      startedAt: t.at.getTime(),
      dueAt: t.dueAt.getTime(),
      endedAt: t.endedAt?.getTime() ?? null,
      outcome: t.outcome,
    })),
    (t) => t.task,
  );
}
