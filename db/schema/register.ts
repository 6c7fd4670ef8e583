import type { KindId, ModelCard } from "../../core/kind";
import { INSTRUMENT_QUANTITIES } from "../../core/loop";
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
  /** Rating plate, hydraulics, what is permitted: what of it differs from the kind's usual. */
  card: jsonb().$type<Partial<ModelCard>>().notNull().default({}),
});

export const owner = pgTable("owner", {
  id: uuid().primaryKey(),
  workshopId: uuid()
    .notNull()
    .references(() => workshop.id),
  name: text().notNull(),
  /** Phone or address, as the workshop keeps it. */
  contact: text().notNull().default(""),
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
  /** Metres above the sea: decides at what temperature water boils. */
  altitude: doublePrecision().notNull().default(0),
  /** What is known of the water, in words: softened, well, mains. */
  water: text().notNull().default(""),
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
    coffee: text().notNull().default(""),
    grinder: text().notNull().default(""),
    /** Owner, serial, maker, model, site, town in lower case, kept up by triggers for search as you type. */
    search: text().notNull().default(""),
  },
  (t) => [
    uniqueIndex("machine_serial").on(t.workshopId, t.serial),
    index("machine_site").on(t.siteId),
    index("machine_model").on(t.modelId),
    index("machine_search").using("gin", t.search.op("gin_trgm_ops")),
    index("machine_register").on(t.workshopId, t.search, t.id),
  ],
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
    quantity: text({ enum: INSTRUMENT_QUANTITIES }).notNull().default("pressure"),
    /** Where a pressure gauge sits; of no meaning for others. */
    place: text({ enum: ["group", "pump", "boiler", "line"] }).notNull(),
    lowest: doublePrecision().notNull(),
    highest: doublePrecision().notNull(),
    resolution: doublePrecision().notNull(),
    error: jsonb().$type<ErrorStatement>().notNull(),
    repeatability: doublePrecision().notNull(),
    corrections: jsonb().$type<[number, number][]>(),
    calibratedOn: date(),
    dueOn: date(),
    /** Serial, make, where it lies: the workshop’s own words. */
    note: text().notNull().default(""),
    inKit: boolean().notNull().default(true),
    position: integer().notNull().default(0),
  },
  (t) => [index("instrument_workshop").on(t.workshopId), index("instrument_machine").on(t.machineId)],
);
