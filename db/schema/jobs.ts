import { sql } from "drizzle-orm";
import type { Particulars, ReadingDetail, SignedDocument } from "../../core/job";
import type { Learnt } from "../../core/knobs";
import { type BudgetLine, PLACES } from "../../core/metrology";
import type { SchoolsOf } from "../../core/school";
import { SCOPE_IDS, type TaskValue } from "../../core/sheet";
import {
  boolean,
  check,
  customType,
  doublePrecision,
  index,
  integer,
  json,
  jsonb,
  pgTable,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { bounded, boundedInside } from "./bounds";
import { knobAt, knobAtHolds } from "./knob-at";
import { account, workshop } from "./people";
import { specVersion } from "./specs";
import { instrument, machine } from "./register";

/** A job and what was recorded in it. Everything but the job's own state is append-only; the database refuses else. */

const bytes = customType<{ data: Buffer }>({ dataType: () => "bytea" });
const at = () => timestamp({ withTimezone: true }).notNull().defaultNow();

export const job = pgTable(
  "job",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    machineId: uuid()
      .notNull()
      .references(() => machine.id),
    /** What the visit is for. */
    scopes: text({ enum: SCOPE_IDS }).array().notNull(),
    /** Pinned at the start: the sheet stays what it was, whatever library and register say later. */
    particulars: jsonb().$type<Particulars>().notNull(),
    state: text({ enum: ["open", "signed"] })
      .notNull()
      .default("open"),
    complaint: text().notNull().default(""),
    schools: jsonb().$type<SchoolsOf>().notNull(),
    /** The level of warm-up that readings are held against. */
    level: text({ enum: ["boiler-ready", "machine-warm", "heat-soaked"] })
      .notNull()
      .default("machine-warm"),
    specVersionId: uuid().references(() => specVersion.id),
    decisionRule: text({ enum: ["simple", "guarded"] }).notNull(),
    /** What knobs of this model and machine had shown when the job began. */
    learnt: jsonb().$type<Learnt>().notNull().default({}),
    startedBy: uuid()
      .notNull()
      .references(() => account.id),
    startedAt: at(),
    signedAt: timestamp({ withTimezone: true }),
    /** Counts the writes: what was worked out for one revision need not be worked out again. */
    revision: integer().notNull().default(0),
  },
  (t) => [
    index("job_machine").on(t.machineId, t.startedAt.desc()),
    index("job_open").on(t.workshopId, t.state, t.startedAt),
    bounded("job_revision", t.revision, 0, 1_000_000_000),
    check("job_scopes", sql`cardinality(${t.scopes}) between 1 and ${sql.raw(String(SCOPE_IDS.length))}`),
    boundedInside("job_particulars", t.particulars),
    boundedInside("job_learnt", t.learnt),
  ],
);

/** What every record of a job begins with. */
export const record = () => ({
  /** The command that wrote it: the same request twice is one record. */
  id: uuid().primaryKey(),
  jobId: uuid()
    .notNull()
    .references(() => job.id),
  by: uuid()
    .notNull()
    .references(() => account.id),
  at: at(),
});

export const note = pgTable(
  "note",
  {
    ...record(),
    station: text().notNull(),
    /** Where on the machine; empty: all of it. */
    area: text().notNull().default(""),
    text: text().notNull(),
  },
  (t) => [index("note_job").on(t.jobId)],
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
    index("photo_job").on(t.jobId),
    bounded("photo_width", t.width, 1, 20_000),
    bounded("photo_height", t.height, 1, 20_000),
    bounded("photo_size", t.size, 1, 4_194_304),
  ],
);

/** A task ticked or a hard stop confirmed. */
export const tick = pgTable("tick", { ...record(), key: text().notNull() }, (t) => [
  uniqueIndex("tick_once").on(t.jobId, t.key),
]);

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
    index("entry_job").on(t.jobId, t.at),
    uniqueIndex("entry_superseded_once").on(t.supersedes),
    boundedInside("entry_value", t.value),
  ],
);

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
    endedBy: uuid().references(() => account.id),
    outcome: text({ enum: ["done", "alarm"] }),
  },
  (t) => [
    index("timer_job").on(t.jobId, t.at),
    index("timer_open")
      .on(t.jobId)
      .where(sql`ended_at is null`),
    uniqueIndex("timer_one_open")
      .on(t.jobId, t.task)
      .where(sql`ended_at is null`),
  ],
);

export const reading = pgTable(
  "reading",
  {
    ...record(),
    sequence: integer().notNull(),
    ...knobAt(),
    instrumentId: uuid()
      .notNull()
      .references(() => instrument.id),
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
    budget: jsonb().$type<BudgetLine[]>().notNull(),
    instrumentOutOfDate: boolean().notNull().default(false),
    /** Taken before the chosen level of warm-up. */
    early: boolean().notNull().default(false),
    detail: jsonb().$type<ReadingDetail>().notNull().default({}),
    /** The reading this one replaces; the old one stays on record. */
    supersedes: uuid(),
    reason: text().notNull().default(""),
  },
  (t) => [
    index("reading_job").on(t.jobId, t.sequence),
    uniqueIndex("reading_superseded_once").on(t.supersedes),
    knobAtHolds("reading", t),
    bounded("reading_sequence", t.sequence, 1, 100_000),
    bounded("reading_to_group", t.toGroup, -20, 20),
    bounded("reading_to_group_u", t.toGroupU, 0, 10),
    bounded("reading_indicated", t.indicated, -1000, 1_000_000),
    bounded("reading_value", t.value, -1000, 1_000_000),
    bounded("reading_u", t.u, 0, 1_000_000),
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
    index("adjustment_job").on(t.jobId, t.sequence),
    uniqueIndex("adjustment_superseded_once").on(t.supersedes),
    knobAtHolds("adjustment", t),
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
    index("repair_job").on(t.jobId, t.sequence),
    uniqueIndex("repair_superseded_once").on(t.supersedes),
    knobAtHolds("repair", t),
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
  (t) => [index("finding_job").on(t.jobId), knobAtHolds("finding", t)],
);

export const signature = pgTable(
  "signature",
  {
    ...record(),
    name: text().notNull(),
    remark: text().notNull().default(""),
    /** All that was signed, as one document, and its SHA-256. json, not jsonb: the text hashed is the text kept. */
    document: json().$type<SignedDocument>().notNull(),
    hash: text().notNull(),
  },
  (t) => [uniqueIndex("signature_job").on(t.jobId)],
);

/** The owner's way in: unguessable, revocable, several per job over time. */
export const ownerLink = pgTable(
  "owner_link",
  {
    ...record(),
    token: text().notNull(),
    revokedAt: timestamp({ withTimezone: true }),
  },
  (t) => [uniqueIndex("owner_link_token").on(t.token), index("owner_link_job").on(t.jobId)],
);

/** Every write's command id, with a hash of what it carried, so that a repeat is known as one. */
export const command = pgTable("command", {
  id: uuid().primaryKey(),
  workshopId: uuid().notNull(),
  accountId: uuid().notNull(),
  kind: text().notNull(),
  payloadHash: text().notNull(),
  at: at(),
});
