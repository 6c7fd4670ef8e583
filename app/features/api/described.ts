import { z } from "zod";
import { BEGIN, LINES } from "./appends";
import { meaningOf } from "./meanings";
import { snake } from "./names";
import { pageQuery } from "./table-query";
import type { OpenTable } from "~db/open/table";
import { OPEN_TABLES } from "~db/open/tables";
import { PER_MINUTE } from "~server/api/limits";
import { hasVisits, isById } from "~server/api/pages";
import { pageSchema, rowSchema } from "~server/api/rows";

/** The document for programs (OpenAPI 3.1): made of the columns of the open tables and of the schemas that forms go by. */

type Json = Record<string, unknown>;

/** As it is sent, without what only a person’s browser needs. */
function schemaOf(schema: z.ZodType, io: "input" | "output"): Json {
  const made = z.toJSONSchema(schema, {
    io,
    unrepresentable: "any",
    override: ({ jsonSchema }) => {
      // Forms say “yes”, programs true. A format says all that its pattern does.
      if (jsonSchema.tick === true) Object.assign(jsonSchema, { type: "boolean", tick: undefined });
      if (jsonSchema.format) delete jsonSchema.pattern;
      // As far as whole numbers go at all.
      if (jsonSchema.maximum === Number.MAX_SAFE_INTEGER) {
        delete jsonSchema.minimum;
        delete jsonSchema.maximum;
      }
    },
  }) as Json;
  delete made.$schema;
  return JSON.parse(JSON.stringify(made)) as Json;
}

/** What is appended, with its names as the tables have them. */
function bodySchema(of: string, { schema }: Pick<typeof BEGIN, "schema">): Json {
  const { properties = {}, required = [] } = schemaOf(schema, "input") as {
    properties?: Record<string, Json>;
    required?: string[];
  };
  const fields = Object.entries(properties).map(([name, field]): [string, Json] => {
    return [snake(name), { ...field, description: meaningOf(of, snake(name)) }];
  });
  return {
    type: "object",
    properties: Object.fromEntries(fields),
    required: required.map(snake),
    additionalProperties: false,
  };
}

const ref = (kind: "schemas" | "responses", name: string) => ({ $ref: `#/components/${kind}/${name}` });
const json = (schema: Json) => ({ "application/json": { schema } });

const REFUSED = {
  "401": "Unknown",
  "403": "Forbidden",
  "404": "Nothing",
  "422": "Refused",
  "429": "TooMany",
  "503": "Down",
};
const refusals = (...statuses: (keyof typeof REFUSED)[]) =>
  Object.fromEntries(statuses.map((status) => [status, ref("responses", REFUSED[status])]));

const named = (name: string) =>
  name
    .split(/[-_]/)
    .map((part) => part[0]!.toUpperCase() + part.slice(1))
    .join("");

const pathId = (name: string, description: string) => ({
  name,
  in: "path",
  required: true,
  description,
  schema: { type: "string", format: "uuid" },
});

const TAG = { ETag: { schema: { type: "string" }, description: "For If-None-Match." } };
const HELD = { name: "If-None-Match", in: "header", schema: { type: "string" }, description: "Tags of what you have." };

function parametersOf(table: OpenTable): Json[] {
  const { properties } = schemaOf(pageQuery, "input") as { properties: Record<string, Json> };
  const takes: Readonly<Record<string, boolean>> = { machine_id: table.machine !== null, visit_id: hasVisits(table) };
  const asked = Object.entries(properties).filter(([name]) => takes[name] ?? true);
  return [...asked.map(([name, { description, ...schema }]) => ({ name, in: "query", description, schema })), HELD];
}

function readOf(table: OpenTable): Record<string, Json> {
  const { plural, name, about } = table;
  const page = {
    operationId: `list${named(plural)}`,
    summary: about,
    parameters: parametersOf(table),
    responses: {
      "200": {
        description: `Rows in the order of ${table.key.join(", ")}.`,
        headers: { ...TAG, Link: { schema: { type: "string" }, description: "The next page, where there is one." } },
        content: json(ref("schemas", `${named(name)}Page`)),
      },
      "304": { description: "You have it already." },
      ...refusals("401", "403", "422", "429", "503"),
    },
  };
  if (!isById(table)) return { [`/${plural}`]: { get: page } };
  const one = {
    operationId: `get${named(name)}`,
    summary: about,
    parameters: [pathId("id", "Its id"), HELD],
    responses: {
      "200": { description: "The row.", headers: TAG, content: json(ref("schemas", named(name))) },
      "304": { description: "You have it already." },
      ...refusals("401", "403", "404", "429", "503"),
    },
  };
  return { [`/${plural}`]: { get: page }, [`/${plural}/{id}`]: { get: one } };
}

function appendOf(what: string, about: string, body: string, parameters: Json[]): Json {
  const done = (description: string) => ({ description, content: json(ref("schemas", "Saved")) });
  return {
    operationId: `append${named(what)}`,
    summary: about,
    ...(parameters.length > 0 ? { parameters } : {}),
    requestBody: { required: true, content: json(ref("schemas", body)) },
    responses: {
      "200": done("It was saved before; nothing changed."),
      "201": done("Saved."),
      "409": ref("responses", "Clash"),
      ...refusals("401", "403", "404", "422", "429", "503"),
    },
  };
}

const problemSchema = z.strictObject({
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  errors: z.array(z.strictObject({ field: z.string(), message: z.string() })),
});

const savedSchema = z.strictObject({ id: z.uuid(), outcome: z.enum(["done", "repeated"]) });

const responses = {
  Unknown: "No token, or one that opens nothing.",
  Forbidden: "Not this token’s, or not this person’s to do.",
  Nothing: "Nothing by that name in this workshop.",
  Refused: "Not understood or not allowed now: which field, and why. Nothing was saved.",
  Clash: "This command_id was saved with other content before.",
  TooMany: "Too many requests: Retry-After says how long to wait.",
  Down: "The records do not answer now. Sending the same again is safe.",
};

export function openApi(): Json {
  const paths: Record<string, Json> = Object.assign({}, ...OPEN_TABLES.map(readOf)) as Record<string, Json>;
  paths["/visits"] = { ...paths["/visits"], post: appendOf("visit", BEGIN.about, "BeginVisit", []) };
  for (const [what, { about }] of Object.entries(LINES))
    paths[`/visits/{visit_id}/${what}`] = {
      post: appendOf(what, about, `Append${named(what)}`, [pathId("visit_id", "The visit, open")]),
    };
  return {
    openapi: "3.1.0",
    info: {
      title: "Nimble Gauge for programs",
      version: "1",
      summary: "The records of one workshop: read page by page, and appended to.",
      description: `A token stands for the person who made it, as far as its scopes go. ${PER_MINUTE} requests a minute. What columns mean stands in docs/formats.md too.`,
    },
    servers: [{ url: "/api/v1" }],
    security: [{ token: [] }],
    paths,
    components: {
      securitySchemes: { token: { type: "http", scheme: "bearer", description: "Made under “Your access”." } },
      schemas: {
        ...Object.fromEntries(
          OPEN_TABLES.flatMap((t) => [
            [named(t.name), schemaOf(rowSchema(t), "output")],
            [`${named(t.name)}Page`, pageOf(t)],
          ]),
        ),
        BeginVisit: bodySchema("visit", BEGIN),
        ...Object.fromEntries(Object.entries(LINES).map(([what, l]) => [`Append${named(what)}`, bodySchema(what, l)])),
        Saved: schemaOf(savedSchema, "output"),
        Problem: schemaOf(problemSchema, "output"),
      },
      responses: Object.fromEntries(
        Object.entries(responses).map(([name, description]) => [
          name,
          { description, content: { "application/problem+json": { schema: ref("schemas", "Problem") } } },
        ]),
      ),
    },
  };
}

/** The page names its rows’ shape instead of having it in it. */
function pageOf(table: OpenTable): Json {
  const made = schemaOf(pageSchema(table), "output") as { properties: Record<string, Json> };
  made.properties.rows = { type: "array", items: ref("schemas", named(table.name)) };
  return made;
}
