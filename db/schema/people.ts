import { boolean, index, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from "drizzle-orm/pg-core";

/** Workshops and the people in them. Every other record belongs to one workshop. */

export const workshop = pgTable("workshop", {
  id: uuid().primaryKey(),
  name: text().notNull(),
  town: text().notNull(),
  /** What the owner's page says to call. */
  contact: text().notNull(),
  /** Schools picked for the workshop; a job may override. */
  opvSchool: text({ enum: ["regulate", "ceiling"] })
    .notNull()
    .default("regulate"),
  decisionRule: text({ enum: ["simple", "guarded"] })
    .notNull()
    .default("guarded"),
});

export interface Preferences {
  pressureUnit: "bar" | "psi" | "kPa" | "MPa";
  theme: "system" | "light" | "dark";
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
    role: text({ enum: ["technician", "lead"] }).notNull(),
    /** argon2id, PHC string. */
    passwordHash: text().notNull(),
    preferences: jsonb().$type<Preferences>().notNull(),
    active: boolean().notNull().default(true),
  },
  (t) => [uniqueIndex("account_email").on(t.email)],
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
  (t) => [index("session_account").on(t.accountId)],
);
