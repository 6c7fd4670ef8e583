import { z } from "zod";
import { LOGGER_COLUMN_IDS } from "~core/logger";
import { numbered, text } from "~server/fields";
import { commandId } from "~server/web";
import { perhaps } from "./schema";

/** The forms of a logger’s trace: the file, then what its columns are. */

/** Letters of a logger’s file. Our choice: ten minutes at 30 lines a second. */
const LONGEST = 1_500_000;
/** Bytes that a form with such a file may have. */
export const TRACE_BYTES = 4 * 1024 * 1024;
const TOO_LONG = "This file is longer than a shot’s trace: 1.5 MB at most. Leave one shot in it.";

const columns = numbered("c", z.enum(["", ...LOGGER_COLUMN_IDS], "Choose from the list."));

const name = text(200).default("");
const content = z.string().max(LONGEST, TOO_LONG);

export const readSchema = z.object({
  file: z.file("Choose the logger’s file.").max(LONGEST, TOO_LONG).optional(),
  name,
  text: content.optional(),
  column: columns,
});

export const traceSchema = z.object({
  commandId,
  name,
  text: content,
  column: columns,
  shotId: perhaps,
  supersedes: perhaps,
  reason: text(300).default(""),
});
