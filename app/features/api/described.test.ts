import { readFileSync } from "node:fs";
import { Validator } from "@seriousme/openapi-schema-validator";
import openapiTS, { astToString } from "openapi-typescript";
import { z } from "zod";
import { BEGIN, LINES } from "./appends";
import { formFrom } from "./body";
import { openApi } from "./described";
import { camel, snake } from "./names";
import { yes } from "~server/fields";

interface Described {
  paths: Record<string, Record<string, unknown>>;
  components: { schemas: Record<string, { properties: Record<string, { description?: string }>; required: string[] }> };
}

test("the document holds for a validator of OpenAPI 3.1, and is the one in docs/", async () => {
  const found = await new Validator().validate(openApi());
  expect(found).toEqual({ valid: true });
  expect(JSON.parse(readFileSync("docs/openapi.json", "utf8"))).toEqual(openApi());
  // It does not let everything through.
  expect((await new Validator().validate({ ...openApi(), info: {} })).valid).toBe(false);
});

test("the generated client is of this document", async () => {
  const source = astToString(
    await openapiTS(JSON.parse(readFileSync("docs/openapi.json", "utf8")) as never, { defaultNonNullable: false }),
  );
  expect(readFileSync("e2e/programs-client.d.ts", "utf8")).toContain(source.trim());
}, 60_000);

test("every field of what is appended is explained, and none is a browser’s own", () => {
  const { components } = openApi() as unknown as Described;
  for (const name of Object.keys(components.schemas).filter((n) => /^(Begin|Append)/.test(n))) {
    const { properties, required } = components.schemas[name]!;
    const silent = Object.entries(properties).filter(([, p]) => !p.description);
    expect([name, silent]).toEqual([name, []]);
    expect(required).toContain("command_id");
    expect(Object.keys(properties)).not.toContain("intent");
  }
});

describe("JSON as a form", () => {
  const schema = z.object({
    commandId: z.string(),
    setPoint: z.string().default(""),
    sure: yes,
    photos: z.array(z.string()).default([]),
  });
  const sent = (json: unknown) => {
    const body = formFrom(json, schema);
    return "errors" in body ? body.errors : [...body.form];
  };

  test("figures as they are written, boxes ticked by true, lists as many, null as nothing", () => {
    expect(sent({ command_id: "a", set_point: 93.5, sure: true, photos: ["x", "y"] })).toEqual([
      ["commandId", "a"],
      ["setPoint", "93.5"],
      ["sure", "yes"],
      ["photos", "x"],
      ["photos", "y"],
    ]);
    expect(sent({ command_id: "a", set_point: null, sure: false })).toEqual([["commandId", "a"]]);
  });

  test("what is no such thing is said at its name", () => {
    expect(sent([1])).toEqual([{ field: "", message: "One JSON object, please." }]);
    expect(sent(null)).toHaveLength(1);
    expect(sent({ setpoint: 1, __proto: 2, intent: "sign" })).toEqual(
      ["setpoint", "__proto", "intent"].map((field) => ({ field, message: "There is no such field." })),
    );
    expect(sent({ set_point: { a: 1 }, photos: [["x"]], sure: [true] })).toEqual(
      ["set_point", "photos", "sure"].map((field) => ({ field, message: "Text, a number, or true or false." })),
    );
    expect(sent(JSON.parse('{"__proto__": 1}'))).toEqual([{ field: "__proto__", message: "There is no such field." }]);
  });

  test("names go there and back", () => {
    for (const name of ["commandId", "returnedMl", "a", "preInfusion"]) expect(camel(snake(name))).toBe(name);
    expect(Object.keys(LINES)).toEqual(["notes", "ticks", "entries", "readings", "moves", "shots", "work-lines"]);
    expect(BEGIN.schema.safeParse({}).success).toBe(false);
  });
});
