import { DrizzleQueryError } from "drizzle-orm";
import { traceOf } from "./log";

const TYPED = "the owner’s own words";

test("an error is told by kind and place, never by what somebody typed", () => {
  const refused = Object.assign(new Error(`invalid input syntax: "${TYPED}"`), {
    severity: "ERROR",
    code: "22P02",
    detail: `Key (name)=(${TYPED}) exists`,
    table: "note",
    constraint: "note_text",
  });
  for (const error of [
    new DrizzleQueryError("insert into note values ($1)", [TYPED], refused),
    new SyntaxError(`Unexpected token in "${TYPED}"`),
    new RangeError(`${TYPED}\n    at typed (made-up.ts:1:1)`),
    new Error(TYPED, { cause: refused }),
    { message: TYPED },
    TYPED,
  ]) {
    const trace = JSON.stringify(traceOf(error));
    expect(trace).not.toContain(TYPED);
    expect(trace).not.toContain("made-up");
  }
  expect(traceOf(new DrizzleQueryError("insert", [TYPED], refused))).toMatchObject({
    database: { code: "22P02", table: "note", constraint: "note_text" },
    at: expect.arrayContaining([expect.stringContaining("log.test.ts")]),
  });
});

test("the language’s own words about the program are kept", () => {
  expect(traceOf(new TypeError("x is not a function")).error).toBe("TypeError: x is not a function");
});
