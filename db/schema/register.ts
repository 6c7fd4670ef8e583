import type { KindId } from "../../core/kind";
import type { ErrorStatement } from "../../core/metrology";
import {
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { workshop } from "./people";

/** What the workshop works on and with: models, owners' machines at their sites, and the kit. */

export const model = pgTable("model", {
  id: uuid().primaryKey(),
  workshopId: uuid()
    .notNull()
    .references(() => workshop.id),
  maker: text().notNull(),
  name: text().notNull(),
  kind: text().$type<KindId>().notNull(),
  /** Bar per turn to begin with, and its spread. */
  opvResponse: doublePrecision().notNull(),
  opvResponseSd: doublePrecision().notNull(),
  opvRaises: text({ enum: ["clockwise", "anticlockwise"] }).notNull(),
});

export const owner = pgTable("owner", {
  id: uuid().primaryKey(),
  workshopId: uuid()
    .notNull()
    .references(() => workshop.id),
  name: text().notNull(),
});

export const site = pgTable("site", {
  id: uuid().primaryKey(),
  workshopId: uuid()
    .notNull()
    .references(() => workshop.id),
  ownerId: uuid()
    .notNull()
    .references(() => owner.id),
  name: text().notNull(),
  town: text().notNull(),
});

export const machine = pgTable(
  "machine",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    modelId: uuid()
      .notNull()
      .references(() => model.id),
    siteId: uuid()
      .notNull()
      .references(() => site.id),
    serial: text().notNull(),
    installedOn: date(),
    /** The gauge is a property of the machine: it may have been moved. */
    gaugePlace: text({ enum: ["group", "pump", "none"] }).notNull(),
    /** Bar to add for the pressure at the group, and its standard uncertainty. */
    gaugeToGroup: doublePrecision().notNull().default(0),
    gaugeToGroupU: doublePrecision().notNull().default(0),
    modifications: text().notNull().default(""),
  },
  (t) => [uniqueIndex("machine_serial").on(t.workshopId, t.serial), index("machine_site").on(t.siteId)],
);

export const instrument = pgTable(
  "instrument",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    /** Set for a gauge built into one machine. */
    machineId: uuid().references(() => machine.id),
    name: text().notNull(),
    place: text({ enum: ["group", "pump"] }).notNull(),
    lowest: doublePrecision().notNull(),
    highest: doublePrecision().notNull(),
    resolution: doublePrecision().notNull(),
    error: jsonb().$type<ErrorStatement>().notNull(),
    repeatability: doublePrecision().notNull(),
    corrections: jsonb().$type<[number, number][]>(),
    calibratedOn: date(),
    dueOn: date(),
    inKit: boolean().notNull().default(true),
    position: integer().notNull().default(0),
  },
  (t) => [index("instrument_workshop").on(t.workshopId), index("instrument_machine").on(t.machineId)],
);
