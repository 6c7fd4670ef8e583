import {
  type AnyPgColumn,
  doublePrecision,
  boolean,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { sql } from "drizzle-orm";
import { BUTTONS, GROUPS } from "../../core/knobs";
import type { Pull } from "../../core/shot";
import { VERDICTS } from "../../core/metrology";
import { corrects, job, ofJob, record } from "./jobs";
import { bounded, boundedInside, oneOf, timely, within } from "./bounds";
import { instrument, machine } from "./register";

/** Calibration shots, the clock they are timed with, and the programmes of the buttons. All append-only; the database refuses else. */

/** A clock of one shot: it begins with its first tap, and ends with the shot that was timed with it. */
export const shotClock = pgTable("shot_clock", { ...record() }, (t) => ofJob("shot_clock", t));

/** A tap and a shot belong to a clock of their own job. */
const byClock = (name: string, t: Record<"workshopId" | "jobId" | "clockId", AnyPgColumn>) =>
  foreignKey({
    name,
    columns: [t.workshopId, t.jobId, t.clockId],
    foreignColumns: [shotClock.workshopId, shotClock.jobId, shotClock.id],
  });

export const shot = pgTable(
  "shot",
  {
    ...record(),
    /** Which try of the job; a correction keeps the number of what it corrects. */
    sequence: integer().notNull(),
    pull: jsonb().$type<Pull>().notNull(),
    /** As typed, field by field. */
    typed: jsonb().$type<Record<string, string>>().notNull().default({}),
    /** Scale used, by its name and as the instrument it is, and the standard uncertainties of dose and yield it gives, g. */
    scale: text().notNull().default(""),
    scaleId: uuid(),
    scaleOutOfDate: boolean().notNull().default(false),
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
    ...ofJob("shot", t),
    ...corrects("shot", t, []),
    within("shot_weighed_on", t, t.scaleId, instrument),
    byClock("shot_timed_by", t),
    index("shot_used").on(t.workshopId, t.scaleId),
    index("shot_of_clock")
      .on(t.workshopId, t.clockId)
      .where(sql`clock_id is not null`),
    bounded("shot_sequence", t.sequence, 1, 100_000),
    boundedInside("shot_pull", t.pull),
    bounded("shot_u_dose", t.uDose, 0, 1000),
    bounded("shot_u_yield", t.uYield, 0, 1000),
  ],
);

const TAPS = ["pump", "first-drop", "stop", "cleared"] as const;

/** One tap of a shot’s clock. Each thing is tapped once. */
export const shotTap = pgTable(
  "shot_tap",
  {
    ...record(),
    clockId: uuid().notNull(),
    what: text({ enum: TAPS }).notNull(),
    /** When it was tapped, by the clock of the phone carried over to the server’s. */
    moment: timestamp({ withTimezone: true }).notNull(),
  },
  (t) => [
    ...ofJob("shot_tap", t),
    byClock("shot_tap_of_clock", t),
    uniqueIndex("shot_tap_once").on(t.clockId, t.what),
    oneOf("shot_tap_what", t.what, TAPS),
    timely("shot_tap_moment_is", t.moment),
  ],
);

/** What a button of a machine was left giving, and what coffee, grind and dose that holds for. Written with the signature. */
export const programme = pgTable(
  "programme",
  {
    id: uuid().notNull(),
    workshopId: uuid().notNull(),
    jobId: uuid().notNull(),
    machineId: uuid().notNull(),
    /** Which button of which group. */
    group: smallint("group_no").notNull(),
    button: text({ enum: BUTTONS }).notNull(),
    at: timestamp({ withTimezone: true }).notNull(),
    /** g: wanted, mean of the shots that verified it, their spread, and how many they were */
    target: doublePrecision().notNull(),
    mean: doublePrecision().notNull(),
    sd: doublePrecision(),
    shots: integer().notNull(),
    verdict: text({ enum: VERDICTS }).notNull(),
    coffee: text().notNull().default(""),
    grinder: text().notNull().default(""),
    setting: doublePrecision(),
    dose: doublePrecision(),
    /** The machine was set back to its factory values before it was taught. */
    afterReset: boolean().notNull().default(false),
  },
  (t) => [
    within("programme_of_job", t, t.jobId, job),
    within("programme_on_machine", t, t.machineId, machine),
    primaryKey({ name: "programme_key", columns: [t.workshopId, t.jobId, t.group, t.button] }),
    index("programme_newest").on(t.workshopId, t.machineId, t.group, t.button, t.at.desc()),
    oneOf("programme_button", t.button, BUTTONS),
    oneOf("programme_verdict", t.verdict, VERDICTS),
    timely("programme_at", t.at),
    bounded("programme_group", t.group, 1, GROUPS.length),
    bounded("programme_target", t.target, 0, 10_000),
    bounded("programme_mean", t.mean, -1000, 1_000_000),
    bounded("programme_sd", t.sd, 0, 1_000_000),
    bounded("programme_shots", t.shots, 1, 100_000),
    bounded("programme_setting", t.setting, -100_000, 100_000),
    bounded("programme_dose", t.dose, 0, 1000),
  ],
);
