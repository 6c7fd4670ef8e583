import { integer, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { SpecLine } from "../../core/spec";
import { bounded, boundedInside } from "./bounds";
import { account, workshop } from "./people";

/** Spec cards: a card has versions, a version never changes, a job pins one. */

export const specCard = pgTable(
  "spec_card",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    name: text().notNull(),
    about: text().notNull().default(""),
    /** One of the cards every workshop starts with; a published definition is not rewritten. */
    origin: text({ enum: ["own", "trade", "certified-italian", "sca"] })
      .notNull()
      .default("own"),
  },
  (t) => [uniqueIndex("spec_card_name").on(t.workshopId, t.name)],
);

export const specVersion = pgTable(
  "spec_version",
  {
    id: uuid().primaryKey(),
    cardId: uuid()
      .notNull()
      .references(() => specCard.id),
    version: integer().notNull(),
    lines: jsonb().$type<SpecLine[]>().notNull(),
    by: uuid().references(() => account.id),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    uniqueIndex("spec_version_number").on(t.cardId, t.version),
    bounded("spec_version_version", t.version, 1, 100_000),
    boundedInside("spec_version_lines", t.lines),
  ],
);
