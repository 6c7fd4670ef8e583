import type { PgColumn } from "drizzle-orm/pg-core";
import { FORMAT, FORMAT_VERSION, SECTIONS, type Section, WORKSHOP_FIELDS } from "./sections";

/** The JSON Schema (2020-12) of the records: made from the sections themselves, published as docs/records.schema.json. */

type Schema = Record<string, unknown>;

const MOMENT = "^\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2}\\.\\d{6}Z$";

function typeOf(column: PgColumn): Schema {
  switch (column.columnType) {
    case "PgUUID":
      return { type: "string", format: "uuid" };
    case "PgTimestamp":
      return { type: "string", pattern: MOMENT };
    case "PgDateString":
    case "PgDate":
      return { type: "string", format: "date" };
    case "PgBoolean":
      return { type: "boolean" };
    case "PgInteger":
    case "PgSmallInt":
    case "PgBigInt53":
      return { type: "integer" };
    case "PgDoublePrecision":
      return { type: "number" };
    case "PgText":
      return column.enumValues?.length ? { enum: column.enumValues } : { type: "string" };
    case "PgArray":
      return { type: "array", items: typeOf((column as PgColumn & { baseColumn: PgColumn }).baseColumn) };
    case "PgJsonb":
      return {};
    case "PgJson":
      return { type: "string", description: "JSON text, as it was hashed" };
    default:
      throw new Error(`No schema for ${column.columnType}.`);
  }
}

function fieldSchema(column: PgColumn): Schema {
  const type = typeOf(column);
  if (column.notNull || Object.keys(type).length === 0) return type;
  return { anyOf: [type, { type: "null" }] };
}

function sectionSchema({ about, fields }: Section): Schema {
  return {
    description: about,
    type: "array",
    items: {
      type: "object",
      properties: Object.fromEntries(fields.map((f) => [f.name, fieldSchema(f.column)])),
      required: fields.map((f) => f.name),
      additionalProperties: false,
    },
  };
}

export function recordsSchema(): Schema {
  const text = { type: "string" };
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: "Records of a workshop",
    description:
      "Everything a workshop of Nimble Gauge has written down of some machines. docs/formats.md says what a row means.",
    type: "object",
    properties: {
      format: { const: FORMAT },
      version: { const: FORMAT_VERSION },
      made_at: { type: "string", format: "date-time" },
      scope: { type: "string", pattern: "^(workshop|(owner|machine):[0-9a-f-]{36})$" },
      workshop: {
        type: "object",
        properties: {
          id: { type: "string", format: "uuid" },
          ...{ name: text, town: text, contact: text, time_zone: text, schools: { type: "object" }, currency: text },
          decision_rule: { enum: ["simple", "guarded"] },
          pressure_unit: { enum: ["bar", "psi", "kPa", "MPa"] },
          paper: { enum: ["A4", "Letter"] },
        },
        required: WORKSHOP_FIELDS,
        additionalProperties: false,
      },
      ...Object.fromEntries(SECTIONS.map((s) => [s.name, sectionSchema(s)])),
    },
    required: ["format", "version", "made_at", "scope", "workshop", ...SECTIONS.map((s) => s.name)],
    additionalProperties: false,
  };
}
