import { z } from "zod";
import type { OpenColumn, OpenTable } from "../../db/open/table";

/** A row of an open table as a program gets it: the shape that the document for programs promises. */

const VALUES: Readonly<Record<OpenColumn["type"], () => z.ZodType>> = {
  id: () => z.uuid(),
  word: () => z.string(),
  text: () => z.string(),
  number: () => z.number(),
  count: () => z.int(),
  yes: () => z.boolean(),
  day: () => z.iso.date(),
  moment: () => z.iso.datetime({ precision: 3 }),
};

/** An example as it stands in JSON; in the tables all are text. */
function example({ type, example }: OpenColumn): unknown {
  return type === "number" || type === "count" ? Number(example) : type === "yes" ? example === "true" : example;
}

function valueSchema(column: OpenColumn): z.ZodType {
  const value = VALUES[column.type]();
  return (column.empty ? value.nullable() : value).meta({
    description: column.meaning,
    examples: [example(column)],
  });
}

export const rowSchema = ({ columns }: OpenTable) =>
  z.strictObject(Object.fromEntries(columns.map((c) => [c.name, valueSchema(c)])));

export const pageSchema = (table: OpenTable) =>
  z.strictObject({
    rows: z.array(rowSchema(table)),
    after: z
      .string()
      .nullable()
      .meta({ description: "What to send as “after” for the next page; null: this was the last." }),
  });
