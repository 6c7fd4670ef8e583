import { z } from "zod";
import { commandId } from "~server/web";
import { optionalDay, said, text } from "~server/fields";

/** The form of a register entry, as the server takes it. */

const number = (name: string, least: number, most: number) =>
  z
    .string()
    .trim()
    .default("")
    .transform((typed, ctx) => {
      const value = Number(typed.replace(",", ".") || 0);
      if (Number.isFinite(value) && value >= least && value <= most) return value;
      ctx.addIssue({ code: "custom", message: `${name}: a figure from ${least} to ${most}.` });
      return z.NEVER;
    });

export const machineSchema = z.object({
  commandId,
  modelId: z.uuid("Choose a model from the library."),
  serial: said(60, 1, "Type the serial as it stands on the plate."),
  owner: said(120, 1, "Whose machine is it?"),
  contact: text(200).default(""),
  site: said(120, 1, "Where does it stand?"),
  town: said(80, 1, "In which town?"),
  altitude: number("Altitude in metres", -400, 5000),
  water: text(300).default(""),
  installedOn: optionalDay,
  gaugePlace: z.enum(["group", "pump", "none"], "Say where its gauge sits."),
  gaugeToGroup: number("Bar to add for the group", -3, 1),
  modifications: text(1000).default(""),
  coffee: text(120).default(""),
  grinder: text(120).default(""),
});
