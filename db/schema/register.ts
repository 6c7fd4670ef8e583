import { KIND_IDS, type KindId, type ModelCard } from "../../core/kind";
import { type ErrorStatement, INSTRUMENT_QUANTITIES, PLACES } from "../../core/metrology";
import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  unique,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { bounded, boundedInside, oneOf, timely, within } from "./bounds";
import { workshop } from "./people";

/** What the workshop works on and with: models, owners' machines at their sites, and the kit. */

const WAYS = ["clockwise", "anticlockwise"] as const;
const GAUGE_PLACES = ["group", "pump", "none"] as const;

export const model = pgTable(
  "model",
  {
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
    opvRaises: text({ enum: WAYS }).notNull(),
    /** Rating plate, hydraulics, what is permitted: what of it differs from the kind's usual. */
    card: jsonb().$type<Partial<ModelCard>>().notNull().default({}),
  },
  (t) => [
    unique("model_in_workshop").on(t.workshopId, t.id),
    oneOf("model_kind", t.kind, KIND_IDS),
    oneOf("model_opv_raises", t.opvRaises, WAYS),
    bounded("model_opv_response", t.opvResponse, 0.1, 10),
    bounded("model_opv_response_sd", t.opvResponseSd, 0.01, 5),
    boundedInside("model_card", t.card),
  ],
);

export const owner = pgTable(
  "owner",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    name: text().notNull(),
    /** Phone or address, as the workshop keeps it. */
    contact: text().notNull().default(""),
  },
  // One of a name, however many register a machine of theirs at once.
  (t) => [
    uniqueIndex("owner_name").on(t.workshopId, sql`lower(${t.name})`),
    unique("owner_in_workshop").on(t.workshopId, t.id),
  ],
);

export const site = pgTable(
  "site",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    ownerId: uuid().notNull(),
    name: text().notNull(),
    town: text().notNull(),
    /** Metres above the sea: decides at what temperature water boils. */
    altitude: doublePrecision().notNull().default(0),
    /** What is known of the water, in words: softened, well, mains. */
    water: text().notNull().default(""),
  },
  (t) => [
    uniqueIndex("site_named").on(t.workshopId, t.ownerId, sql`lower(${t.name})`),
    unique("site_in_workshop").on(t.workshopId, t.id),
    within("site_owner", t, t.ownerId, owner),
    // What the standard atmosphere describes.
    bounded("site_altitude", t.altitude, -500, 5000),
  ],
);

export const machine = pgTable(
  "machine",
  {
    id: uuid().primaryKey(),
    workshopId: uuid()
      .notNull()
      .references(() => workshop.id),
    modelId: uuid().notNull(),
    siteId: uuid().notNull(),
    serial: text().notNull(),
    installedOn: date(),
    /** The gauge is a property of the machine: it may have been moved. */
    gaugePlace: text({ enum: GAUGE_PLACES }).notNull(),
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
    uniqueIndex("machine_serial").on(t.workshopId, sql`lower(${t.serial})`),
    unique("machine_in_workshop").on(t.workshopId, t.id),
    within("machine_of_model", t, t.modelId, model),
    within("machine_at_site", t, t.siteId, site),
    index("machine_by_site").on(t.workshopId, t.siteId),
    index("machine_by_model").on(t.workshopId, t.modelId),
    oneOf("machine_gauge_place", t.gaugePlace, GAUGE_PLACES),
    timely("machine_installed_on", t.installedOn),
    // Words of one workshop’s machines: those of all others with the same words are not looked at.
    index("machine_words").using("gin", t.workshopId, t.search.op("gin_trgm_ops")),
    index("machine_register").on(t.workshopId, t.search, t.id),
    bounded("machine_gauge_to_group", t.gaugeToGroup, -20, 20),
    bounded("machine_gauge_to_group_u", t.gaugeToGroupU, 0, 10),
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
    machineId: uuid(),
    /** The thing itself: a corrected certificate or a new name makes a new row of the same thing. */
    itemId: uuid().notNull(),
    name: text().notNull(),
    quantity: text({ enum: INSTRUMENT_QUANTITIES }).notNull().default("pressure"),
    /** Where a pressure gauge sits; of no meaning for others. */
    place: text({ enum: PLACES }).notNull(),
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
  (t) => [
    unique("instrument_in_workshop").on(t.workshopId, t.id),
    within("instrument_of_machine", t, t.machineId, machine),
    // The kit is a page; gauges built into machines are as many as machines.
    index("instrument_kit")
      .on(t.workshopId, t.position)
      .where(sql`in_kit`),
    index("instrument_built_in").on(t.workshopId, t.machineId),
    index("instrument_item").on(t.workshopId, t.itemId),
    oneOf("instrument_quantity", t.quantity, INSTRUMENT_QUANTITIES),
    oneOf("instrument_place", t.place, PLACES),
    bounded("instrument_position", t.position, -1_000_000, 1_000_000),
    timely("instrument_calibrated_on", t.calibratedOn),
    timely("instrument_due_on", t.dueOn),
    bounded("instrument_lowest", t.lowest, -300, 100_000),
    bounded("instrument_highest", t.highest, -300, 100_000),
    check("instrument_span", sql`${t.lowest} < ${t.highest}`),
    check("instrument_resolution", sql`${t.resolution} > 0 and ${t.resolution} <= ${t.highest} - ${t.lowest}`),
    check(
      "instrument_repeatability",
      sql`${t.repeatability} >= 0 and ${t.repeatability} <= ${t.highest} - ${t.lowest}`,
    ),
    boundedInside("instrument_error", t.error, 100_000),
    boundedInside("instrument_corrections", t.corrections, 100_000),
  ],
);
