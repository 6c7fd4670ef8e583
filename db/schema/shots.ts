import {
  doublePrecision,
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  smallint,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { BUTTONS, GROUPS } from "../../core/knobs";
import type { Pull } from "../../core/shot";
import { job, record } from "./jobs";
import { bounded, boundedInside } from "./bounds";
import { machine } from "./register";

/** Calibration shots, the clock they are timed with, and the programmes of the buttons. All append-only; the database refuses else. */

export const shot = pgTable(
  "shot",
  {
    ...record(),
    /** Which try of the job; a correction keeps the number of what it corrects. */
    sequence: integer().notNull(),
    pull: jsonb().$type<Pull>().notNull(),
    /** As typed, field by field. */
    typed: jsonb().$type<Record<string, string>>().notNull().default({}),
    /** Scale used, and the standard uncertainties of dose and yield it gives, g. */
    scale: text().notNull().default(""),
    uDose: doublePrecision().notNull(),
    uYield: doublePrecision().notNull(),
    /** Pulled before the chosen level of warm-up. */
    early: boolean().notNull().default(false),
    /** The clock it was timed with. */
    clockId: uuid(),
    /** Entered after the job was signed: it stands beside what was signed, and says why. */
    amends: boolean().notNull().default(false),
    supersedes: uuid(),
    reason: text().notNull().default(""),
  },
  (t) => [
    index("shot_job").on(t.jobId, t.sequence),
    uniqueIndex("shot_superseded_once").on(t.supersedes),
    bounded("shot_sequence", t.sequence, 1, 100_000),
    boundedInside("shot_pull", t.pull),
    bounded("shot_u_dose", t.uDose, 0, 1000),
    bounded("shot_u_yield", t.uYield, 0, 1000),
  ],
);

/** One tap of a shot’s clock. Each thing is tapped once. */
export const shotTap = pgTable(
  "shot_tap",
  {
    ...record(),
    clockId: uuid().notNull(),
    what: text({ enum: ["pump", "first-drop", "stop", "cleared"] }).notNull(),
    /** When it was tapped, by the clock of the phone carried over to the server’s. */
    moment: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [index("shot_tap_job").on(t.jobId, t.moment), uniqueIndex("shot_tap_once").on(t.clockId, t.what)],
);

/** What a button of a machine was left giving, and what coffee, grind and dose that holds for. Written with the signature. */
export const programme = pgTable(
  "programme",
  {
    id: uuid().primaryKey(),
    jobId: uuid()
      .notNull()
      .references(() => job.id),
    machineId: uuid()
      .notNull()
      .references(() => machine.id),
    /** Which button of which group. */
    group: smallint("group_no").notNull(),
    button: text({ enum: BUTTONS }).notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    /** g: wanted, mean of the shots that verified it, their spread, and how many they were */
    target: doublePrecision().notNull(),
    mean: doublePrecision().notNull(),
    sd: doublePrecision(),
    shots: integer().notNull(),
    verdict: text({ enum: ["holds", "just holds", "can't tell", "off"] }).notNull(),
    coffee: text().notNull().default(""),
    grinder: text().notNull().default(""),
    setting: doublePrecision(),
    dose: doublePrecision(),
    /** The machine was set back to its factory values before it was taught. */
    afterReset: boolean().notNull().default(false),
  },
  (t) => [
    uniqueIndex("programme_once").on(t.jobId, t.group, t.button),
    index("programme_machine").on(t.machineId, t.at.desc()),
    bounded("programme_group", t.group, 1, GROUPS.length),
    bounded("programme_target", t.target, 0, 10_000),
    bounded("programme_mean", t.mean, -1000, 1_000_000),
    bounded("programme_sd", t.sd, 0, 1_000_000),
    bounded("programme_shots", t.shots, 1, 100_000),
    bounded("programme_setting", t.setting, -100_000, 100_000),
    bounded("programme_dose", t.dose, 0, 1000),
  ],
);
