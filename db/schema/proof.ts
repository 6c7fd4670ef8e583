import { sql } from "drizzle-orm";
import { bigint, check, index, integer, pgTable, primaryKey, text, timestamp, unique, uuid } from "drizzle-orm/pg-core";
import { ABOUT_IDS, LONGEST_AMENDMENT } from "../../core/job";
import { bounded, oneOf, timely, within } from "./bounds";
import { job, ofJob, record } from "./jobs";
import { workshop } from "./people";
import { machine } from "./register";
import { bytes } from "./bytes";

/** What makes a signed record provable: a statement of all it rests on, chained to the machine’s one before, under the workshop’s key. */

/** The public halves of a workshop’s keys: the private ones are never in the database. */
export const workshopKey = pgTable(
  "workshop_key",
  {
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    /** SHA-256 of the public key, DER. */
    id: text().notNull(),
    /** SPKI, PEM. */
    publicKey: text().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    unique("workshop_key_id").on(t.workshopId, t.id),
    check("workshop_key_id_hex", sql`${t.id} ~ '^[0-9a-f]{64}$'`),
    timely("workshop_key_at_is", t.at),
  ],
);

/** An owner’s own word that a machine was handed over as its card says. Append-only, after the signature, each under a statement of its own. */
export const acknowledgement = pgTable(
  "acknowledgement",
  {
    id: uuid().notNull(),
    workshopId: uuid().notNull(),
    jobId: uuid().notNull(),
    name: text().notNull(),
    /** PNG, as it was drawn. */
    drawing: bytes().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ name: "acknowledgement_key", columns: [t.workshopId, t.jobId, t.id] }),
    within("acknowledgement_of", t, t.jobId, job),
    check("acknowledgement_name", sql`length(${t.name}) between 2 and 100`),
    check("acknowledgement_drawing", sql`length(${t.drawing}) between 1 and 60000`),
    timely("acknowledgement_at_is", t.at),
  ],
);

/** Words added to a signed job by the workshop: beside what was signed, each under a statement of its own. Append-only. */
export const amendment = pgTable(
  "amendment",
  { ...record(), about: text({ enum: ABOUT_IDS }).notNull(), text: text().notNull() },
  (t) => [
    ...ofJob("amendment", t),
    oneOf("amendment_about", t.about, ABOUT_IDS),
    check("amendment_text", sql`length(${t.text}) between 3 and ${sql.raw(String(LONGEST_AMENDMENT))}`),
  ],
);

/**
 * Papers as they were made, by what they were made of: the same document and additions are the same paper. Kept to be handed out again;
 * what is missing is made anew.
 */
export const paper = pgTable(
  "paper",
  {
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    /** SHA-256 of all that is on it. */
    key: text().notNull(),
    /** PDF. */
    data: bytes().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ name: "paper_key", columns: [t.workshopId, t.key] }),
    check("paper_key_hex", sql`${t.key} ~ '^[0-9a-f]{64}$'`),
    check("paper_data", sql`length(${t.data}) between 1 and 50000000`),
    timely("paper_at_is", t.at),
  ],
);

export const seal = pgTable(
  "seal",
  {
    workshopId: uuid().notNull(),
    jobId: uuid().notNull(),
    machineId: uuid().notNull(),
    /** Of what was added after the signature: the record’s id. */
    amends: uuid(),
    /** Which of its machine, counted from 1. */
    no: integer().notNull(),
    /** The statement, as it was signed: JSON text. */
    content: text().notNull(),
    /** SHA-256 of the statement: what the machine’s next one names. */
    hash: text().notNull(),
    keyId: text().notNull(),
    /** Ed25519 over the statement, base64. */
    signature: text().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    /** In which order seals were made in all: what a nightly look goes on from. */
    sequence: bigint({ mode: "number" }).generatedAlwaysAsIdentity().notNull(),
  },
  (t) => [
    unique("seal_of_job").on(t.workshopId, t.jobId, t.amends).nullsNotDistinct(),
    unique("seal_of_machine").on(t.workshopId, t.machineId, t.no),
    index("seal_sequence").on(t.workshopId, t.sequence),
    within("seal_job", t, t.jobId, job),
    within("seal_machine", t, t.machineId, machine),
    bounded("seal_no", t.no, 1, 1_000_000_000),
    check("seal_hash_hex", sql`${t.hash} ~ '^[0-9a-f]{64}$'`),
    timely("seal_at_is", t.at),
  ],
);
