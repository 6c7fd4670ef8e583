import { teachWords } from "./teach";

/** Arithmetic alone: target less drip. */

const double = { lower: 34, target: 36, upper: 38 };

test("stops so that the drip makes the target, near the second it takes", () => {
  expect(teachWords("Double button", double, { mean: 2.2, u: 1 }, 25.4).headline).toBe(
    "Teach the double button again with coffee: stop at 34 g on the scale, near 25 s.",
  );
  expect(teachWords("Single button", { lower: 16, upper: 20 }, { mean: 1, u: 1 }, null)).toEqual({
    headline: "Teach the single button again with coffee: stop at 17 g on the scale.",
    expect: "About 1 g drips after the stop. Then run it with coffee and weigh: target 16 to 20 g.",
  });
});

test("a drip larger than the target still leaves something to stop at", () => {
  expect(teachWords("Single button", { lower: 1, target: 2, upper: 3 }, { mean: 5, u: 1 }, null).headline).toContain(
    "stop at 1 g",
  );
});
