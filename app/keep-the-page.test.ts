import { keepThePage } from "./keep-the-page";
import { savedAs } from "./ui/saved";
import { unreachable } from "./ui/unreachable";

/** What a page makes of requests that went nowhere. */

beforeAll(() => {
  // A browser without a connection: it looks for the server by and by, which is not waited for here.
  const nothing = () => {};
  Object.assign(globalThis, {
    window: { addEventListener: nothing, removeEventListener: nothing },
    navigator: { onLine: false },
    setTimeout: nothing,
  });
});

const nowhere = new TypeError("Failed to fetch");
const request = (method: string) => new Request("http://here.invalid/jobs/1", { method });
const asked = (method: string, result: { type: "data" | "error"; result: unknown }, more: object = {}) =>
  keepThePage({ request: request(method), params: { jobId: "1" }, ...more }, () => Promise.resolve({ sheet: result }));

test.each([
  ["thrown as it is", nowhere],
  ["wrapped with a status", { type: "DataWithResponseInit", data: nowhere, init: {} }],
])("a form that went nowhere, %s, is answered in the server’s own shape", async (_how, error) => {
  expect(await asked("POST", { type: "error", result: error })).toEqual({
    sheet: { type: "data", result: unreachable() },
  });
  expect(unreachable().result.error[""]).toEqual([expect.stringMatching(/^Not saved: no connection\./)]);
});

test("what the server itself refused, and what went wrong in the page, stay what they are", async () => {
  const broken = { type: "error" as const, result: new Error("broken") };
  expect(await asked("POST", broken)).toEqual({ sheet: broken });
  const refused = { type: "data" as const, result: { outcome: "refused" } };
  expect(await asked("POST", refused)).toEqual({ sheet: refused });
});

test("a page never loaded says that it was not reached; a part’s own question comes to nothing", async () => {
  const error = { type: "error" as const, result: nowhere };
  expect(await asked("GET", error)).toEqual({ sheet: error });
  expect(await asked("GET", error, { fetcherKey: "search" })).toEqual({ sheet: { type: "data", result: null } });
});

test("what the server has is known by its command before anything of it is drawn", async () => {
  await asked("POST", { type: "data", result: { outcome: "saved", commandId: "saved-1" } });
  expect(savedAs("saved-1")).not.toBeNull();
  await asked("POST", { type: "data", result: { outcome: "clash", commandId: "clash-1" } });
  expect(savedAs("clash-1")).toBeNull();
});
