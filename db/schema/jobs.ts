import { sql } from "drizzle-orm";
import { METHOD_IDS, type Particulars, type ReadingDetail, type StoredDocument } from "../../core/job";
import type { Learnt } from "../../core/knobs";
import { type CompactBudget, PLACES, VERDICTS } from "../../core/metrology";
import { DIMENSIONS } from "../../core/quantity";
import type { SchoolsOf } from "../../core/school";
import { type Carried, SCOPE_IDS, type TaskValue } from "../../core/sheet";
import type { Wanted } from "../../core/spec";
import { WARM_LEVELS } from "../../core/warmup";
import {
  type AnyPgColumn,
  boolean,
  check,
  doublePrecision,
  foreignKey,
  index,
  integer,
  json,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { bytes } from "./bytes";
import { bounded, boundedInside, oneOf, timely, within } from "./bounds";
import { knobAt, knobAtHolds } from "./knob-at";
import { DECISION_RULES, account, workshop } from "./people";
import { specVersion } from "./specs";
import { instrument, machine, model } from "./register";

/**
 * A job and what was recorded in it. Everything but the job's own state is append-only; the database refuses else. A record belongs to
 * a job of its workshop, a correction to a record of its job and knob: the keys carry all of it.
 */

const at = () => timestamp({ withTimezone: true }).notNull().defaultNow();
const STATES = ["open", "signed", "withdrawn"] as const;

export const job = pgTable(
  "job",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    machineId: uuid().notNull(),
    /** What the visit is for. */
    scopes: text({ enum: SCOPE_IDS }).array().notNull(),
    /** Pinned at the start: the sheet stays what it was, whatever library and register say later. */
    particulars: jsonb().$type<Particulars>().notNull(),
    state: text({ enum: STATES }).notNull().default("open"),
    complaint: text().notNull().default(""),
    schools: jsonb().$type<SchoolsOf>().notNull(),
    /** The level of warm-up that readings are held against. */
    level: text({ enum: WARM_LEVELS }).notNull().default("machine-warm"),
    specVersionId: uuid(),
    decisionRule: text({ enum: DECISION_RULES }).notNull(),
    /** What knobs of this model and machine had shown when the job began. */
    learnt: jsonb().$type<Learnt>().notNull().default({}),
    /** What earlier visits left in or put off, as it stood when this one began. */
    carried: jsonb().$type<Carried[]>().notNull().default([]),
    /** Values wanted on this visit alone. */
    wanted: jsonb().$type<Wanted>().notNull().default({}),
    startedBy: uuid().notNull(),
    startedAt: at(),
    signedAt: timestamp({ withTimezone: true }),
    /** Counts the writes: what was worked out for one revision need not be worked out again. */
    revision: integer().notNull().default(0),
  },
  (t) => [
    unique("job_in_workshop").on(t.workshopId, t.id),
    within("job_on_machine", t, t.machineId, machine),
    within("job_started_by", t, t.startedBy, account),
    within("job_spec_version", t, t.specVersionId, specVersion),
    index("job_visits").on(t.workshopId, t.machineId, t.startedAt.desc()),
    index("job_bench")
      .on(t.workshopId, t.startedAt, t.id)
      .where(sql`state = 'open'`),
    // Two people on one machine work on one sheet.
    uniqueIndex("job_one_open")
      .on(t.workshopId, t.machineId)
      .where(sql`state = 'open'`),
    bounded("job_revision", t.revision, 0, 1_000_000_000),
    check("job_scopes", sql`cardinality(${t.scopes}) between 1 and ${sql.raw(String(SCOPE_IDS.length))}`),
    check("job_scope_words", sql`${t.scopes} <@ array[${sql.raw(SCOPE_IDS.map((s) => `'${s}'`).join(", "))}]`),
    check("job_signed_at", sql`(${t.state} = 'signed') = (${t.signedAt} is not null)`),
    oneOf("job_state", t.state, STATES),
    oneOf("job_level", t.level, WARM_LEVELS),
    oneOf("job_decision_rule", t.decisionRule, DECISION_RULES),
    timely("job_started_at", t.startedAt),
    timely("job_signed_when", t.signedAt),
    boundedInside("job_particulars", t.particulars),
    boundedInside("job_learnt", t.learnt),
    boundedInside("job_wanted", t.wanted),
    boundedInside("job_carried", t.carried),
  ],
);

/** What every record of a job begins with. */
export const record = () => ({
  /** The command that wrote it: the same request twice is one record. */
  id: uuid().notNull(),
  workshopId: uuid().notNull(),
  jobId: uuid().notNull(),
  by: uuid().notNull(),
  at: at(),
});

type Recorded = Record<"workshopId" | "jobId" | "by" | "at", AnyPgColumn>;

/** A record is of a job and by a person of its workshop. Its key is the way to a job’s records too, and there is no other. */
export const ofJob = (name: string, t: Recorded & { id: AnyPgColumn }, key: AnyPgColumn[] = [t.id]) => [
  primaryKey({ name: `${name}_key`, columns: [t.workshopId, t.jobId, ...key] }),
  within(`${name}_of_job`, t, t.jobId, job),
  within(`${name}_by`, t, t.by, account),
  timely(`${name}_moment`, t.at),
];

type Correcting = Record<"workshopId" | "jobId" | "id" | "supersedes", AnyPgColumn>;

/** What a correction replaces is a line of the same job, and of the same knob or task; a line is corrected once. */
export const corrects = (name: string, t: Correcting, of: AnyPgColumn[]) => [
  foreignKey({
    name: `${name}_corrects`,
    columns: [t.workshopId, t.jobId, ...of, t.supersedes],
    foreignColumns: [t.workshopId, t.jobId, ...of, t.id],
  }),
  uniqueIndex(`${name}_corrected_once`)
    .on(t.workshopId, t.supersedes)
    .where(sql`supersedes is not null`),
];

export const note = pgTable(
  "note",
  {
    ...record(),
    station: text().notNull(),
    /** Where on the machine; empty: all of it. */
    area: text().notNull().default(""),
    /** Empty: the note it replaces is taken back. */
    text: text().notNull(),
    supersedes: uuid(),
    reason: text().notNull().default(""),
  },
  (t) => [...ofJob("note", t), ...corrects("note", t, [])],
);

export const photo = pgTable(
  "photo",
  {
    ...record(),
    station: text().notNull(),
    area: text().notNull().default(""),
    mime: text().notNull(),
    width: integer().notNull(),
    height: integer().notNull(),
    size: integer().notNull(),
    data: bytes().notNull(),
  },
  (t) => [
    ...ofJob("photo", t),
    check("photo_mime", sql`${t.mime} in ('image/jpeg', 'image/png', 'image/webp')`),
    check("photo_data", sql`length(${t.data}) = ${t.size}`),
    bounded("photo_width", t.width, 1, 20_000),
    bounded("photo_height", t.height, 1, 20_000),
    bounded("photo_size", t.size, 1, 4_194_304),
  ],
);

/** A task ticked or a hard stop confirmed. */
export const tick = pgTable("tick", { ...record(), key: text().notNull() }, (t) => [...ofJob("tick", t, [t.key])]);

/** What was recorded for a task of the sheet: a figure, a choice, words. */
export const entry = pgTable(
  "entry",
  {
    ...record(),
    task: text().notNull(),
    value: jsonb().$type<TaskValue>().notNull(),
    /** As typed, and the unit it was understood in. */
    typed: text().notNull().default(""),
    unit: text().notNull().default(""),
    supersedes: uuid(),
  },
  (t) => [
    ...ofJob("entry", t, [t.task, t.id]),
    ...corrects("entry", t, [t.task]),
    boundedInside("entry_value", t.value),
  ],
);

/** What an entry was read with: a figure under "", a row under the names of its columns. */
export const entryInstrument = pgTable(
  "entry_instrument",
  {
    workshopId: uuid().notNull(),
    jobId: uuid().notNull(),
    task: text().notNull(),
    entryId: uuid().notNull(),
    column: text("col").notNull().default(""),
    instrumentId: uuid().notNull(),
  },
  (t) => [
    primaryKey({ name: "entry_instrument_key", columns: [t.workshopId, t.jobId, t.task, t.entryId, t.column] }),
    foreignKey({
      name: "entry_instrument_of",
      columns: [t.workshopId, t.jobId, t.task, t.entryId],
      foreignColumns: [entry.workshopId, entry.jobId, entry.task, entry.id],
    }),
    within("entry_instrument_read_with", t, t.instrumentId, instrument),
    index("entry_instrument_used").on(t.workshopId, t.instrumentId),
  ],
);

const OUTCOMES = ["done", "alarm"] as const;

/**
 * Something timed, on the server: it outlives reloads, sign-outs and restarts. The start is a record like any other; how it ended
 * is filled in once.
 */
export const timer = pgTable(
  "timer",
  {
    ...record(),
    task: text().notNull(),
    label: text().notNull(),
    dueAt: timestamp({ withTimezone: true }).notNull(),
    endedAt: timestamp({ withTimezone: true }),
    endedBy: uuid(),
    outcome: text({ enum: OUTCOMES }),
  },
  (t) => [
    ...ofJob("timer", t),
    within("timer_ended_by", t, t.endedBy, account),
    index("timer_running")
      .on(t.workshopId, t.dueAt)
      .where(sql`ended_at is null`),
    uniqueIndex("timer_one_open")
      .on(t.jobId, t.task)
      .where(sql`ended_at is null`),
    oneOf("timer_outcome", t.outcome, OUTCOMES),
    check(
      "timer_ended",
      sql`(${t.endedAt} is null) = (${t.outcome} is null) and (${t.endedAt} is null) = (${t.endedBy} is null)`,
    ),
    timely("timer_due_at", t.dueAt),
    timely("timer_ended_at", t.endedAt),
  ],
);

export const reading = pgTable(
  "reading",
  {
    ...record(),
    sequence: integer().notNull(),
    ...knobAt(),
    instrumentId: uuid().notNull(),
    /** Where this instrument sat for this reading. */
    place: text({ enum: PLACES }).notNull(),
    /** Bar added for that place, and its standard uncertainty. */
    toGroup: doublePrecision().notNull(),
    toGroupU: doublePrecision().notNull(),
    typed: text().notNull(),
    unit: text().notNull(),
    /** What the instrument showed, stored unit. */
    indicated: doublePrecision().notNull(),
    /** What is judged, corrections applied, stored unit, with the uncertainties of this one reading. */
    value: doublePrecision().notNull(),
    u: doublePrecision().notNull(),
    uCommon: doublePrecision().notNull(),
    /** What u is made of, line by line; earlier years have it in words. */
    budget: jsonb().$type<CompactBudget | object[]>().notNull(),
    instrumentOutOfDate: boolean().notNull().default(false),
    /** Taken before the chosen level of warm-up. */
    early: boolean().notNull().default(false),
    detail: jsonb().$type<ReadingDetail>().notNull().default({}),
    /** The reading this one replaces; the old one stays on record. */
    supersedes: uuid(),
    reason: text().notNull().default(""),
  },
  (t) => [
    ...ofJob("reading", t, [t.knob, t.id]),
    ...corrects("reading", t, [t.knob]),
    within("reading_read_with", t, t.instrumentId, instrument),
    index("reading_used").on(t.workshopId, t.instrumentId),
    ...knobAtHolds("reading", t),
    oneOf("reading_place", t.place, PLACES),
    bounded("reading_sequence", t.sequence, 1, 100_000),
    bounded("reading_to_group", t.toGroup, -20, 20),
    bounded("reading_to_group_u", t.toGroupU, 0, 10),
    bounded("reading_indicated", t.indicated, -1000, 1_000_000),
    bounded("reading_value", t.value, -1000, 1_000_000),
    // Nothing is known exactly: what an instrument shows has a step at least.
    bounded("reading_u", t.u, 1e-9, 1_000_000),
    bounded("reading_u_common", t.uCommon, 0, 1_000_000),
    boundedInside("reading_budget", t.budget),
    boundedInside("reading_detail", t.detail),
  ],
);

export const adjustment = pgTable(
  "adjustment",
  {
    ...record(),
    sequence: integer().notNull(),
    ...knobAt(),
    /** In the knob’s unit, signed in the hand’s sense: turns clockwise, notches up, pulses more. */
    amount: doublePrecision().notNull(),
    typed: text().notNull(),
    /** What was advised, in the same sense; null if nothing was. */
    advised: doublePrecision(),
    supersedes: uuid(),
    reason: text().notNull().default(""),
  },
  (t) => [
    ...ofJob("adjustment", t, [t.knob, t.id]),
    ...corrects("adjustment", t, [t.knob]),
    ...knobAtHolds("adjustment", t),
    bounded("adjustment_sequence", t.sequence, 1, 100_000),
    bounded("adjustment_amount", t.amount, -10_000, 10_000),
    bounded("adjustment_advised", t.advised, -10_000, 10_000),
  ],
);

/** What was renewed or freed of a knob: from there on the machine is a new one to the engine. */
export const repair = pgTable(
  "repair",
  {
    ...record(),
    sequence: integer().notNull(),
    ...knobAt(),
    text: text().notNull(),
    supersedes: uuid(),
    reason: text().notNull().default(""),
  },
  (t) => [
    ...ofJob("repair", t, [t.knob, t.id]),
    ...corrects("repair", t, [t.knob]),
    ...knobAtHolds("repair", t),
    bounded("repair_sequence", t.sequence, 1, 100_000),
  ],
);

/** The engine’s fault, or the stop of a rule of the trade, taken by the technician as the end of adjusting. */
export const finding = pgTable(
  "finding",
  {
    ...record(),
    ...knobAt(),
    fault: text().notNull(),
    text: text().notNull(),
  },
  (t) => [...ofJob("finding", t), ...knobAtHolds("finding", t)],
);

export const signature = pgTable(
  "signature",
  {
    ...record(),
    name: text().notNull(),
    remark: text().notNull().default(""),
    /** All that was signed, as one document, and its SHA-256. json, not jsonb: the text hashed is the text kept. */
    document: json().$type<StoredDocument>().notNull(),
    hash: text().notNull(),
    /** What a list of visits says of it without opening the document: faults left, and how many stations were left out. */
    finding: text().notNull().default(""),
    skipped: smallint().notNull().default(0),
    /** Its results are rows, and the two above are filled: not yet, where an earlier version of the application signed. */
    kept: boolean().notNull().default(false),
  },
  (t) => [
    ...ofJob("signature", t, []),
    index("signature_not_kept")
      .on(t.workshopId, t.jobId)
      .where(sql`not kept`),
    check("signature_hash", sql`${t.hash} ~ '^[0-9a-f]{64}$'`),
    bounded("signature_skipped", t.skipped, 0, 1000),
  ],
);

const PHASES = ["as-found", "as-left"] as const;

/** What a signed job came to, one row a knob and phase: to be asked with plain SQL (docs/records.md). Written with the signature. */
export const result = pgTable(
  "result",
  {
    workshopId: uuid().notNull(),
    jobId: uuid().notNull(),
    /** Which of its job, counted from 1 in the order of the report. */
    no: smallint().notNull(),
    machineId: uuid().notNull(),
    /** The model the machine was of when the job was signed. */
    modelId: uuid().notNull(),
    ...knobAt(),
    phase: text({ enum: PHASES }).notNull(),
    /** When the job was signed. */
    at: timestamp({ withTimezone: true }).notNull(),
    /** When the last reading of it was taken. */
    readAt: timestamp({ withTimezone: true }).notNull(),
    /** What it is a figure of: pressure in bar, temperature and its differences in °C, mass in g. */
    dimension: text({ enum: DIMENSIONS }).notNull(),
    /** Value, standard uncertainty, effective degrees of freedom (null: taken as known), coverage factor, expanded uncertainty for 95 %. */
    value: doublePrecision().notNull(),
    u: doublePrecision().notNull(),
    dof: doublePrecision(),
    k: doublePrecision().notNull(),
    expanded: doublePrecision().notNull(),
    /** How many readings it is made of. */
    n: integer().notNull(),
    resolution: doublePrecision().notNull(),
    /** Limits it was held against; null: open on that side. */
    lower: doublePrecision(),
    upper: doublePrecision(),
    verdict: text({ enum: VERDICTS }).notNull(),
    pInside: doublePrecision().notNull(),
    rule: text({ enum: DECISION_RULES }).notNull(),
    /** How it was come by; null where that was not kept. */
    method: text({ enum: METHOD_IDS }),
    /** Readings of it taken not warmed up. */
    notWarm: integer().notNull(),
    /** An instrument behind it was past its date. */
    outOfDate: boolean().notNull(),
  },
  (t) => [
    within("result_of_job", t, t.jobId, job),
    within("result_on_machine", t, t.machineId, machine),
    within("result_of_model", t, t.modelId, model),
    primaryKey({ name: "result_key", columns: [t.workshopId, t.jobId, t.no] }),
    bounded("result_no", t.no, 1, 1000),
    index("result_machine").on(t.workshopId, t.machineId, t.knob),
    index("result_model").on(t.workshopId, t.modelId, t.knob),
    ...knobAtHolds("result", t),
    oneOf("result_phase", t.phase, PHASES),
    oneOf("result_verdict", t.verdict, VERDICTS),
    oneOf("result_rule", t.rule, DECISION_RULES),
    oneOf("result_method", t.method, METHOD_IDS),
    oneOf("result_dimension", t.dimension, DIMENSIONS),
    timely("result_when", t.at),
    timely("result_read_at", t.readAt),
    bounded("result_value", t.value, -1000, 1_000_000),
    bounded("result_u", t.u, 1e-9, 1_000_000),
    bounded("result_dof", t.dof, 1, 1e12),
    bounded("result_k", t.k, 0.5, 100),
    bounded("result_expanded", t.expanded, 1e-9, 100_000_000),
    bounded("result_n", t.n, 1, 100_000),
    bounded("result_resolution", t.resolution, 1e-9, 100_000),
    bounded("result_lower", t.lower, -1000, 1_000_000),
    bounded("result_upper", t.upper, -1000, 1_000_000),
    check("result_limits", sql`${t.lower} < ${t.upper}`),
    bounded("result_p_inside", t.pInside, 0, 1),
    bounded("result_not_warm", t.notWarm, 0, 100_000),
  ],
);

/** What a result was read with. */
export const resultInstrument = pgTable(
  "result_instrument",
  {
    workshopId: uuid().notNull(),
    jobId: uuid().notNull(),
    no: smallint().notNull(),
    instrumentId: uuid().notNull(),
  },
  (t) => [
    primaryKey({ name: "result_instrument_key", columns: [t.workshopId, t.jobId, t.no, t.instrumentId] }),
    foreignKey({
      name: "result_instrument_of",
      columns: [t.workshopId, t.jobId, t.no],
      foreignColumns: [result.workshopId, result.jobId, result.no],
    }),
    within("result_instrument_read_with", t, t.instrumentId, instrument),
    index("result_instrument_used").on(t.workshopId, t.instrumentId),
  ],
);

/** The owner's way in: unguessable, revocable, several per job over time. */
export const ownerLink = pgTable(
  "owner_link",
  {
    ...record(),
    /** SHA-256 of the token in its address: the token itself is made of its id and a key that is not in the database. */
    tokenHash: text().notNull(),
    /** Of before: what an older application still writes here is hashed as it comes in, and not kept. */
    token: text(),
    revokedAt: timestamp({ withTimezone: true }),
  },
  (t) => [
    ...ofJob("owner_link", t),
    uniqueIndex("owner_link_token_hash").on(t.tokenHash),
    check("owner_link_no_token", sql`${t.token} is null`),
    check("owner_link_hash", sql`${t.tokenHash} ~ '^[0-9a-f]{64}$'`),
    timely("owner_link_revoked_at", t.revokedAt),
  ],
);

/** Every write's command id, with a hash of what it carried, so that a repeat is known as one: kept as long as a repeat can come. */
export const command = pgTable(
  "command",
  {
    id: uuid().primaryKey(),
    workshopId: uuid().notNull(),
    accountId: uuid().notNull(),
    kind: text().notNull(),
    payloadHash: text().notNull(),
    at: at(),
  },
  (t) => [within("command_by", t, t.accountId, account), index("command_age").using("brin", t.at)],
);
