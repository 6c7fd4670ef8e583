import { keyOf } from "../knobs";
import { type KitInstrument, correctionAt, measure } from "../metrology";
import type { Cell, TaskValue } from "../sheet";
import type { SignedDocument, SignedPoint } from "./document";
import { measured } from "./figure";
import type { Entry, Job, Reading, ShotRecord } from "./job";
import { documentOf } from "./report";
import { type Standing, standingOf } from "./standing";

/**
 * What figures would be had an instrument been what a later certificate says: worked out anew beside the records, which stay what they are.
 * Source of the duty: ISO/IEC 17025:2017, 7.10 (nonconforming work) and 6.4.9 (equipment outside its requirements; its effect on what was
 * measured is examined), from memory.
 */

/** The instrument as it is known now, by its id; null where nothing is known otherwise. */
export type KnownNow = (id: string) => KitInstrument | null;

/**
 * An instrument that shows too little or too much everywhere by the same.
 *
 * @param add to each reading, unit of the instrument
 */
export function shifted(instrument: KitInstrument, add: number): KitInstrument {
  const { corrections = [], lowest, highest } = instrument;
  const table =
    corrections.length > 0
      ? corrections
      : ([
          [lowest, 0],
          [highest, 0],
        ] as const);
  return { ...instrument, corrections: table.map(([at, correction]) => [at, correction + add] as const) };
}

/** One figure of a visit, as it is on record and as it would be. */
export interface Recalled {
  readonly what: string;
  readonly before: string;
  readonly after: string;
  readonly verdict: { readonly before: string; readonly after: string } | null;
  /** The verdict would be another. */
  readonly changes: boolean;
}

export interface RecalledPoint extends Omit<Recalled, "before" | "after"> {
  readonly title: string;
  readonly dimension: SignedDocument["results"][number]["judged"];
  readonly before: Pick<SignedPoint, "value" | "U" | "resolution" | "verdict">;
  /** Null where the new certificate says nothing there. */
  readonly after: Pick<SignedPoint, "value" | "U" | "resolution" | "verdict"> | null;
}

export interface Recall {
  /** Results of knobs that rest on the instrument. */
  readonly points: readonly RecalledPoint[];
  /** Lines of the report that would say something else. */
  readonly lines: readonly Recalled[];
  /** How many figures, rows and shots of it were read with the instrument, beside the results. */
  readonly others: number;
  readonly changes: boolean;
}

const SIGNING = { workshop: "", name: "", remark: "", at: new Date(0) };
const PHASES = [
  ["as found", "asFound"],
  ["as left", "asLeft"],
] as const;

/**
 * What a job’s report rests on of some instruments, and what it would say had they been as they are known now.
 *
 * @param ids of the instruments in question
 */
export function recallOf(job: Job, ids: ReadonlySet<string>, knownNow: KnownNow): Recall {
  const standing = standingOf(job);
  const before = documentOf(standing, SIGNING);
  const then = hypothetical(standing, ids, knownNow);
  const after = then && documentOf(standingOf(then), SIGNING);
  // What was signed is what the owner has: it stands before what would be worked out today.
  const signed = job.signature?.document.results ?? [];
  const points = before.results.flatMap((result) => {
    const key = keyOf(result);
    const others = after?.results.find((r) => keyOf(r) === key);
    const own = signed.find((r) => keyOf(r) === key);
    return PHASES.flatMap(([what, phase]) => {
      const point = result[phase];
      if (!point?.instruments?.some((id) => ids.has(id))) return [];
      const was = own?.[phase] ?? point;
      const would = others?.[phase] ?? null;
      return [
        {
          what,
          title: result.title,
          dimension: result.judged,
          before: was,
          after: would,
          verdict: { before: was.verdict, after: would?.verdict ?? "" },
          changes: would?.verdict !== was.verdict,
        },
      ];
    });
  });
  const lines = after ? differing(before, after) : [];
  const others =
    job.entries.filter((e) => e.readBy.some((r) => ids.has(r.instrument.id))).length +
    job.shots.filter((s) => s.scale && ids.has(s.scale.id)).length;
  return { points, lines, others, changes: points.some((p) => p.changes) || lines.some((l) => l.changes) };
}

/**
 * The job as it would be on record. Null where the new certificate says nothing about something that was read.
 *
 * @throws whatever is no matter of the certificate
 */
function hypothetical(standing: Standing, ids: ReadonlySet<string>, knownNow: KnownNow): Job | null {
  const now = (i: KitInstrument) => (ids.has(i.id) ? knownNow(i.id) : null);
  const { job } = standing;
  try {
    return {
      ...job,
      readings: job.readings.map((r) => reread(r, now(r.instrument), standing)),
      entries: job.entries.map((e) => rewritten(e, now)),
      shots: job.shots.map((s) => reweighed(s, s.scale && now(s.scale))),
    };
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

function reread(row: Reading, instrument: KitInstrument | null, { loops, kind }: Standing): Reading {
  const loop = loops.find((l) => l.loop.id === row.loop)?.loop;
  if (!instrument || !loop) return row;
  // It keeps its name among the others of the job: what is compared is figures.
  const as = { ...instrument, id: row.instrument.id };
  const { value, u, uCommon } = measured([{ ...row, instrument: as }], loop, kind.pump);
  return { ...row, instrument: as, value, u, uCommon };
}

/** A figure moves by as much as its correction does. What it showed then was not kept beside what it came to: at most a step away. */
function moved<T extends Cell>(read: T, at: Date, was: KitInstrument, now: KitInstrument): T {
  if (read.value === undefined) return read;
  const shown = read.value - correctionAt(was, read.value);
  const { u } = measure([shown], now, at);
  return { ...read, value: shown + correctionAt(now, shown), ...(read.u === undefined ? {} : { u }) };
}

function rewritten(entry: Entry, now: (i: KitInstrument) => KitInstrument | null): Entry {
  let { value } = entry;
  for (const { column, instrument } of entry.readBy) {
    const as = now(instrument);
    if (as) value = withCell(value, column, (cell) => moved(cell, entry.at, instrument, as));
  }
  return value === entry.value ? entry : { ...entry, value };
}

function withCell(value: TaskValue, column: string, change: <T extends Cell>(cell: T) => T): TaskValue {
  if (value.form === "figure") return change(value);
  const cell = value.form === "row" ? value.cells[column] : undefined;
  return value.form === "row" && cell ? { ...value, cells: { ...value.cells, [column]: change(cell) } } : value;
}

function reweighed(shot: ShotRecord, scale: KitInstrument | null): ShotRecord {
  const was = shot.scale;
  if (!scale || !was) return shot;
  const grams = (value: number) => moved({ value }, shot.at, was, scale).value;
  const { dose } = shot.pull;
  const cup = shot.pull.yield;
  return { ...shot, pull: { ...shot.pull, dose: grams(dose), yield: cup === null ? null : grams(cup) } };
}

type Line = SignedDocument["steps"][number]["lines"][number];

/** Lines of two reports of one job that do not say the same. */
function differing(before: SignedDocument, after: SignedDocument): Recalled[] {
  return before.steps.flatMap((step) => {
    const others = after.steps.find((s) => s.title === step.title)?.lines ?? [];
    return step.lines.flatMap((line, i) => {
      const other: Line | undefined = others[i];
      if (!other || (other.text === line.text && other.verdict === line.verdict)) return [];
      const verdict = line.verdict && other.verdict ? { before: line.verdict, after: other.verdict } : null;
      return [
        {
          what: `${step.title}, ${line.label}`,
          before: line.text,
          after: other.text,
          verdict,
          changes: verdict !== null && verdict.before !== verdict.after,
        },
      ];
    });
  });
}
