import { randomLcg } from "d3-random";
import fc from "fast-check";
import { cupAt, pourFrom } from ".";

const time = fc.double({ min: 0, max: 60, noNaN: true });

describe("a made-up shot", () => {
  test("nothing before the first drop; the cup never grows less", () => {
    fc.assert(
      fc.property(fc.integer(), time, time, fc.option(time, { nil: undefined }), (seed, a, b, stop) => {
        const twin = pourFrom(randomLcg(seed), 36);
        expect(cupAt(twin, Math.min(a, twin.firstDrop), stop)).toBe(0);
        expect(cupAt(twin, Math.max(a, b), stop)).toBeGreaterThanOrEqual(cupAt(twin, Math.min(a, b), stop) - 1e-9);
      }),
    );
  });

  test("conservation of mass: after the stop comes the drip, and no more", () => {
    fc.assert(
      fc.property(fc.integer(), fc.double({ min: 12, max: 40, noNaN: true }), (seed, stop) => {
        const twin = pourFrom(randomLcg(seed), 36);
        const after = cupAt(twin, stop + 60, stop) - cupAt(twin, stop, stop);
        expect(after).toBeCloseTo(twin.drip, 6);
      }),
    );
  });

  test("it flows at its own rate once it has come up to it", () => {
    const twin = { firstDrop: 6, flow: 1.8, drip: 2 };
    expect(cupAt(twin, 26) - cupAt(twin, 25)).toBeCloseTo(1.8, 4);
  });
});
