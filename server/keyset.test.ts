import { markIn, pageAfter } from "./keyset";

test("a mark comes back out of the address it was put in, beside what else was asked", () => {
  const mark = { at: new Date("2026-05-04T09:00:00.123Z"), id: "018f0000-0000-7000-8000-000000000001" };
  const address = pageAfter(mark, { add: "-0,4" });
  const asked = new URLSearchParams(address);
  expect(markIn(asked)).toEqual(mark);
  expect(asked.get("add")).toBe("-0,4");
});

test.each([
  "",
  "after=2026-05-04T09:00:00Z",
  "after=yesterday&id=018f0000-0000-7000-8000-000000000001",
  "after=2026-05-04T09:00:00Z&id=1",
  "after=0000-01-01T00:00:00Z&id=018f0000-0000-7000-8000-000000000001",
])("“%s” marks nothing: the first page", (address) => expect(markIn(new URLSearchParams(address))).toBeNull());
