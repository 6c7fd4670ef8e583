import fc from "fast-check";
import { pathHere } from "./path-here";

test.each([
  ["/jobs/1?at=water", "/jobs/1?at=water"],
  ["/settings", "/settings"],
  ["/a/../b", "/b"],
])("%s stays as it is", (asked, leads) => expect(pathHere(asked)).toBe(leads));

test.each([
  [null],
  [""],
  ["jobs"],
  ["https://evil.example/"],
  ["//evil.example"],
  ["/\\evil.example"],
  ["/\t/evil.example"],
  ["/\n/evil.example"],
  ["/.//evil.example"],
  ["/..//evil.example"],
  ["/sign-out"],
  ["/x/../sign-in"],
  ["javascript:alert(1)"],
])("%j leads to the bench", (asked) => expect(pathHere(asked)).toBe("/"));

test("whatever is asked, a browser stays on this site", () => {
  const odd = fc.string({ unit: fc.constantFrom("/", "\\", "\t", "\n", ".", ":", "@", "a", "?", "#", "%", "2", "f") });
  fc.assert(
    fc.property(odd, (text) => {
      const leads = new URL(pathHere(text), "http://site.example/sign-in");
      return leads.origin === "http://site.example";
    }),
  );
});
