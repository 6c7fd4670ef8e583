import { sql } from "drizzle-orm";
import { type AnyPgColumn, check, smallint, text } from "drizzle-orm/pg-core";
import { BUTTONS, GROUPS, KNOB_IDS, LEARNT_IDS } from "../../core/knobs";
import { oneOf } from "./bounds";

/** Which knob of a machine a row is about; group and button only where the knob belongs to one. */
export const knobAt = () => ({
  knob: text({ enum: KNOB_IDS }).notNull(),
  group: smallint("group_no"),
  button: text({ enum: BUTTONS }),
});

/** Which response a row is about: of a knob, or of the grind. */
export const learntAt = () => ({ ...knobAt(), knob: text({ enum: LEARNT_IDS }).notNull() });

/** Groups are counted from 1; a button is always one of a group, and only the knob of that name has one. */
export const knobAtHolds = (
  name: string,
  t: { knob: AnyPgColumn; group: AnyPgColumn; button: AnyPgColumn },
  words: readonly string[] = KNOB_IDS,
) => [
  check(
    `${name}_at`,
    sql`(${t.group} is null) = (${t.button} is null) and (${t.button} is null) = (${t.knob} <> 'button') and coalesce(${t.group}, 1) between 1 and ${sql.raw(String(GROUPS.length))}`,
  ),
  oneOf(`${name}_knob_word`, t.knob, words),
  oneOf(`${name}_button_word`, t.button, BUTTONS),
];
