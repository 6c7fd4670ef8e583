import { type SchoolsOf, USUAL_SCHOOLS } from "../../core/school";
import { sql } from "drizzle-orm";
import {
  bigint,
  boolean,
  check,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
  varchar,
} from "drizzle-orm/pg-core";
import { bounded, oneOf, timely } from "./bounds";

export const DECISION_RULES = ["simple", "guarded"] as const;
const ROLES = ["technician", "lead"] as const;

/** Workshops and the people in them. Every other record belongs to one workshop. */

export const workshop = pgTable(
  "workshop",
  {
    id: uuid().primaryKey(),
    name: text().notNull(),
    town: text().notNull(),
    /** What the owner's page says to call. */
    contact: text().notNull(),
    /** IANA name of the zone its days and hours are told in. */
    timeZone: text().notNull().default("UTC"),
    /** Schools picked for the workshop; a job may override. */
    schools: jsonb().$type<SchoolsOf>().notNull().default(USUAL_SCHOOLS),
    /** The card new jobs are held against, one of its own (a key made by hand: tables that need each other); null until one is picked. */
    specCardId: uuid(),
    decisionRule: text({ enum: DECISION_RULES }).notNull().default("guarded"),
  },
  (t) => [
    oneOf("workshop_decision_rule", t.decisionRule, DECISION_RULES),
    check("workshop_time_zone", sql`${t.timeZone} <> '' and length(${t.timeZone}) < 65`),
  ],
);

export interface Preferences {
  pressureUnit: "bar" | "psi" | "kPa" | "MPa";
  theme: "system" | "light" | "dark";
  /** When a timer is due. Absent: sound on, notifications not asked for yet. */
  alerts?: { sound: boolean; notify: "ask" | "on" | "off" };
}

export const account = pgTable(
  "account",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    email: text().notNull(),
    name: text().notNull(),
    role: text({ enum: ROLES }).notNull(),
    /** argon2id, PHC string. */
    passwordHash: text().notNull(),
    preferences: jsonb().$type<Preferences>().notNull(),
    active: boolean().notNull().default(true),
  },
  (t) => [
    uniqueIndex("account_email").on(t.email),
    unique("account_in_workshop").on(t.workshopId, t.id),
    oneOf("account_role", t.role, ROLES),
  ],
);

export const session = pgTable(
  "session",
  {
    /** SHA-256 of the cookie's token: a stolen table opens no session. */
    tokenHash: text().primaryKey(),
    accountId: uuid()
      .notNull()
      .references(() => account.id),
    expiresAt: timestamp({ withTimezone: true }).notNull(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [index("session_account").on(t.accountId), timely("session_expires", t.expiresAt)],
);

/** Devices that have signed in to an account: somebody else’s wrong tries do not hold them up. */
export const knownDevice = pgTable(
  "known_device",
  {
    tokenHash: text().primaryKey(),
    accountId: uuid()
      .notNull()
      .references(() => account.id),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [index("known_device_account").on(t.accountId)],
);

/** Wrong tries at signing in, counted by rate-limiter-flexible: its columns, made here so that no two requests make them at once. */
export const signInAttempt = pgTable(
  "sign_in_attempt",
  {
    key: varchar({ length: 255 }).primaryKey(),
    points: integer().notNull().default(0),
    expire: bigint({ mode: "number" }),
  },
  (t) => [bounded("sign_in_attempt_points", t.points, -1_000_000_000, 1_000_000_000)],
);
