import fc from "fast-check";
import { remaining } from "./remaining";

describe("what a clock shows", () => {
  test.each([
    [120_000, "2:00"],
    [119_001, "2:00"],
    [119_000, "1:59"],
    [9_400, "0:10"],
    [1, "0:01"],
    [0, "0:00"],
    [-1, "+0:00"],
    [-61_000, "+1:01"],
    [3_600_000, "1:00:00"],
    [7_265_000, "2:01:05"],
  ])("%p ms: %s", (ms, shown) => expect(remaining(ms)).toBe(shown));

  test("never off by more than a second, and never shows more than is left plus one (property)", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 86_400_000 }), (ms) => {
        const parts = remaining(ms).split(":").map(Number).reverse();
        const seconds = parts.reduce((sum, part, i) => sum + part * 60 ** i, 0);
        expect(seconds * 1000 - ms).toBeGreaterThanOrEqual(0);
        expect(seconds * 1000 - ms).toBeLessThan(1000);
      }),
    );
  });
});
