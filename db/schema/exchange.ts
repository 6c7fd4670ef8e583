import { sql } from "drizzle-orm";
import {
  bigint,
  check,
  date,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { DIMENSIONS } from "../../core/quantity";
import type { Trace } from "../../core/shot";
import { bounded, boundedInside, oneOf, timely, within } from "./bounds";
import { corrects, ofJob, record } from "./jobs";
import { knobAt, knobAtHolds } from "./knob-at";
import { account, workshop } from "./people";
import { machine } from "./register";
import { shot } from "./shots";

/** What leaves a workshop and what comes into it: files on their way, what spreadsheets brought, and the doors for programs. */

export const TRANSFER_WAYS = ["records-out", "tables-out", "records-in", "table-in"] as const;
/**
 * - `read`: it is looked through, nothing is stored
 * - `asked`: somebody has to say something before it goes on
 * - `withdrawn`: it was stored, and counts no more
 */
export const TRANSFER_STATES = [
  "waiting",
  "running",
  "asked",
  "stopping",
  "stopped",
  "done",
  "failed",
  "withdrawn",
] as const;

/** A file on its way out or in: how far it is, for whoever looks, from whichever process. */
export const transfer = pgTable(
  "transfer",
  {
    id: uuid().notNull(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    way: text({ enum: TRANSFER_WAYS }).notNull(),
    /** What of the workshop goes out, or the name of the file that came. */
    about: text().notNull(),
    state: text({ enum: TRANSFER_STATES }).notNull(),
    /** Rows or bytes, of how many. */
    done: bigint({ mode: "number" }).notNull().default(0),
    total: bigint({ mode: "number" }).notNull().default(0),
    /** What it does just now, or why it ended. */
    said: text().notNull().default(""),
    /** How the file is to be understood: what somebody answered. */
    plan: jsonb().$type<Record<string, unknown>>().notNull().default({}),
    /** What came of looking through it, or of storing it. */
    found: jsonb().$type<Record<string, unknown>>().notNull().default({}),
    by: uuid().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
    /** A process that works on it says so again and again. */
    aliveAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ name: "transfer_key", columns: [t.workshopId, t.id] }),
    index("transfer_newest").on(t.workshopId, t.at.desc()),
    within("transfer_by", t, t.by, account),
    oneOf("transfer_way", t.way, TRANSFER_WAYS),
    oneOf("transfer_state", t.state, TRANSFER_STATES),
    check("transfer_words", sql`length(${t.about}) <= 300 and length(${t.said}) <= 1000`),
    bounded("transfer_done", t.done, 0, 1e12),
    bounded("transfer_total", t.total, 0, 1e12),
    boundedInside("transfer_plan", t.plan),
    boundedInside("transfer_found", t.found),
    timely("transfer_at_is", t.at),
    timely("transfer_alive_at", t.aliveAt),
  ],
);

/** How a shape of file was understood the last time: its columns, by their heads. */
export const fileShape = pgTable(
  "file_shape",
  {
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    /** SHA-256 of the heads of its columns. */
    shape: text().notNull(),
    plan: jsonb().$type<Record<string, unknown>>().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [
    primaryKey({ name: "file_shape_key", columns: [t.workshopId, t.shape] }),
    check("file_shape_hex", sql`${t.shape} ~ '^[0-9a-f]{64}$'`),
    boundedInside("file_shape_plan", t.plan),
    timely("file_shape_at", t.at),
  ],
);

/** A visit from before this product, one row of a spreadsheet. Append-only; it counts while its file was not withdrawn. */
export const pastVisit = pgTable(
  "past_visit",
  {
    workshopId: uuid().notNull(),
    /** The file it came with, and its line there. */
    transferId: uuid().notNull(),
    line: integer().notNull(),
    machineId: uuid().notNull(),
    doneOn: date().notNull(),
    doneBy: text().notNull().default(""),
    work: text().notNull().default(""),
    note: text().notNull().default(""),
    /** SHA-256 of all that is stored of it: the same row is brought in once. */
    hash: text().notNull(),
  },
  (t) => [
    primaryKey({ name: "past_visit_key", columns: [t.workshopId, t.transferId, t.line] }),
    foreignKey({
      name: "past_visit_came_with",
      columns: [t.workshopId, t.transferId],
      foreignColumns: [transfer.workshopId, transfer.id],
    }),
    within("past_visit_to", t, t.machineId, machine),
    index("past_visit_machine").on(t.workshopId, t.machineId, t.doneOn),
    index("past_visit_hash").on(t.workshopId, t.hash),
    check("past_visit_hex", sql`${t.hash} ~ '^[0-9a-f]{64}$'`),
    check(
      "past_visit_words",
      sql`length(${t.doneBy}) <= 200 and length(${t.work}) <= 4000 and length(${t.note}) <= 4000`,
    ),
    bounded("past_visit_line", t.line, 1, 100_000_000),
    timely("past_visit_done_on", t.doneOn),
  ],
);

const PHASES = ["as-found", "as-left"] as const;

/** A figure of such a visit. How it was measured nobody knows any more: it has no uncertainty, and no verdict is spoken over it. */
export const pastFigure = pgTable(
  "past_figure",
  {
    workshopId: uuid().notNull(),
    transferId: uuid().notNull(),
    line: integer().notNull(),
    /** Which of its visit, from 1. */
    no: integer().notNull(),
    ...knobAt(),
    phase: text({ enum: PHASES }).notNull(),
    dimension: text({ enum: DIMENSIONS }).notNull(),
    typed: text().notNull(),
    unit: text().notNull(),
    /** Stored unit */
    value: doublePrecision().notNull(),
  },
  (t) => [
    primaryKey({ name: "past_figure_key", columns: [t.workshopId, t.transferId, t.line, t.no] }),
    foreignKey({
      name: "past_figure_of",
      columns: [t.workshopId, t.transferId, t.line],
      foreignColumns: [pastVisit.workshopId, pastVisit.transferId, pastVisit.line],
    }),
    ...knobAtHolds("past_figure", t),
    oneOf("past_figure_phase", t.phase, PHASES),
    oneOf("past_figure_dimension", t.dimension, DIMENSIONS),
    bounded("past_figure_no", t.no, 1, 100),
    bounded("past_figure_value", t.value, -1000, 1_000_000),
    check("past_figure_words", sql`length(${t.typed}) <= 60 and length(${t.unit}) <= 20`),
  ],
);

/** What a logger wrote down of a shot. Append-only. */
export const shotTrace = pgTable(
  "shot_trace",
  {
    ...record(),
    /** The shot it is of, where somebody said so. */
    shotId: uuid(),
    /** The file it came in. */
    file: text().notNull(),
    trace: jsonb().$type<Trace>().notNull(),
    supersedes: uuid(),
    reason: text().notNull().default(""),
  },
  (t) => [
    ...ofJob("shot_trace", t),
    ...corrects("shot_trace", t, []),
    foreignKey({
      name: "shot_trace_of",
      columns: [t.workshopId, t.jobId, t.shotId],
      foreignColumns: [shot.workshopId, shot.jobId, shot.id],
    }),
    check("shot_trace_file", sql`length(${t.file}) between 1 and 200`),
    check("shot_trace_size", sql`length(${t.trace}::text) <= 1500000`),
    boundedInside("shot_trace_points", t.trace, 1_000_000),
  ],
);

/** Rows of a record that came as a file, until they are looked through and stored. */
export const stagedRecord = pgTable(
  "staged_record",
  {
    workshopId: uuid().notNull(),
    transferId: uuid().notNull(),
    section: text().notNull(),
    /** Which of its section, from 1. */
    no: integer().notNull(),
    /** The visit it belongs to, where it does; of a visit its own. */
    jobId: uuid(),
    /** Visits of one machine are stored one after the other: when it is this one’s turn. */
    turn: integer().notNull().default(0),
    row: jsonb().$type<Record<string, unknown>>().notNull(),
  },
  (t) => [
    primaryKey({ name: "staged_record_key", columns: [t.workshopId, t.transferId, t.section, t.no] }),
    index("staged_record_job").on(t.workshopId, t.transferId, t.section, t.jobId),
    foreignKey({
      name: "staged_record_of",
      columns: [t.workshopId, t.transferId],
      foreignColumns: [transfer.workshopId, transfer.id],
    }),
    bounded("staged_record_no", t.no, 1, 100_000_000),
    bounded("staged_record_turn", t.turn, 0, 100_000),
  ],
);

export const TOKEN_SCOPES = ["read", "append"] as const;

/** A program’s way in: it may what the person may who made it, as far as its scopes go. Only its hash is kept. */
export const apiToken = pgTable(
  "api_token",
  {
    tokenHash: text().primaryKey(),
    id: uuid().notNull(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    accountId: uuid().notNull(),
    name: text().notNull(),
    scopes: text({ enum: TOKEN_SCOPES }).array().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    expiresAt: timestamp({ withTimezone: true }).notNull(),
    /** To a few minutes. */
    usedAt: timestamp({ withTimezone: true }),
    revokedAt: timestamp({ withTimezone: true }),
  },
  (t) => [
    unique("api_token_id").on(t.workshopId, t.id),
    within("api_token_of", t, t.accountId, account),
    check("api_token_hex", sql`${t.tokenHash} ~ '^[0-9a-f]{64}$'`),
    check("api_token_name", sql`length(${t.name}) between 2 and 80`),
    check("api_token_scopes", sql`cardinality(${t.scopes}) between 1 and 2 and ${t.scopes} <@ array['read', 'append']`),
    timely("api_token_at", t.at),
    timely("api_token_expires", t.expiresAt),
    timely("api_token_used", t.usedAt),
    timely("api_token_revoked", t.revokedAt),
  ],
);

/** A calendar that others subscribe to: unguessable, revocable. */
export const calendarLink = pgTable(
  "calendar_link",
  {
    id: uuid().notNull(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    /** As of an owner’s link. */
    tokenHash: text().notNull(),
    by: uuid().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    revokedAt: timestamp({ withTimezone: true }),
  },
  (t) => [
    primaryKey({ name: "calendar_link_key", columns: [t.workshopId, t.id] }),
    uniqueIndex("calendar_link_token_hash").on(t.tokenHash),
    within("calendar_link_by", t, t.by, account),
    check("calendar_link_hash", sql`${t.tokenHash} ~ '^[0-9a-f]{64}$'`),
    timely("calendar_link_at", t.at),
    timely("calendar_link_revoked", t.revokedAt),
  ],
);
