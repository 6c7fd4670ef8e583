import { PATTERNS, diagnose } from "../diagnose";
import { faultWords, moveWords } from "../knobs";
import { amountFigure } from "../knobs/wording";
import { SCHOOLS, schoolWords } from "../school";
import type { SchoolId } from "../school";
import { type Task, type TaskKind, analyse, isEarlyEntry, presetOf, sayTask, tasksNow } from "../sheet";
import type { SignedDocument, SignedLoop, SignedValue } from "./document";
import { type Run, counted } from "./log";
import { resultOf } from "./result";
import { shotLines } from "./shot-words";
import { type KnobStanding, type Standing, VISIT_TASK, analysisOf, findingOf } from "./standing";

/** The report of a job: each record in words, what was left out and why, the results, and the choices behind verdicts. */

export interface Signing {
  readonly workshop: string;
  /** Who signs, as it stands on the report. */
  readonly name: string;
  readonly remark: string;
  readonly at: Date;
}

/** All that a signature freezes. */
export function documentOf(standing: Standing, { workshop, name, remark, at }: Signing): SignedDocument {
  const { job, kind, card } = standing;
  // Brew pressure keeps a place of its own in this version of the document.
  const brew = standing.loops.find((l) => l.loop.at.knob === "opv");
  const used = new Map(job.readings.map((r) => [r.instrument.id, r]));
  return {
    version: 3,
    job: job.id,
    type: presetOf(job.scopes, kind, card) ?? "visit",
    scopes: [...job.scopes],
    workshop,
    machine: {
      maker: job.machine.maker,
      model: job.machine.model,
      serial: job.machine.serial,
      site: job.machine.site,
      town: job.machine.town,
    },
    complaint: job.complaint,
    condition: job.notes.map((n) => (n.area ? `${n.area}: ${n.text}` : n.text)),
    tolerance: brew?.loop.tolerance ?? {},
    school: job.schools.opv,
    rule: job.rule,
    asFound: brew ? pointOf(brew, "as-found", standing) : null,
    asLeft: brew ? pointOf(brew, "as-left", standing) : null,
    instruments: [...used.values()].map((r) => ({
      name: r.instrument.name,
      calibratedOn: r.instrument.calibratedOn,
      outOfDate: r.instrumentOutOfDate,
    })),
    turns: brew ? counted(brew.log).flatMap((line) => (line.kind === "move" ? [line.row.amount] : [])) : [],
    repairs: brew ? repairsOf(brew) : [],
    finding: brew ? faultOf(brew, standing) : null,
    remark,
    technician: name,
    startedAt: job.startedAt.toISOString(),
    signedAt: at.toISOString(),
    stations: stationsOf(standing, at.getTime()),
    schools: decisiveSchools(standing).map((id) => ({
      question: SCHOOLS[id].question,
      choice: schoolWords(id, job.schools[id]),
      own: false,
    })),
    spec: job.spec && { name: job.spec.name, version: job.spec.version },
    early: standing.loops.flatMap((l) => counted(l.log)).filter((line) => line.kind === "reading" && line.row.early)
      .length,
    loops: standing.loops.filter((l) => l !== brew && l.log.length > 0).map((l) => signedLoop(l, standing)),
  };
}

function signedLoop(knob: KnobStanding, standing: Standing): SignedLoop {
  const { loop, log } = knob;
  return {
    loop: loop.id,
    title: loop.title,
    judged: loop.judged,
    tolerance: loop.tolerance,
    asFound: pointOf(knob, "as-found", standing),
    asLeft: pointOf(knob, "as-left", standing),
    moves: counted(log).flatMap((line) =>
      line.kind === "move" && loop.hand ? [moveWords(loop.hand, line.row.amount, amountFigure(loop.hand))] : [],
    ),
    repairs: repairsOf(knob),
    finding: faultOf(knob, standing),
  };
}

function repairsOf({ log }: KnobStanding): string[] {
  return log.flatMap((line) => (line.kind === "repair" && line.stands ? [line.row.text] : []));
}

/** A fault taken stays on the report, whatever was repaired after it. */
function faultOf({ loop }: KnobStanding, { job }: Standing): string | null {
  const found = findingOf(job, loop.id, null);
  return found ? [faultWords(loop.at.knob, found.fault).says, found.text].filter(Boolean).join(" ") : null;
}

function pointOf(knob: KnobStanding, run: Run, standing: Standing): SignedValue | null {
  const result = resultOf(knob, run, standing);
  if (!result) return null;
  const { value, U, k, resolution, pInside, verdict, readings } = result;
  return { value, U, k, resolution, pInside, verdict, readings: [...readings] };
}

type Lines = NonNullable<SignedDocument["stations"]>[number]["lines"];

function stationsOf(standing: Standing, now: number): NonNullable<SignedDocument["stations"]> {
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
  tick: recorded,
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
  condition: nothing,
  readings: nothing,
  adjust: nothing,
  loop: nothing,
  plan: nothing,
  sign: nothing,
};

function nothing(): Lines {
  return [];
}

function recorded(task: Task, { job, records }: Standing): Lines {
  const entries = new Map(job.entries.map((e) => [e.value, e]));
  return (records.values.get(task.id) ?? []).map((value) => {
    const written = entries.get(value);
    const { text, ...said } = sayTask(task, value, {
      schools: job.schools,
      typed: written?.typed ?? "",
      rule: job.rule,
    });
    const early = written && isEarlyEntry(records, job.level, task, written.at.getTime());
    return { label: task.label, text: early ? `${text}, read before the machine was warm` : text, ...said };
  });
}

/** What a table came to, not its rows. */
function tabled(task: Task, standing: Standing): Lines {
  if (task.kind !== "table") return [];
  return analyse(task, analysisOf(standing)).lines.map((line) => ({ label: task.label, ...line }));
}

/** A cause only once it was named, with its part for the parts list. */
function cause(task: Task, { records }: Standing): Lines {
  if (task.kind !== "diagnosis") return [];
  const evidence = (records.values.get(task.id) ?? []).flatMap((v) => (v.form === "evidence" ? [v] : []));
  if (evidence.length === 0) return [];
  const pattern = PATTERNS[task.pattern];
  const { named, ranked } = diagnose(pattern, evidence);
  const text = named
    ? `${named.label}. ${named.remedy}${named.part && ` Parts: ${named.part}.`}`
    : `Not settled: ${ranked[0]!.cause.label.toLowerCase()} likeliest.`;
  return [{ label: pattern.title, text }];
}

function timed(task: Task, { records }: Standing): Lines {
  return (records.timers.get(task.id) ?? []).flatMap(({ startedAt, endedAt, outcome }) => {
    if (endedAt === null || outcome === null) return [];
    const took = saySeconds((endedAt - startedAt) / 1000);
    return [{ label: task.label, text: outcome === "done" ? took : `stopped after ${took}` }];
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
