import { z } from "zod";
import { DAY_ORDERS, REGISTER_FIELD_IDS } from "~core/intake";
import { KIND_IDS } from "~core/kind";
import { numbered } from "~server/fields";
import { commandId } from "~server/web";

/** The forms of a spreadsheet of machines: the file, then what its columns and its models are. */

/** Letters of such a file. Our choice: thousands of machines. */
const LONGEST = 1_500_000;
/** Bytes that a form with such a file may have. */
export const TABLE_BYTES = 4 * 1024 * 1024;
const TOO_LONG = "This file is larger than a register: 1.5 MB at most.";
const answers = {
  column: numbered("c", z.enum(["", ...REGISTER_FIELD_IDS], "Choose from the list.")),
  /** A model of the library by its id, or a kind for a new one. */
  model: numbered("m", z.union([z.literal(""), z.uuid(), z.enum(KIND_IDS)], "Choose from the list.")),
  dayOrder: z
    .enum(["", ...DAY_ORDERS])
    .default("")
    .transform((order) => order || null),
};

export const lookSchema = z.object({
  file: z.file("Choose the spreadsheet.").max(LONGEST, TOO_LONG).optional(),
  text: z.string().max(LONGEST, TOO_LONG).optional(),
  ...answers,
});

export const registerSchema = z.object({ commandId, text: z.string().max(LONGEST, TOO_LONG), ...answers });

export type Answers = Pick<z.output<typeof registerSchema>, keyof typeof answers>;
