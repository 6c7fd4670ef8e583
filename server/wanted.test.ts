import { wantedTolerance } from "../core/spec";
import { wantedRange } from "./wanted";

test.each([
  ["brew", "8 to 9", "bar", { lower: 8, upper: 9 }],
  ["brew", "8.0–9.0", "bar", { lower: 8, upper: 9 }],
  ["dose", "18 to 20", "g", { lower: 18, upper: 20 }],
] as const)("%s “%s” %s is a range", (of, typed, unit, range) => {
  expect(wantedRange(of, typed, unit)).toEqual(range);
});

test("pounds per square inch come out in bar", () => {
  const range = wantedRange("brew", "116 to 131", "psi");
  if (typeof range === "string") throw new Error(range);
  // 1 psi = 6.894757 kPa: NIST Special Publication 811, appendix B.
  expect(range.lower).toBeCloseTo(116 * 0.06894757, 3);
  expect(range.upper).toBeCloseTo(131 * 0.06894757, 3);
});

test.each([
  ["brew", "9", /Type a range/],
  ["brew", "2 to 9", /Brew pressure at the group: from 3\.0 to 14\.0 bar/],
  ["steam", "1 to 4", /Steam pressure: from/],
  ["dose", "a lot", /./],
] as const)("%s “%s” is refused with what is wrong", (of, typed, says) => {
  expect(wantedRange(of, typed, "")).toMatch(says);
});

test("a range is aimed at its middle", () => {
  expect(wantedTolerance({ lower: 18, upper: 20, reason: "asked" })).toEqual({ lower: 18, target: 19, upper: 20 });
});
