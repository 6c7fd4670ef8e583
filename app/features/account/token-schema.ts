import { z } from "zod";
import { said } from "~server/fields";
import { commandId } from "~server/web";

/** The form that makes a token for a program. */

export const tokenSchema = z.object({
  commandId,
  name: said(80, 2, "Say which program it is for."),
  scopes: z.array(z.enum(["read", "append"])).min(1, "Choose what it may do: one thing at least."),
  days: z.enum(["30", "90", "365"], "Choose when it ends.").transform((days) => Number(days)),
});
