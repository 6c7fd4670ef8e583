import { CRITICAL_PARTS, criticalPartsOf } from "../../../core/work";
import {
  type Entry,
  type Job,
  SHOTS_TASK,
  type Standing,
  type Timer,
  analysisOf,
  findingOf,
  foundWork,
  lastRepair,
  linesOfWork,
  resultOf,
  runOf,
  sayTaken,
  saySeconds,
  causeOf,
  shotsBrief,
  standingEntries,
  standingNotes,
  standingTicks,
  standingTimers,
  takenBack,
  usualHere,
} from "../../../core/job";
import { PATTERNS } from "../../../core/diagnose";
import { CAUTIONS } from "../../../core/kind";
import { type LoopId, endedWords, moduleOf, unitOf } from "../../../core/knobs";
import type { InstrumentQuantity, KitInstrument, Place } from "../../../core/metrology";
import {
  type StationProgress,
  type Task,
  type TaskKind,
  type TaskOf,
  analyse,
  chosen,
  isDone,
  isEarlyEntry,
  loopRecord,
  notWarm,
  planOf,
  readingRuns,
  remedyOf,
  sayCell,
  sayTask,
  tasksNow,
} from "../../../core/sheet";
import { NO_WATER, burstState } from "../../../core/startup";
import { HARDNESS_LIMIT } from "../../../core/water";

export type StationView = ReturnType<typeof stationView>;
export type StationBrief = ReturnType<typeof stationBrief>;

interface Shown {
  readonly standing: Standing;
  readonly instruments: readonly KitInstrument[];
  readonly now: number;
  /** The person’s own unit of pressure. */
  readonly pressureUnit: string;
}

/** The line of a station in the list: where it stands, and what came of it. */
export function stationBrief({ station, state, why, until }: StationProgress, shown: Shown) {
  const tasks = tasksNow(station, shown.standing.records);
  return {
    id: station.id,
    title: station.title,
    needs: station.needs,
    state,
    why: why ?? "",
    until: until ?? null,
    skippable: station.skippable,
    /** Nothing of it is asked on this machine as it stands: a case that need not be opened. */
    spared: state === "done" && tasks.length === 0,
    says: state === "done" ? saysOf(tasks, shown) : null,
    leftover: state === "done" && hasLeftover(tasks, shown.standing),
  };
}

/** The station in hand, whole: its tasks with what was recorded, its hard stop, and its cautions in words. */
export function stationView({ station, state }: StationProgress, shown: Shown) {
  const { records } = shown.standing;
  const due = tasksNow(station, records);
  const groups = groupsOf(due);
  // The stop is one of the station’s ticks: it covers the sheet until that one is ticked.
  const stop = due.find((t) => t.kind === "tick" && t.label === station.hardStop?.confirm);
  return {
    id: station.id,
    title: station.title,
    needs: station.needs,
    state,
    skippable: station.skippable,
    hardStop: station.hardStop && stop && !records.values.has(stop.id) ? { ...station.hardStop, key: stop.id } : null,
    leftover: hasLeftover(due, shown.standing),
    cautions: station.cautions.map((id) => CAUTIONS[id]),
    list: station.list ?? [],
    triesShots: station.triesShots ?? false,
    tasks: due.map((task) => ({ ...taskView(task, shown), grouped: groups.get(task) ?? "" })),
  };
}

/** Something is left to do by choice: nobody is taken away from it when the rest is done. */
function hasLeftover(due: readonly Task[], standing: Standing): boolean {
  return (
    toFill(due, standing) ||
    due.some((task) => task.kind === "loop" && correctedByHand(task.loop, standing)) ||
    // After one line of work comes the next, until somebody goes on.
    (due.some((task) => task.kind === "work") && linesOfWork(standing).length > 0)
  );
}

/** Fields that may be filled or left. */
function toFill(due: readonly Task[], standing: Standing): boolean {
  const groups = groupsOf(due);
  return due.some(
    (task, i) =>
      task.optional &&
      asked(task, due) &&
      // What stands above the last that was needed has been passed knowingly.
      i > due.findLastIndex((t) => !t.optional) &&
      !begun(task, standing) &&
      // Who has saved a form has seen all of its fields.
      !due.some((other) => groups.has(task) && groups.get(other) === groups.get(task) && begun(other, standing)),
  );
}

/** The last dose is off, and nothing but the hand corrects it: what to add or take is still to be read. */
function correctedByHand(id: LoopId, { loops }: Standing): boolean {
  const knob = loops.find(({ loop }) => loop.id === id && loop.knob === null);
  const last = knob && runOf(knob.log, "as-found").at(-1);
  return Boolean(last && moduleOf(knob.loop.at.knob).byHand?.(last.value, knob.loop.tolerance));
}

/** Values that are read together: tasks next to each other that one form takes, named by the first of them. */
function groupsOf(tasks: readonly Task[]): Map<Task, string> {
  const groups = new Map<Task, string>();
  let run: Task[] = [];
  const close = () => {
    if (run.length > 1) for (const task of run) groups.set(task, run[0]!.id);
    run = [];
  };
  for (const task of tasks)
    if (task.kind === "figure" || task.kind === "hardness" || (task.kind === "choice" && task.optional)) run.push(task);
    else close();
  close();
  return groups;
}

/** Clocks that run on this sheet, whatever station they belong to. */
export function clocksOf(standing: Standing, now: number) {
  const at = { records: standing.records, now, loops: standing.loops.map((l) => l.loop) };
  return standing.plan.flatMap((station) =>
    tasksNow(station, standing.records).flatMap((task) => {
      const open = standing.job.timers.findLast((t) => t.task === task.id && t.endedAt === null);
      return open && !isDone(task, at)
        ? [{ id: task.id, station: station.id, label: task.label, ...clockOf(open) }]
        : [];
    }),
  );
}

const clockOf = ({ at, dueAt, by }: Timer) => ({ startedAt: at.getTime(), dueAt: dueAt.getTime(), by });

/** Kinds of optional task that are filled in; looking for a cause, a fold of rows, or a plan to follow holds nobody up. */
const ASKED: readonly TaskKind[] = ["text", "choice", "figure", "hardness", "tick"];

/** One knob among several of its step, like the second button of a group, is asked for too. */
function asked(task: Task, due: readonly Task[]): boolean {
  if (task.kind === "loop" || task.kind === "readings") return due.filter((t) => t.kind === task.kind).length > 1;
  return ASKED.includes(task.kind);
}

function begun(task: Task, { records }: Standing): boolean {
  if ("loop" in task) return loopRecord(records, task.loop).events.length > 0;
  return records.values.has(task.id);
}

/** One line for a station that is done: figures with their verdicts, else what was said. */
function saysOf(tasks: readonly Task[], { standing, pressureUnit }: Shown) {
  const { job } = standing;
  if (tasks.some((t) => t.kind === "condition")) {
    const photos = job.photos.length;
    const text = [
      photos > 0 ? `${photos} ${photos === 1 ? "photo" : "photos"}` : "",
      standingNotes(job)[0]?.text ?? "",
    ];
    return { figures: [], text: text.filter(Boolean).join(", "), verdict: null };
  }
  const knobs = tasks.flatMap((task) => ("loop" in task ? standing.loops.filter((l) => l.loop.id === task.loop) : []));
  const adjusted = tasks.some((t) => t.kind === "adjust") ? knobs[0] : undefined;
  if (adjusted) {
    const { moves } = readingRuns(adjusted.record.events);
    const said = moves === 0 ? "nothing adjusted" : `${moves} ${moves === 1 ? "adjustment" : "adjustments"}`;
    const finding = findingOf(standing.job, adjusted.loop.id, lastRepair(adjusted.log));
    return { figures: [], text: finding ? endedWords(finding.fault) : said, verdict: null };
  }
  const found = tasks.some((t) => t.kind === "readings" && t.run === "as-found");
  const figures = knobs.flatMap((knob) => {
    const read = resultOf(knob, found ? "as-found" : "as-left", standing);
    return read
      ? [
          {
            id: knob.loop.id,
            unit: unitOf(knob.loop, pressureUnit),
            value: read.value,
            resolution: read.resolution,
            verdict: read.verdict,
          },
        ]
      : [];
  });
  return { figures: figures.slice(0, 2), ...recordedIn(tasks, standing) };
}

const MEASURED: readonly TaskKind[] = ["figure", "hardness", "purge"];
const IN_WORDS: readonly TaskKind[] = ["text", "choice", "cartridge", "shots", "work"];

/** What was measured, else what was said. */
function recordedIn(tasks: readonly Task[], standing: Standing) {
  const newest = (kinds: readonly TaskKind[]) =>
    tasks
      .filter((t) => kinds.includes(t.kind) && !isGuided(t))
      .flatMap((t) =>
        linesOf(t, standing)
          .filter((l) => !l.struck)
          .slice(-1),
      );
  const measured = newest(MEASURED);
  const timed = tasks.flatMap((t) => tookOf(t, standing) || []);
  const words = newest(IN_WORDS);
  const said = [...measured.map((l) => l.text), ...timed, ...shownIn(tasks, standing), ...words.map((l) => l.text)];
  return { text: said.slice(0, 3).join(", "), verdict: measured[0]?.verdict ?? null };
}

const isGuided = (task: Task) => task.kind === "choice" && task.guide !== undefined;

/** Of a demonstration, how much of it was shown. */
function shownIn(tasks: readonly Task[], { records }: Standing): string[] {
  const parts = tasks.filter(isGuided);
  if (parts.length === 0) return [];
  const shown = parts.filter((t) => ["tried", "shown"].includes(chosen(records, t.id) ?? "")).length;
  return [`${shown} of ${parts.length} parts shown`];
}

/** How long its last clock took, in words; "" while none was ended as done. */
function tookOf(task: Task, { job }: Standing): string {
  const last = standingTimers(job).findLast((t) => t.task === task.id);
  return last?.outcome === "done" ? lasted(last) : "";
}

const lasted = ({ at, endedAt }: Timer) => (endedAt ? saySeconds((endedAt.getTime() - at.getTime()) / 1000) : "");

/** A task of the station in hand, by its kind. */
export type TaskView = { [K in TaskKind]: TaskViewOf<K> }[TaskKind];
export type TaskViewOf<K extends TaskKind> = CommonView & { kind: K } & ReturnType<(typeof PARTS)[K]>;

type CommonView = ReturnType<typeof commonView>;

function commonView(task: Task, { standing, now }: Shown) {
  const timers = standingTimers(standing.job).filter((t) => t.task === task.id);
  const open = timers.findLast((t) => t.endedAt === null);
  return {
    id: task.id,
    label: task.label,
    hint: task.hint ?? "",
    optional: task.optional ?? false,
    done: isDone(task, { records: standing.records, now, loops: standing.loops.map((l) => l.loop) }),
    remedy: remedyOf(task, standing.records),
    lines: linesOf(task, standing),
    clock: open ? clockOf(open) : null,
    took: tookOf(task, standing),
    endedBy: timers.at(-1)?.endedBy ?? "",
    /** What can be taken back of it as a whole: its tick, or the end of its timer. */
    undo: undoOf(task, standing),
  };
}

/** The tick or the ended timer of a task, with who did it; null where there is none. */
function undoOf(task: Task, { job }: Standing) {
  if (task.kind === "tick" || task.kind === "heat") {
    const made =
      standingTicks(job).find((t) => t.key === task.id) ?? standingEntries(job).find((e) => e.task === task.id);
    return made ? { id: made.id, by: made.by, at: made.at.toISOString() } : null;
  }
  const ended = standingTimers(job).findLast((t) => t.task === task.id && t.endedAt !== null && t.outcome === "done");
  return ended ? { id: ended.id, by: ended.endedBy, at: ended.endedAt!.toISOString() } : null;
}

function taskView(task: Task, shown: Shown): TaskView {
  // The kind picks the part that takes just this task; the compiler can't follow that by itself.
  const part = PARTS[task.kind] as (task: Task, shown: Shown) => object;
  return { ...commonView(task, shown), kind: task.kind, ...part(task, shown) } as TaskView;
}

const nothing = () => ({});
const ofKnob = ({ loop }: { loop: LoopId }) => ({ loop });

/** What the screen needs of each kind beyond what all have: the compiler names the one that is missing. */
const PARTS = {
  tick: nothing,
  text: nothing,
  choice: ({ options, guide }: TaskOf<"choice">) => ({ options, guide: guide ?? [] }),
  figure: (
    { instrument, place, dimension, tolerance, resolution, unit }: TaskOf<"figure">,
    { instruments }: Shown,
  ) => ({
    unit: unit ?? null,
    instruments: choices(instruments, instrument, place),
    dimension,
    tolerance: tolerance ?? null,
    resolution,
  }),
  hardness: (_: TaskOf<"hardness">, { instruments, standing }: Shown) => ({
    instruments: choices(instruments, "hardness"),
    dimension: "hardness" as const,
    tolerance: { lower: 0, ...HARDNESS_LIMIT[standing.job.schools.hardness] },
    resolution: 1,
  }),
  purge: () => ({ instruments: [], dimension: "volume" as const, tolerance: null, resolution: 1 }),
  cartridge: nothing,
  bursts: (task: TaskOf<"bursts">, { standing, now }: Shown) => ({ burst: burstView(task, standing, now) }),
  timer: ({ seconds }: TaskOf<"timer">) => ({ seconds }),
  heat: nothing,
  warm: () => ({ seconds: 0 }),
  condition: nothing,
  readings: ({ loop, run }: TaskOf<"readings">) => ({ loop, run }),
  adjust: ofKnob,
  loop: ofKnob,
  table: (task: TaskOf<"table">, shown: Shown) => ({ table: tableView(task, shown) }),
  plan: (task: TaskOf<"plan">, { standing }: Shown) => ({ plan: planView(task, standing) }),
  diagnosis: (task: TaskOf<"diagnosis">, { standing }: Shown) => ({ diagnosis: diagnosisView(task, standing) }),
  shots: (_: TaskOf<"shots">, { standing }: Shown) => ({ shots: shotsBrief(standing) }),
  sign: nothing,
  work: (task: TaskOf<"work">, { standing }: Shown) => ({ work: workView(task, standing) }),
  left: (task: TaskOf<"left">, { standing }: Shown) => ({ faults: faultsView(task, standing) }),
} satisfies { readonly [K in TaskKind]: (task: TaskOf<K>, shown: Shown) => object };

function linesOf(task: Task, standing: Standing) {
  if (task.kind === "table" || task.kind === "diagnosis") return [];
  if (task.kind === "shots") return takenLine(standing);
  const { job, records } = standing;
  const back = takenBack(job);
  const lines = job.entries
    .filter((e) => e.task === task.id && e.value.form !== "struck" && e.value.form !== "tick")
    .map((e) => ({
      id: e.id,
      at: e.at.toISOString(),
      by: e.by,
      typed: e.value.form === "text" ? e.value.text : e.typed,
      // A position on the scale, for the strip of what has limits.
      value: e.value.form === "figure" ? e.value.value : null,
      early: isEarlyEntry(records, job.level, task, e.at.getTime()) ? notWarm(records, job.level, e.at.getTime()) : "",
      struck: struckBy(back.get(e.id)),
      ...sayTask(task, e.value, { schools: job.schools, typed: e.typed, rule: job.rule }),
    }));
  return [...lines, ...undone(task, job, back)];
}

const struckBy = (back: Entry | undefined) =>
  back
    ? { by: back.by, at: back.at.toISOString(), reason: back.value.form === "struck" ? back.value.reason : "corrected" }
    : null;

/** Ticks and timers of a task that were taken back: those that stand are shown by their own forms. */
function undone(task: Task, job: Job, back: ReadonlyMap<string, Entry>) {
  const made = [
    ...job.ticks.filter((t) => t.key === task.id),
    ...job.entries.filter((e) => e.task === task.id && e.value.form === "tick"),
    ...job.timers.filter((t) => t.task === task.id && t.endedAt !== null),
  ];
  return made
    .filter(({ id }) => back.has(id))
    .map((one) => ({
      id: one.id,
      at: one.at.toISOString(),
      by: one.by,
      typed: "",
      value: null,
      early: "",
      struck: struckBy(back.get(one.id)),
      text: "endedAt" in one ? `${task.label}: ${lasted(one)}` : task.label,
      verdict: null,
    }));
}

/** The shot used as the recipe, as the line of a station that is done. */
function takenLine(standing: Standing) {
  const accepted = sayTaken(standing);
  const entry = standing.job.entries.findLast((e) => e.task === SHOTS_TASK);
  if (!accepted || !entry) return [];
  const text = [accepted.said, accepted.reason].filter(Boolean).join("; ");
  return [
    {
      id: entry.id,
      at: entry.at.toISOString(),
      by: entry.by,
      value: null,
      typed: "",
      early: "",
      struck: null,
      text,
      verdict: accepted.verdict,
    },
  ];
}

function burstView(task: TaskOf<"bursts">, { records }: Standing, now: number) {
  const all = records.timers.get(task.id) ?? [];
  const state = burstState(all, now, task.rule);
  return {
    /** How long each try ran that was not full. */
    short: all.flatMap((t) => {
      const end = Math.min(t.endedAt ?? now, t.startedAt + 1000 * task.rule.limit);
      const over = t.outcome === "alarm" || (t.endedAt === null && now >= t.startedAt + 1000 * task.rule.limit);
      return over ? [saySeconds((end - t.startedAt) / 1000)] : [];
    }),
    phase: state.phase,
    attempt: "attempt" in state ? state.attempt : state.next - 1,
    tries: task.rule.tries,
    until: "until" in state ? state.until : null,
    limit: task.rule.limit,
    pause: task.rule.pause,
    running: task.running,
    ended: task.ended,
    lookFor: state.phase === "fault" ? [...NO_WATER] : [],
  };
}

/** Instruments for a figure: a pressure is read where the task says, else at the boiler. */
function choices(instruments: readonly KitInstrument[], quantity: InstrumentQuantity | undefined, place?: Place) {
  return instruments
    .filter((g) => g.quantity === quantity && (g.quantity !== "pressure" || g.place === (place ?? "boiler")))
    .map((g) => ({ id: g.id, name: g.name }));
}

function tableView(task: TaskOf<"table">, { standing, instruments }: Shown) {
  const { entries } = standing.job;
  const struck = new Map(
    entries.flatMap((e) => (e.supersedes && e.value.form === "struck" ? [[e.supersedes, e.value.reason]] : [])),
  );
  const analysed = analyse(task, analysisOf(standing));
  return {
    columns: task.columns.map((c) => ({
      name: c.name,
      label: c.label,
      optional: c.optional ?? false,
      dimension: c.type.kind === "quantity" ? c.type.dimension : null,
      options: c.type.kind === "choice" ? c.type.options : [],
      instruments: c.type.kind === "quantity" ? choices(instruments, c.type.instrument, c.type.place) : [],
    })),
    rows: entries.flatMap((e) => {
      if (e.task !== task.id || e.value.form !== "row") return [];
      const { cells } = e.value;
      return [
        {
          id: e.id,
          by: e.by,
          cells: task.columns.map((c) => (cells[c.name] ? sayCell(c, cells[c.name]!) : "–")),
          struck: struck.get(e.id) ?? null,
        },
      ];
    }),
    least: task.least,
    lines: analysed.lines,
    meter: analysed.meter ? { points: analysed.meter.points, K: analysed.meter.K, start: analysed.meter.start } : null,
  };
}

/** Lines as they were typed, to be corrected; what this visit has found; and what comes up on most machines of the kind. */
function workView(task: TaskOf<"work">, standing: Standing) {
  const typed = new Map(
    standingEntries(standing.job).flatMap((e) =>
      e.task === task.id && e.value.form === "work" ? [[e.id, e.value] as const] : [],
    ),
  );
  return {
    typed: Object.fromEntries(typed),
    found: foundWork(standing),
    usual: usualHere(standing),
    critical: criticalPartsOf(standing.kind).map((id) => ({ id, label: CRITICAL_PARTS[id].label })),
    modelId: standing.job.machine.modelId,
    /** Nothing stands yet: it may be said that there was nothing to do. */
    empty: (standing.records.values.get(task.id) ?? []).length === 0,
  };
}

function faultsView(task: TaskOf<"left">, { job }: Standing) {
  return Object.fromEntries(
    standingEntries(job).flatMap((e) => (e.task === task.id && e.value.form === "left" ? [[e.id, e.value]] : [])),
  );
}

function planView(task: TaskOf<"plan">, standing: Standing) {
  const made = planOf(task.plan, analysisOf(standing));
  return "missing" in made ? { missing: made.missing, steps: [] } : { missing: "", steps: made.steps };
}

/** Pressure stays behind the handle here once the pump has run against a blind basket. */
const trapsPressure = ({ loops }: Standing) => loops.some((l) => l.loop.trapsPressure && l.log.length > 0);

function diagnosisView(task: TaskOf<"diagnosis">, standing: Standing) {
  const pattern = PATTERNS[task.pattern];
  const { ranked, next, named, checks, typed, derived } = causeOf(task, standing);
  const evidence = [...derived, ...typed];
  return {
    title: pattern.title,
    ranked: ranked.slice(0, 4).map(({ cause, probability }) => ({ id: cause.id, label: cause.label, probability })),
    next: next?.check.id ?? null,
    checks: checks.map(({ id, label, how, outcomes, opensGroup }) => ({
      id,
      label,
      how,
      outcomes,
      /** Pressure may stand behind the handle that is turned for it. */
      zero: opensGroup === true && trapsPressure(standing),
      seen: evidence.findLast((e) => e.check === id)?.outcome ?? null,
      derived: derived.some((e) => e.check === id) && !typed.some((e) => e.check === id),
    })),
    seen: evidence.length,
    typed: typed.length,
    named: named && { label: named.label, remedy: named.remedy, part: named.part },
  };
}
