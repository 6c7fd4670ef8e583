import { z } from "zod";

/** Fields that many forms share. */

/** Words, cut of blanks at both ends, up to `max` characters. */
export const text = (max: number) => z.string().trim().max(max, `Keep it under ${max} characters.`);

/** A day as date fields send it, or none. Days that are in no calendar are refused. */
export const optionalDay = z
  .union([z.literal("").transform(() => null), z.iso.date("A day of the calendar, like 2027-03-31.")], {
    error: "A day of the calendar, like 2027-03-31.",
  })
  .optional()
  .transform((day, ctx) => {
    if (!day) return null;
    if (day >= "1900") return day;
    ctx.addIssue({ code: "custom", message: "No machine or coffee here is that old. Check the year." });
    return z.NEVER;
  });

/** Words that must be there; the message is for when they aren't. An empty field arrives as none at all. */
export const said = (max: number, least: number, missing: string) =>
  z.string(missing).trim().min(least, missing).max(max, `Keep it under ${max} characters.`);

/** A box to tick: a form says “yes” or nothing, JSON true or false. */
export const yes = z
  .string()
  .optional()
  .transform((x) => x === "yes")
  .meta({ tick: true });

/** Names of fields that come with a list: so many of them at most. */
const MOST_NUMBERED = 40;

/** Answers by number, in fields named `c0`, `c1` …; null where none was sent at all. @param letter before the number */
export const numbered = <T extends string>(letter: string, value: z.ZodType<T | "">) =>
  z
    .record(z.string().max(40), value)
    .default({})
    .transform((given) =>
      Object.keys(given).length === 0
        ? null
        : Array.from({ length: MOST_NUMBERED }, (_, i) => (given[`${letter}${i}`] || null) as T | null),
    );
