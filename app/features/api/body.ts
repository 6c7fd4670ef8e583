import type { z } from "zod";
import type { FieldProblem } from "~server/api/problem";
import { fieldsOf } from "~server/form-fields";
import { camel } from "./names";

/** What a program sends, as the form that a person would have sent: the same schemas understand both. */

export type Body = { readonly form: FormData } | { readonly errors: readonly FieldProblem[] };

type Plain = string | number | boolean | null;
const isPlain = (value: unknown): value is Plain =>
  value === null || ["string", "number", "boolean"].includes(typeof value);

/** A figure is taken as it is written; a box is ticked by true; null is a field that was left empty. */
const typed = (value: Plain): string | null =>
  value === null || value === false ? null : value === true ? "yes" : String(value);

/** @param json as it was parsed */
export function formFrom(json: unknown, schema: z.ZodType): Body {
  if (typeof json !== "object" || json === null || Array.isArray(json))
    return { errors: [{ field: "", message: "One JSON object, please." }] };
  const { names, many } = fieldsOf(schema);
  const form = new FormData();
  const errors: FieldProblem[] = [];
  for (const [name, value] of Object.entries(json)) {
    const field = camel(name);
    const values: unknown[] = Array.isArray(value) && many.has(field) ? value : [value];
    if (!names.has(field) || field === "intent") errors.push({ field: name, message: "There is no such field." });
    else if (!values.every(isPlain)) errors.push({ field: name, message: "Text, a number, or true or false." });
    else for (const one of values.map(typed)) if (one !== null) form.append(field, one);
  }
  return errors.length > 0 ? { errors } : { form };
}
