import { z } from "zod";
import { SPEC_QUANTITIES, type SpecLine, type SpecQuantity } from "~core/spec";
import { commandId } from "~server/web";
import { said, text } from "~server/fields";

const QUANTITIES = Object.keys(SPEC_QUANTITIES) as SpecQuantity[];
const PARTS = ["lower", "target", "upper", "condition", "source"] as const;

/** A card's limits, a row a quantity: what is left empty the card says nothing about. */
export const specSchema = z
  .object({
    commandId,
    name: said(80, 2, "Give the spec a name."),
    about: text(300).default(""),
    usual: z.string().max(10).optional(),
    ...Object.fromEntries(
      QUANTITIES.flatMap((quantity) => PARTS.map((part) => [`${quantity}-${part}`, z.string().max(200).default("")])),
    ),
  })
  .transform((given, ctx) => {
    const fields: Record<string, unknown> = given;
    const lines: SpecLine[] = [];
    for (const quantity of QUANTITIES) {
      const word = (part: string) => String(fields[`${quantity}-${part}`] ?? "").trim();
      const limit = (part: string): number | undefined => {
        const typed = word(part);
        if (typed === "") return undefined;
        const value = Number(typed.replace(",", "."));
        if (!Number.isFinite(value) || value < 0 || value > 2000)
          ctx.addIssue({
            code: "custom",
            path: [`${quantity}-lower`],
            message: `“${typed.slice(0, 20)}” is not a number.`,
          });
        return value;
      };
      const [lower, target, upper] = [limit("lower"), limit("target"), limit("upper")];
      if (lower === undefined && upper === undefined) {
        if (target !== undefined)
          ctx.addIssue({ code: "custom", path: [`${quantity}-lower`], message: "A target needs at least one limit." });
        continue;
      }
      if (lower !== undefined && upper !== undefined && lower >= upper)
        ctx.addIssue({
          code: "custom",
          path: [`${quantity}-lower`],
          message: "The lower limit must lie below the upper one.",
        });
      if (target !== undefined && (target < (lower ?? -Infinity) || target > (upper ?? Infinity)))
        ctx.addIssue({
          code: "custom",
          path: [`${quantity}-lower`],
          message: "The target must lie inside the limits.",
        });
      lines.push({
        quantity,
        ...(lower === undefined ? {} : { lower }),
        ...(target === undefined ? {} : { target }),
        ...(upper === undefined ? {} : { upper }),
        condition: word("condition").slice(0, 100),
        source: word("source").slice(0, 200) || "the workshop’s own",
      });
    }
    if (lines.length === 0) ctx.addIssue({ code: "custom", path: ["name"], message: "Set at least one limit." });
    return {
      commandId: given.commandId,
      input: { name: given.name, about: given.about, usual: given.usual === "yes", lines },
    };
  });

export function specValues(name: string, about: string, lines: readonly SpecLine[]): Record<string, string> {
  const values: Record<string, string> = { name, about };
  for (const l of lines)
    for (const part of PARTS) values[`${l.quantity}-${part}`] = l[part] === undefined ? "" : String(l[part]);
  return values;
}
