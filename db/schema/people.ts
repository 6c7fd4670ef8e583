import type { KeySettings } from "../../core/keys";
import { type SchoolsOf, USUAL_SCHOOLS } from "../../core/school";
import { sql } from "drizzle-orm";
import {
  type AnyPgColumn,
  bigint,
  boolean,
  check,
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
  varchar,
} from "drizzle-orm/pg-core";
import { bytes } from "./bytes";
import { bounded, boundedInside, oneOf, timely, within } from "./bounds";

const SESSION_WAYS = ["password", "passkey", "pin"] as const;
export const LINK_KINDS = ["invite", "reset"] as const;
export const ACCOUNT_EVENTS = [
  "signed-in",
  "wrong-password",
  "wrong-code",
  "took-over",
  "wrong-pin",
  "password",
  "reset",
  "reset-link",
  "role",
  "let-go",
  "taken-in",
  "factor-on",
  "factor-off",
  "factor-required",
  "factor-free",
  "pin",
  "no-pin",
  "passkey",
  "no-passkey",
  "wrong-passkey",
  "tablet",
  "no-tablet",
  "token",
  "no-token",
  "ended",
  "refused",
] as const;
export const DECISION_RULES = ["simple", "guarded"] as const;
export const ROLES = ["technician", "lead"] as const;
export const PRESSURE_UNITS = ["bar", "psi", "kPa", "MPa"] as const;
export const PAPERS = ["A4", "Letter"] as const;

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
    /** In which pressure is shown to those who did not choose for themselves, and on which paper is printed. */
    pressureUnit: text({ enum: PRESSURE_UNITS }).notNull().default("bar"),
    paper: text({ enum: PAPERS }).notNull().default("A4"),
    /** What prices are in, as it is written before them; "" where the workshop names none. */
    currency: text().notNull().default(""),
    /** PNG, as it stands on what the owner takes away. */
    logo: bytes(),
    /** Whoever has a password here needs a second factor beside it. */
    factorRequired: boolean().notNull().default(false),
  },
  (t) => [
    oneOf("workshop_decision_rule", t.decisionRule, DECISION_RULES),
    oneOf("workshop_pressure_unit", t.pressureUnit, PRESSURE_UNITS),
    oneOf("workshop_paper", t.paper, PAPERS),
    check("workshop_currency", sql`length(${t.currency}) <= 5`),
    check("workshop_logo", sql`length(${t.logo}) <= 300000`),
    check("workshop_time_zone", sql`${t.timeZone} <> '' and length(${t.timeZone}) < 65`),
  ],
);

export interface Preferences {
  pressureUnit: (typeof PRESSURE_UNITS)[number];
  theme: "system" | "light" | "dark";
  /** When a timer is due. Absent: sound on, notifications not asked for yet. */
  alerts?: { sound: boolean; notify: "ask" | "on" | "off" };
  /** Single keys. Absent: on, as they usually are. */
  keys?: KeySettings;
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
    /** Second factor: the secret of its one-time codes, sealed with a key that is not in the database, and the last step used. */
    totpSecret: text(),
    totpStep: bigint({ mode: "number" }).notNull().default(0),
    /** SHA-256 of what is left of the codes for a lost phone. */
    recovery: jsonb().$type<string[]>().notNull().default([]),
    /** For the quick switch on a tablet of the workshop; argon2id, PHC string. */
    pinHash: text(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    uniqueIndex("account_email").on(t.email),
    unique("account_in_workshop").on(t.workshopId, t.id),
    oneOf("account_role", t.role, ROLES),
    bounded("account_totp_step", t.totpStep, 0, 1e12),
    boundedInside("account_recovery", t.recovery),
  ],
);

/** What happens to what opens accounts, for the workshop’s lead. No secret stands in it, and nothing that was typed. */
export const accountEvent = pgTable(
  "account_event",
  {
    id: uuid().primaryKey().defaultRandom(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
    what: text({ enum: ACCOUNT_EVENTS }).notNull(),
    /** Whose account, and who did it. */
    accountId: uuid().notNull(),
    by: uuid().notNull(),
    /** On which device, in words; what it was called. */
    about: text().notNull().default(""),
  },
  (t) => [
    within("account_event_of", t, t.accountId, account),
    within("account_event_by", t, t.by, account),
    index("account_event_newest").on(t.workshopId, t.at.desc()),
    oneOf("account_event_what", t.what, ACCOUNT_EVENTS),
    timely("account_event_at_is", t.at),
    check("account_event_about", sql`length(${t.about}) <= 120`),
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
    /** The name it goes by where a person looks at their own: nothing is opened with it. */
    id: uuid().notNull().defaultRandom(),
    /** Whatever it did, it ends then. */
    expiresAt: timestamp({ withTimezone: true }).notNull(),
    createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
    /** When it last asked for anything, to a few minutes: an idle one ends sooner. */
    seenAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
    /** When whoever uses it last showed the password, or a code: changes to what opens an account ask for that not long ago. */
    provenAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
    /** Browser and system, in words. */
    about: text().notNull().default(""),
    /** How it was opened: with the password, a passkey, or a PIN on a tablet of the workshop. */
    way: text({ enum: SESSION_WAYS }).notNull().default("password"),
    /** Of a tablet’s session: the tablet. */
    tablet: text().references((): AnyPgColumn => benchTablet.tokenHash, { onDelete: "cascade" }),
  },
  (t) => [
    index("session_account").on(t.accountId),
    unique("session_id").on(t.id),
    timely("session_expires", t.expiresAt),
    timely("session_seen", t.seenAt),
    timely("session_proven", t.provenAt),
    oneOf("session_way_word", t.way, SESSION_WAYS),
    check("session_of_tablet", sql`(${t.tablet} is not null) = (${t.way} = 'pin')`),
  ],
);

/** A tablet on the bench that somebody with a password let the others switch on by PIN. */
export const benchTablet = pgTable(
  "bench_tablet",
  {
    /** SHA-256 of its cookie’s token. */
    tokenHash: text().primaryKey(),
    id: uuid().notNull().defaultRandom(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    name: text().notNull(),
    enrolledBy: uuid().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    unique("bench_tablet_id").on(t.workshopId, t.id),
    within("bench_tablet_enrolled_by", t, t.enrolledBy, account),
  ],
);

/** A link that opens one thing once: the way in for somebody new, or a new password. Only its hash is kept. */
export const oneTimeLink = pgTable(
  "one_time_link",
  {
    tokenHash: text().primaryKey(),
    id: uuid().notNull(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    what: text({ enum: LINK_KINDS }).notNull(),
    /** Who it is for: of an invitation as it was typed, of a reset the account’s own. */
    email: text().notNull(),
    name: text().notNull(),
    role: text({ enum: ROLES }).notNull(),
    /** Of a reset. */
    accountId: uuid(),
    madeBy: uuid().notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    expiresAt: timestamp({ withTimezone: true }).notNull(),
    usedAt: timestamp({ withTimezone: true }),
  },
  (t) => [
    unique("one_time_link_id").on(t.workshopId, t.id),
    index("one_time_link_of").on(t.workshopId, t.at),
    within("one_time_link_made_by", t, t.madeBy, account),
    within("one_time_link_for", t, t.accountId, account),
    oneOf("one_time_link_what_word", t.what, LINK_KINDS),
    oneOf("one_time_link_role", t.role, ROLES),
    check("one_time_link_account", sql`(${t.accountId} is not null) = (${t.what} = 'reset')`),
    timely("one_time_link_at_is", t.at),
    timely("one_time_link_expires", t.expiresAt),
    timely("one_time_link_used", t.usedAt),
  ],
);

/** Keys that devices of a person hold (WebAuthn): each opens the account with that device and whatever unlocks it. Only public halves are kept. */
export const passkey = pgTable(
  "passkey",
  {
    id: uuid().notNull(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    accountId: uuid().notNull(),
    /** The name the device knows it by; base64url. */
    credentialId: text().notNull(),
    /** COSE key. */
    publicKey: bytes().notNull(),
    /** What the device has counted to: one that goes back was copied. Zero where the device does not count. */
    counter: bigint({ mode: "number" }).notNull(),
    /** How the device is reached, as it said. */
    transports: jsonb().$type<string[]>().notNull(),
    name: text().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
    usedAt: timestamp({ withTimezone: true }),
  },
  (t) => [
    primaryKey({ name: "passkey_key", columns: [t.workshopId, t.id] }),
    uniqueIndex("passkey_credential").on(t.credentialId),
    index("passkey_of").on(t.workshopId, t.accountId),
    within("passkey_account", t, t.accountId, account),
    check(
      "passkey_credential_word",
      sql`${t.credentialId} ~ '^[A-Za-z0-9_-]+$' and length(${t.credentialId}) between 16 and 1400`,
    ),
    check("passkey_public_key", sql`length(${t.publicKey}) between 16 and 4000`),
    bounded("passkey_counter", t.counter, 0, 4_294_967_295),
    boundedInside("passkey_transports", t.transports),
    check("passkey_name", sql`length(${t.name}) between 1 and 40`),
    timely("passkey_at", t.at),
    timely("passkey_used", t.usedAt),
  ],
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
