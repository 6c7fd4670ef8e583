import { z } from "zod";
import { MOST_ROWS, PAGE_ROWS } from "~server/api/pages";

const one = z.string().max(500);

/** What may stand behind the question mark. */
export const pageQuery = z.strictObject({
  machine_id: z.uuid("A machine’s id.").optional().describe("Rows of this machine alone."),
  visit_id: z.uuid("A visit’s id.").optional().describe("Rows of this visit alone, where the table has visits."),
  after: one.optional().describe("Where the page before ended: its “after”. None: from the first row."),
  limit: z.coerce
    .number("A whole number.")
    .int("A whole number.")
    .min(1, "One at least.")
    .max(MOST_ROWS, `${MOST_ROWS} at most.`)
    .default(PAGE_ROWS)
    .describe("Rows of a page."),
});
