import { PATTERNS } from "../diagnose";
import { BASKETS, amountWords, rateAt } from "../grinder";
import { descalingRule } from "../kind";
import { faultWords, moveDone } from "../knobs";
import { amountFigure } from "../knobs/wording";
import type { KitInstrument } from "../metrology";
import { formatQuantity, unitsOf } from "../quantity";
import { SCHOOLS, schoolWords } from "../school";
import type { SchoolId } from "../school";
import {
  SETTLED,
  type Task,
  type TaskKind,
  type TaskValue,
  analyse,
  carriedTask,
  chosen,
  isEarlyEntry,
  presetOf,
  sayTask,
  tasksNow,
  unsafeNow,
  workLines,
} from "../sheet";
import { sayFault, sayWork } from "../work";
import { judgeShot, takenShot } from "./dialling";
import { standingShots } from "./shots-standing";
import type {
  SignedFault,
  SignedWork,
  SignedDocument,
  SignedInstrument,
  SignedPoint,
  SignedResult,
  SignedShot,
  SignedStep,
} from "./document";
import { amountNow } from "./grind";
import { ASIDE, type Run, basketInUse, counted, runOf } from "./log";
import { methodOf } from "./method";
import { METHODS, METHOD_IDS } from "./methods";
import type { PastResult } from "./life";
import { nextService } from "./next-service";
import { cardOf } from "./owner-card";
import { resultOf } from "./result";
import { sayPull, shotLines } from "./shot-words";
import {
  type KnobStanding,
  type Standing,
  VISIT_TASK,
  analysisOf,
  causeOf,
  findingOf,
  standingNotes,
} from "./standing";
import { takenBack } from "./taken-back";

/** The report of a job: each record in words, what was left out and why, the results, and the choices behind verdicts. */

export interface Signing {
  readonly workshop: string;
  /** Who signs, as it stands on the report. */
  readonly name: string;
  readonly remark: string;
  readonly at: Date;
  /** Results of earlier visits. */
  readonly past?: readonly PastResult[];
  /** Where something unsafe stands: marked out of use, or signed all the same by a lead with the reason. */
  readonly release?:
    { readonly way: "out-of-use" } | { readonly way: "exception"; readonly by: string; readonly why: string };
}

/** All that a signature freezes. */
export function documentOf(
  standing: Standing,
  { workshop, name, remark, at, past = [], release }: Signing,
): SignedDocument {
  const unsafe = unsafeNow(standing.records);
  const { job, kind, card } = standing;
  const results = standing.loops.filter((l) => l.log.length > 0).map((l) => signedResult(l, standing));
  const due = nextService(standing, at.getTime(), past);
  const used = new Set(results.flatMap((r) => [r.asFound, r.asLeft].flatMap((p) => p?.method ?? [])));
  return {
    version: 4,
    job: job.id,
    visit: presetOf(job.scopes, kind, card) ?? "visit",
    scopes: [...job.scopes],
    workshop,
    timeZone: job.zone,
    machine: {
      maker: job.machine.maker,
      model: job.machine.model,
      serial: job.machine.serial,
      site: job.machine.site,
      town: job.machine.town,
    },
    complaint: job.complaint,
    condition: standingNotes(job).map((n) => (n.area ? `${n.area}: ${n.text}` : n.text)),
    rule: job.rule,
    results,
    steps: stepsOf(standing, at.getTime()),
    shots: signedShots(standing),
    instruments: instrumentsOf(standing),
    methods: METHOD_IDS.filter((id) => used.has(id)).map((id) => ({ id, text: METHODS[id] })),
    schools: decisiveSchools(standing).map((id) => ({
      question: SCHOOLS[id].question,
      choice: schoolWords(id, job.schools[id]),
    })),
    spec: job.spec && { name: job.spec.name, version: job.spec.version },
    leave: leaveAlone(standing),
    work: workOf(standing),
    left: leftIn(standing),
    card: cardOf(standing, due),
    ...(due ? { nextService: due } : {}),
    ...(unsafe.length > 0 && release?.way === "out-of-use" ? { outOfUse: unsafe } : {}),
    ...(unsafe.length > 0 && release?.way === "exception"
      ? { exception: { by: release.by, why: release.why, of: unsafe } }
      : {}),
    remark,
    technician: name,
    startedAt: job.startedAt.toISOString(),
    signedAt: at.toISOString(),
  };
}

/** Lines of work that stand. */
export function linesOfWork({ records }: Pick<Standing, "records">) {
  return workLines(records);
}

/** The same, as they are signed. */
export function workOf(standing: Pick<Standing, "records">): SignedWork[] {
  return linesOfWork(standing).map((line) => ({ ...line, said: sayWork(line) }));
}

/** Faults that stay in: those of this visit, and those of earlier ones that are still there. */
export function leftIn({ job, records }: Pick<Standing, "job" | "records">): SignedFault[] {
  const earlier = job.carried.flatMap(({ id, kind, what, said: words }) => {
    const answer = chosen(records, carriedTask(id));
    const settled = (SETTLED as readonly string[]).includes(answer ?? "");
    return kind === "fault" && !settled
      ? [{ what, said: words, since: answer === "still" ? "still" : "earlier" } as const]
      : [];
  });
  const now = (records.values.get(LEFT_TASK) ?? []).flatMap((v) =>
    v.form === "left" ? [{ what: v.what, said: sayFault(v), since: "now" } as const] : [],
  );
  return [...earlier, ...now];
}

/** Under these task names lines of work and faults left in are kept. */
export const WORK_TASK = "parts.line";
export const LEFT_TASK = "parts.left";

/** What an owner of this machine leaves to the workshop. */
function leaveAlone({ kind, card, job }: Standing): string[] {
  const descaling = descalingRule(card.descaling, job.schools.ownerDescaling);
  if (kind.groups === 0)
    return [
      "Burrs and everything inside: unplugged, and by the workshop. After a change of grind the dose is timed again.",
    ];
  return [
    ...(kind.pump !== "none" && kind.opv !== "none"
      ? [
          "The over-pressure valve (OPV). Water returning to the tank or tray during a shot is the OPV at work, and normal.",
        ]
      : []),
    ...(kind.steamGauge ? ["Safety valve and pressurestat."] : []),
    "Everything under the cover: parts there are live and hot.",
    // What its owner does is in the routine.
    ...(descaling.owner ? [] : [descaling.says]),
    ...kind.forbidden,
  ];
}

/** Where a setting stood first and stands now, where it was read as such. */
function setOf({ loop, log }: KnobStanding, { timed }: Standing): SignedResult["set"] {
  const { amount } = loop.with;
  const first = counted(log).find((l) => l.kind === "reading" && l.row.detail.amount !== undefined);
  const now = amountNow(log, loop);
  if (!amount || first?.kind !== "reading" || now === null) return undefined;
  const rate = amount.grind && timed && timed.rate.doses > 0 ? rateAt(timed.rate, timed.setting).mean : null;
  return {
    from: amountWords(amount.kind, first.row.detail.amount!),
    to: amountWords(amount.kind, now),
    ...(rate === null ? {} : { note: `${rate.toFixed(2)} g/s at grind ${timed!.setting}` }),
  };
}

function signedResult(knob: KnobStanding, standing: Standing): SignedResult {
  const { loop, log } = knob;
  const set = setOf(knob, standing);
  return {
    ...(set ? { set } : {}),
    ...loop.at,
    title: loop.title,
    judged: loop.judged,
    tolerance: loop.tolerance,
    held: loop.held ?? "",
    asFound: pointOf(knob, "as-found", standing),
    asLeft: pointOf(knob, "as-left", standing),
    moves: counted(log).flatMap((line) => {
      if (line.kind === "grind") return [`grind moved from ${line.row.from} to ${line.row.to}`];
      if (line.kind === "move") return loop.hand ? [moveDone(loop.hand, line.row.amount, amountFigure(loop.hand))] : [];
      const trimmed = line.kind === "reading" ? line.row.detail.trimmed : undefined;
      return trimmed === undefined ? [] : [`trimmed by hand to ${trimmed.toFixed(1)} g`];
    }),
    repairs: log.flatMap((line) => (line.kind === "repair" && line.stands ? [line.row.text] : [])),
    ...notCounted(knob),
    finding: faultOf(knob, standing),
  };
}

/** Readings that were excluded, or that later ones showed to be old or slips: what was read is on the report, and why it is no part of a figure. */
function notCounted({ loop, log }: KnobStanding): { aside?: string[] } {
  const unit = unitsOf(loop.judged)[0]!;
  const aside = log.flatMap((line) => {
    if (line.kind !== "reading") return [];
    const { excluded } = line;
    const why = excluded?.value.form === "struck" ? excluded.value.reason : line.aside && ASIDE[line.aside];
    return why ? [`${formatQuantity(line.row.value, line.row.instrument.resolution, unit)}: ${why}`] : [];
  });
  return aside.length > 0 ? { aside } : {};
}

/** A fault taken stays on the report, whatever was repaired after it. */
function faultOf({ loop }: KnobStanding, { job }: Standing): string | null {
  const found = findingOf(job, loop.id, null);
  return found ? [faultWords(loop.at.knob, found.fault).says, found.text].filter(Boolean).join(" ") : null;
}

function pointOf(knob: KnobStanding, run: Run, standing: Standing): SignedPoint | null {
  const result = resultOf(knob, run, standing);
  if (!result) return null;
  const read = runOf(knob.log, run);
  const { value, u, dof, k, U, resolution, pInside, verdict, readings } = result;
  return {
    value,
    u,
    dof: Number.isFinite(dof) ? dof : null,
    k,
    U,
    resolution,
    pInside,
    verdict,
    readings: [...readings],
    early: read.filter((r) => r.early).length,
    instruments: [...new Set(read.map((r) => r.instrument.id))],
    method: methodOf(read, knob.loop.at.knob),
  };
}

/** Whatever a figure on the sheet was read with: readings of knobs, figures and rows of tasks, shots weighed. */
function instrumentsOf({ job, loops, plan }: Standing): SignedInstrument[] {
  const used = new Map<string, SignedInstrument>();
  const add = (i: KitInstrument, late: boolean, readFor: string) => {
    const { id, name, quantity, calibratedOn } = i;
    const known = used.get(id);
    if (!known) used.set(id, { id, name, quantity, calibratedOn, outOfDate: late, readFor: [readFor] });
    else {
      known.outOfDate ||= late;
      if (!known.readFor.includes(readFor)) known.readFor.push(readFor);
    }
  };
  for (const { loop, log } of loops)
    for (const line of log)
      if (line.kind === "reading") add(line.row.instrument, line.row.instrumentOutOfDate, loop.title);
  const titles = new Map(plan.flatMap((s) => s.tasks.map((t) => [t.id, t.label])));
  for (const { task, value, readBy } of job.entries)
    for (const { column, instrument } of readBy) add(instrument, lateIn(value, column), titles.get(task) ?? task);
  for (const shot of standingShots(job)) if (shot.scale && !shot.amends) add(shot.scale, shot.scaleOutOfDate, "Shots");
  return [...used.values()];
}

function lateIn(value: TaskValue, column: string): boolean {
  const read = value.form === "row" ? value.cells[column] : value.form === "figure" ? value : undefined;
  return read?.outOfDate === true;
}

function signedShots(standing: Standing): SignedShot[] {
  const taken = takenShot(standing)?.shot.id;
  return standingShots(standing.job)
    .filter((s) => !s.amends)
    .map((s) => ({
      number: s.sequence,
      at: s.at.toISOString(),
      said: sayPull(s.pull),
      grind: s.pull.setting,
      dose: s.pull.dose,
      yield: s.pull.yield,
      seconds: s.pull.seconds,
      uDose: s.uDose,
      uYield: s.uYield,
      verdict: judgeShot(s, standing).verdict,
      early: s.early,
      scale: s.scale?.id ?? null,
      taken: s.id === taken,
    }));
}

type Lines = SignedStep["lines"];

function stepsOf(standing: Standing, now: number): SignedStep[] {
  const stations = standing.at(now).flatMap(({ station, state, why }) => {
    const lines = tasksNow(station, standing.records).flatMap((task) => LINES[task.kind](task, standing));
    return lines.length > 0 || state === "skipped"
      ? [{ title: station.title, lines, ...(state === "skipped" ? { skipped: why ?? "" } : {}) }]
      : [];
  });
  const changes = (standing.records.values.get(VISIT_TASK) ?? []).flatMap((v) =>
    v.form === "text" ? [{ label: "Changed while open", text: v.text }] : [],
  );
  return changes.length > 0 ? [{ title: "The visit", lines: changes }, ...stations] : stations;
}

/** What the report says of each kind of task: the compiler names the one that is missing. */
const LINES: { readonly [K in TaskKind]: (task: Task, standing: Standing) => Lines } = {
  tick: ticked,
  text: recorded,
  choice: recorded,
  figure: recorded,
  hardness: recorded,
  purge: recorded,
  cartridge: recorded,
  heat: recorded,
  bursts: timed,
  timer: timed,
  warm: timed,
  table: tabled,
  diagnosis: cause,
  shots: (_, standing) => shotLines(standing),
  // Their records have places of their own on the report, or none.
  work: said,
  left: nothing,
  condition: nothing,
  readings: nothing,
  adjust: nothing,
  loop: otherBasket,
  plan: nothing,
  sign: nothing,
};

/** What was last weighed into the basket that is not the one in use now: the result is of one of them. */
function otherBasket(task: Task, { loops }: Standing): Lines {
  const log = loops.find(({ loop }) => "loop" in task && loop.id === task.loop)?.log ?? [];
  const others = log.filter((line) => line.kind === "reading" && line.row.detail.basket !== basketInUse(log));
  const last = counted(others).at(-1);
  if (last?.kind !== "reading" || !last.row.detail.basket) return [];
  const { value, detail } = last.row;
  return [
    { label: `Dose, ${BASKETS[last.row.detail.basket].label}`, text: `${(detail.trimmed ?? value).toFixed(1)} g` },
  ];
}

/** What is no line of work: that there was nothing to do, and words of earlier years. */
function said(task: Task, standing: Standing): Lines {
  const words = new Set<TaskValue>((standing.records.values.get(task.id) ?? []).filter((v) => v.form !== "work"));
  return words.size > 0 ? recorded(task, standing, (value) => words.has(value)) : [];
}

/** What a hand confirmed for its own safety, and tools set out, are no news to an owner. */
function ticked(task: Task, standing: Standing): Lines {
  const of = standing.plan.find((s) => s.tasks.some((t) => t.id === task.id));
  const quiet = task.kind === "tick" && task.quiet;
  return quiet || of?.hardStop?.confirm === task.label || of?.id === "tools" ? [] : recorded(task, standing);
}

function nothing(): Lines {
  return [];
}

function recorded(task: Task, { job, records }: Standing, which: (value: TaskValue) => boolean = () => true): Lines {
  const entries = new Map(job.entries.map((e) => [e.value, e]));
  return (records.values.get(task.id) ?? []).filter(which).map((value) => {
    const written = entries.get(value);
    const { text, ...said } = sayTask(task, value, {
      schools: job.schools,
      typed: written?.typed ?? "",
      rule: job.rule,
    });
    const early = written && isEarlyEntry(records, job.level, task, written.at.getTime());
    return { label: task.label, text: early ? `${text}, not warmed up` : text, ...said };
  });
}

/** What a table came to, not its rows. */
function tabled(task: Task, standing: Standing): Lines {
  if (task.kind !== "table") return [];
  const lines = analyse(task, analysisOf(standing)).lines.map((line) => ({ label: task.label, ...line }));
  const late = new Set(
    (standing.records.values.get(task.id) ?? []).flatMap((v) =>
      v.form === "row"
        ? Object.values(v.cells).flatMap((c) => (c.outOfDate && c.instrument ? [c.instrument] : []))
        : [],
    ),
  );
  const marks = [...late].map((name) => ({ label: task.label, text: `read with ${name}: calibration out of date` }));
  return [...lines, ...marks];
}

/** A cause only once it was named, with its part for the parts list. */
function cause(task: Task, standing: Standing): Lines {
  if (task.kind !== "diagnosis") return [];
  const { named, ranked, typed } = causeOf(task, standing);
  if (typed.length === 0) return [];
  const pattern = PATTERNS[task.pattern];
  const text = named
    ? `${named.label}.${named.part && ` Parts: ${named.part}.`}`
    : `Not settled: ${ranked[0]!.cause.label.toLowerCase()} likeliest.`;
  return [{ label: pattern.title, text }];
}

/** Nothing warms up within this, s. Our choice. */
const LEAST_WARM = 60;

/** Every try keeps its time; one taken back says why. */
function timed(task: Task, { job }: Standing): Lines {
  const back = takenBack(job);
  return job.timers
    .filter((t) => t.task === task.id)
    .flatMap(({ id, at, endedAt, outcome }) => {
      if (endedAt === null || outcome === null) return [];
      const seconds = (endedAt.getTime() - at.getTime()) / 1000;
      const took = saySeconds(seconds);
      const said =
        // Ready when it was looked at: the seconds until somebody said so are no warm-up.
        outcome === "done" && task.kind === "warm" && seconds < LEAST_WARM
          ? "ready"
          : outcome === "done"
            ? took
            : task.kind === "bursts"
              ? `not full after ${took}`
              : `stopped after ${took}`;
      const value = back.get(id)?.value;
      return [{ label: task.label, text: value?.form === "struck" ? `${said}; then: ${value.reason}` : said }];
    });
}

/**
 * A span in words, as coarse as anybody cares for.
 *
 * @param seconds ≥ 0
 * @example saySeconds(48) // "48 s"; saySeconds(7500) // "2 h 5 min"
 */
export function saySeconds(seconds: number): string {
  if (seconds < 100) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  return minutes < 100 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** Schools that change a verdict or the work on this sheet, in the order in which it comes to them. */
export function decisiveSchools({ plan }: Pick<Standing, "plan">): SchoolId[] {
  return [...new Set(plan.flatMap((station) => station.schools))];
}
