import { z } from "zod";
import { said, text } from "~server/fields";
import { commandId, id } from "~server/web";

/** The forms of the parts list. */

const count = (name: string) =>
  z
    .string()
    .trim()
    .max(20, `${name}: a whole number.`)
    .regex(/^-?\d+$/, `${name}: a whole number.`)
    .transform(Number)
    .refine((n) => n >= 0 && n <= 1_000_000, `${name}: from 0 to 1,000,000.`);
const orNone = <T extends z.ZodType>(of: T) =>
  z.preprocess((x) => (typeof x === "string" && x.trim() !== "" ? x : null), z.union([z.null(), of]));

const price = z
  .string()
  .trim()
  .max(20)
  .refine((typed) => !/^[1-9]\d{0,2}([.,]\d{3})+$/.test(typed), {
    message: "Price: that can be read two ways. Leave the thousands mark out, or write fewer decimals.",
    abort: true,
  })
  .transform((typed) => Number(typed.replace(",", ".")))
  .refine((n) => Number.isFinite(n), "Price: a number.")
  .refine((n) => n >= 0 && n <= 1_000_000, "Price: from 0 to 1,000,000.");

const about = {
  name: said(120, 2, "What the part is called."),
  number: text(80).default(""),
  fits: z.array(id).max(1000).default([]),
  reorderAt: orNone(count("Order at")),
  price: orNone(price),
};

export const newPartSchema = z.object({ commandId, ...about, stock: orNone(count("On the shelf")) });
export const changePartSchema = z.object({ commandId, id, ...about });
export const countPartSchema = z.object({ commandId, id, stock: count("On the shelf"), reason: text(300).default("") });
export const keepPartSchema = z.object({ commandId, id, active: z.enum(["yes", "no"]).transform((x) => x === "yes") });
export const importPartsSchema = z.object({
  commandId,
  table: z
    .string("Choose a file, or paste a table.")
    .max(200_000, "That is too much at once: 200,000 characters at most.")
    .refine((text) => text.trim() !== "", "Choose a file, or paste a table."),
});
