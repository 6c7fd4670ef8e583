import { z } from "zod";

/** Fields that many forms share. */

/** Words, cut of blanks at both ends, up to `max` characters. */
export const text = (max: number) => z.string().trim().max(max, `Keep it under ${max} characters.`);

/** Words that must be there; the message is for when they aren't. An empty field arrives as none at all. */
export const said = (max: number, least: number, missing: string) =>
  z.string(missing).trim().min(least, missing).max(max, `Keep it under ${max} characters.`);
