import { GAUGE_SEATS } from "../../core/job";
import type { Wanted } from "../../core/spec";
import { KIND_IDS, type KindId, type ModelCard } from "../../core/kind";
import { type ErrorStatement, INSTRUMENT_QUANTITIES, PLACES } from "../../core/metrology";
import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  date,
  doublePrecision,
  foreignKey,
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
} from "drizzle-orm/pg-core";
import { bounded, boundedInside, oneOf, timely, within } from "./bounds";
import { account, workshop } from "./people";

/** What the workshop works on and with: models, owners' machines at their sites, and the kit. */

const WAYS = ["clockwise", "anticlockwise"] as const;

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
    /** Added by a technician: to be looked over by a lead. */
    review: boolean().notNull().default(false),
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
    /** Address, or whatever else the workshop keeps. */
    contact: text().notNull().default(""),
    /** As it is dialled. */
    phone: text().notNull().default(""),
    email: text().notNull().default(""),
    /** The same person under another name: this entry is that one. */
    mergedInto: uuid(),
  },
  // One of a name, however many register a machine of theirs at once.
  (t) => [
    uniqueIndex("owner_name").on(t.workshopId, sql`lower(${t.name})`),
    unique("owner_in_workshop").on(t.workshopId, t.id),
    foreignKey({ name: "owner_merged", columns: [t.workshopId, t.mergedInto], foreignColumns: [t.workshopId, t.id] }),
    check("owner_merged_another", sql`${t.mergedInto} <> ${t.id}`),
    check("owner_phone", sql`${t.phone} = '' or ${t.phone} ~ '^[+]?[0-9][0-9 ()/.-]{3,38}$'`),
    check(
      "owner_email",
      sql`${t.email} = '' or (${t.email} ~ '^[^[:space:]@]+@[^[:space:]@]+$' and length(${t.email}) <= 254)`,
    ),
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
    gaugePlace: text({ enum: GAUGE_SEATS }).notNull(),
    /** In the workshop’s own words, where the place alone does not say it. */
    gaugeWords: text().notNull().default(""),
    /** Bar to add for the pressure at the group, and its standard uncertainty. */
    gaugeToGroup: doublePrecision().notNull().default(0),
    gaugeToGroupU: doublePrecision().notNull().default(0),
    modifications: text().notNull().default(""),
    /** A valve before the group throttles the flow. */
    flowControl: boolean().notNull().default(false),
    /** Bar on the pump’s label: its dead-end pressure. */
    pumpLabel: doublePrecision(),
    /** Values its owner wants, over those of the spec. */
    wanted: jsonb().$type<Wanted>().notNull().default({}),
    /** The machine that a grinder serves. */
    serves: uuid(),
    coffee: text().notNull().default(""),
    grinder: text().notNull().default(""),
    /** Doubles a day, about: decides when water and gaskets have had enough of it. */
    shotsPerDay: integer(),
    /** The day it went out of service; null while it works. */
    retiredOn: date(),
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
    oneOf("machine_gauge_place", t.gaugePlace, GAUGE_SEATS),
    timely("machine_installed_on", t.installedOn),
    timely("machine_retired_on", t.retiredOn),
    bounded("machine_shots_per_day", t.shotsPerDay, 1, 5000),
    // Words of one workshop’s machines: those of all others with the same words are not looked at.
    index("machine_words").using("gin", t.workshopId, t.search.op("gin_trgm_ops")),
    index("machine_register").on(t.workshopId, t.search, t.id),
    bounded("machine_gauge_to_group", t.gaugeToGroup, -20, 20),
    bounded("machine_gauge_to_group_u", t.gaugeToGroupU, 0, 10),
    bounded("machine_pump_label", t.pumpLabel, 1, 30),
    boundedInside("machine_wanted", t.wanted),
    foreignKey({ name: "machine_serves", columns: [t.workshopId, t.serves], foreignColumns: [t.workshopId, t.id] }),
    index("machine_served")
      .on(t.workshopId, t.serves)
      .where(sql`serves is not null`),
    check("machine_serves_another", sql`${t.serves} <> ${t.id}`),
  ],
);

const CHANGES = ["modification", "gauge", "moved", "retired", "returned"] as const;

/** What was changed on a machine, and when: modifications, where its gauge sat, whose it was and where. Append-only; the newest gauge line is where it sits now. */
export const machineChange = pgTable(
  "machine_change",
  {
    id: uuid().notNull(),
    workshopId: uuid().notNull(),
    machineId: uuid().notNull(),
    kind: text({ enum: CHANGES }).notNull(),
    /** The day it was done. */
    doneOn: date().notNull(),
    text: text().notNull(),
    /** Who did it, in words: not always somebody of this workshop. */
    doneBy: text().notNull().default(""),
    gaugePlace: text({ enum: GAUGE_SEATS }),
    /** Bar to add for the pressure at the group, and its standard uncertainty. */
    gaugeToGroup: doublePrecision(),
    gaugeToGroupU: doublePrecision(),
    by: uuid().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ name: "machine_change_key", columns: [t.workshopId, t.machineId, t.id] }),
    within("machine_change_of", t, t.machineId, machine),
    within("machine_change_by", t, t.by, account),
    oneOf("machine_change_kind", t.kind, CHANGES),
    oneOf("machine_change_gauge_place", t.gaugePlace, GAUGE_SEATS),
    check("machine_change_gauge", sql`(${t.kind} = 'gauge') = (${t.gaugePlace} is not null)`),
    bounded("machine_change_to_group", t.gaugeToGroup, -20, 20),
    bounded("machine_change_to_group_u", t.gaugeToGroupU, 0, 10),
    timely("machine_change_done_on", t.doneOn),
    timely("machine_change_moment", t.at),
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
    /** ± a year, and the gap between rising and falling, where the papers state them. */
    driftPerYear: doublePrecision(),
    hysteresis: doublePrecision(),
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
    check("instrument_drift", sql`${t.driftPerYear} >= 0 and ${t.driftPerYear} <= ${t.highest} - ${t.lowest}`),
    check("instrument_hysteresis", sql`${t.hysteresis} >= 0 and ${t.hysteresis} <= ${t.highest} - ${t.lowest}`),
    boundedInside("instrument_error", t.error, 100_000),
    boundedInside("instrument_corrections", t.corrections, 100_000),
  ],
);
