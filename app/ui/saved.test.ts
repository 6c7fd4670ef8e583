import { noteSaved, noteSent, savedAs, savedBy } from "./saved";

const post = (fields: Record<string, string> = {}) =>
  new Request("http://here.invalid/jobs/1", { method: "POST", body: new URLSearchParams(fields) });
const sentOn = (to: string) => new Response(null, { status: 302, headers: { Location: to } });
const wrapped = (answer: object) => ({ type: "DataWithResponseInit", data: answer, init: { status: 200 } });

test("what was sent is told as saved only once it is, with what it was sent as", () => {
  noteSent("one", { reading: "9.1" });
  expect(savedAs("one")).toBeNull();
  noteSaved("one");
  expect(savedAs("one")).toEqual({ reading: "9.1" });
  expect(savedAs("never sent")).toBeNull();
  // Sent by the browser itself, and answered here.
  noteSaved("two");
  expect(savedAs("two")).toEqual({});
});

test("a list without an end is none: the oldest are forgotten", () => {
  for (let i = 0; i < 60; i++) noteSent(`many-${i}`, {});
  noteSaved("many-59");
  expect(savedAs("many-59")).toEqual({});
  noteSent("one more", {});
  expect(savedAs("one")).toBeNull();
});

test.each([
  ["saved", post(), { outcome: "saved", commandId: "a" }, "a"],
  ["saved, wrapped with its status", post(), wrapped({ outcome: "saved", commandId: "a" }), "a"],
  ["refused", post({ commandId: "a" }), { outcome: "refused", commandId: "a" }, null],
  ["not reached", post({ commandId: "a" }), { outcome: "unreachable" }, null],
  ["sent on to what was made", post({ commandId: "b" }), sentOn("/machines/1"), "b"],
  ["sent to sign in", post({ commandId: "b" }), sentOn("/sign-in?to=%2F"), null],
  ["not found", post({ commandId: "b" }), new Response(null, { status: 404 }), null],
  ["sent on without a command", post(), sentOn("/"), null],
  ["nothing", post(), null, null],
])("an answer that says: %s", async (_what, request, answer, saved) => {
  expect(await savedBy(request, answer)).toBe(saved);
});
