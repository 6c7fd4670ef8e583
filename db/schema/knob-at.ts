import { type SQL, sql } from "drizzle-orm";
import { check, smallint, text } from "drizzle-orm/pg-core";
import { BUTTONS, GROUPS, KNOB_IDS } from "../../core/knobs";

/** Which knob of a machine a row is about; group and button only where the knob belongs to one. */
export const knobAt = () => ({
  knob: text({ enum: KNOB_IDS }).notNull(),
  group: smallint("group_no"),
  button: text({ enum: BUTTONS }),
});

/** Groups are counted from 1, and a button is always one of a group. */
export const knobAtHolds = (name: string, t: { group: unknown; button: unknown }) =>
  check(
    `${name}_at`,
    sql`(${t.group as SQL} is null) = (${t.button as SQL} is null) and coalesce(${t.group as SQL}, 1) between 1 and ${sql.raw(String(GROUPS.length))}`,
  );
