import { integer, jsonb, pgTable, text, timestamp, unique, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { SpecLine } from "../../core/spec";
import { bounded, boundedInside, oneOf, within } from "./bounds";
import { account, workshop } from "./people";

/** Spec cards: a card has versions, a version never changes, a job pins one. */

const ORIGINS = ["own", "trade", "certified-italian", "sca"] as const;

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
    origin: text({ enum: ORIGINS }).notNull().default("own"),
  },
  (t) => [
    uniqueIndex("spec_card_name").on(t.workshopId, t.name),
    unique("spec_card_in_workshop").on(t.workshopId, t.id),
    oneOf("spec_card_origin", t.origin, ORIGINS),
  ],
);

export const specVersion = pgTable(
  "spec_version",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    cardId: uuid().notNull(),
    version: integer().notNull(),
    lines: jsonb().$type<SpecLine[]>().notNull(),
    by: uuid(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    uniqueIndex("spec_version_of_card").on(t.workshopId, t.cardId, t.version),
    unique("spec_version_in_workshop").on(t.workshopId, t.id),
    within("spec_version_card", t, t.cardId, specCard),
    within("spec_version_by", t, t.by, account),
    bounded("spec_version_version", t.version, 1, 100_000),
    boundedInside("spec_version_lines", t.lines),
  ],
);
