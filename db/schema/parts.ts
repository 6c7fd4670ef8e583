import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  doublePrecision,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { bounded, timely, within } from "./bounds";
import { job } from "./jobs";
import { account, workshop } from "./people";

/** Parts the workshop keeps: what they are, what they fit, and what came and went. */

export const part = pgTable(
  "part",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    name: text().notNull(),
    number: text().notNull().default(""),
    /** Models it fits; none: any. */
    fits: uuid()
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** What lies on the shelf: the sum of what came and went. */
    stock: integer().notNull().default(0),
    /** It is ordered once no more than so many are left; null where nobody keeps it. */
    reorderAt: integer(),
    /** In the workshop’s currency. */
    price: doublePrecision(),
    /** Put away: lines that name it keep it. */
    active: boolean().notNull().default(true),
  },
  (t) => [
    unique("part_in_workshop").on(t.workshopId, t.id),
    uniqueIndex("part_name").on(t.workshopId, sql`lower(${t.name})`, sql`lower(${t.number})`),
    check("part_named", sql`length(${t.name}) between 2 and 120 and length(${t.number}) <= 80`),
    check("part_fits", sql`cardinality(${t.fits}) <= 1000`),
    bounded("part_stock", t.stock, 0, 1_000_000),
    bounded("part_reorder_at", t.reorderAt, 0, 1_000_000),
    bounded("part_price", t.price, 0, 1_000_000),
  ],
);

/** What came onto the shelf or was taken from it. Append-only: a mistake is set right by another. */
export const partMove = pgTable(
  "part_move",
  {
    id: uuid().notNull(),
    workshopId: uuid().notNull(),
    partId: uuid().notNull(),
    /** Above zero it came, below it went. */
    count: integer().notNull(),
    reason: text().notNull().default(""),
    /** The job it was taken for. */
    jobId: uuid(),
    by: uuid().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ name: "part_move_key", columns: [t.workshopId, t.id] }),
    within("part_move_of", t, t.partId, part),
    within("part_move_for", t, t.jobId, job),
    within("part_move_by", t, t.by, account),
    index("part_move_of_part").on(t.workshopId, t.partId, t.at),
    index("part_move_for_job").on(t.workshopId, t.jobId),
    bounded("part_move_count", t.count, -1_000_000, 1_000_000),
    check("part_move_some", sql`${t.count} <> 0`),
    check("part_move_reason", sql`length(${t.reason}) <= 500`),
    timely("part_move_at_is", t.at),
  ],
);
