import fc from "fast-check";
import {
  OFFSET_TOLERANCE,
  cyclePlan,
  cycleStats,
  flushFor,
  flushPlan,
  nextWait,
  offsetKnob,
  parseCurve,
  planSeconds,
  readCurve,
  secondSetPoint,
  planAt,
  steamPlan,
} from ".";
import { nextAction } from "../belief";

describe("a curve typed in or pasted", () => {
  test.each([
    ["lines", "0 62\n5 88.5\n10 92.1"],
    ["semicolons", "0 62; 5 88.5; 10 92.1"],
    ["CSV with a heading", "seconds;°C\n0;62\n5;88.5\n10;92.1"],
    ["comma CSV", "t,celsius\n0,62\n5,88.5\n10,92.1"],
    ["Fahrenheit said", "0 143.6 °F\n5 191.3 °F\n10 197.78 °F"],
    ["Fahrenheit in the heading", "s, °F\n0 143.6\n5 191.3\n10 197.78"],
  ])("%s", (_, typed) => {
    const parsed = parseCurve(typed);
    expect(parsed).toMatchObject({ ok: true });
    expect(parsed.ok && parsed.points.map((p) => p.celsius)).toEqual([62, 88.5, 92.1].map((c) => expect.closeTo(c, 1)));
  });
  test("units mixed in one series are refused, with the line", () =>
    expect(parseCurve("0 62 °C\n5 191 °F\n10 92")).toMatchObject({
      ok: false,
      line: 2,
      message: expect.stringContaining("mixed"),
    }));
  test.each([
    ["0 62\n5 88", "three points"],
    ["0 62\nfive 88\n10 92", "Line 2"],
    ["0 62\n5 88\n5 92", "does not come after"],
    ["0 62\n5 880\n10 92", "can’t be water"],
    ["", "three points"],
  ])("%j is refused: %s", (typed, why) =>
    expect(parseCurve(typed)).toMatchObject({ ok: false, message: expect.stringContaining(why) }),
  );
});

describe("what a curve says", () => {
  const curve = (celsius: number[], step = 2) => celsius.map((c, i) => ({ t: i * step, celsius: c }));
  test("it rises to a plateau: its mean counts, whatever the ends do", () => {
    const read = readCurve(curve([60, 80, 90, 92.8, 93, 93.1, 92.9, 93, 92]));
    expect(read).toMatchObject({ by: "plateau", value: expect.closeTo(92.96, 1), peak: { celsius: 93.1 } });
    expect(read.plateau!.sd).toBeLessThan(0.2);
  });
  test("a short flush has no plateau: the peak counts", () =>
    expect(readCurve(curve([60, 85, 91, 86, 80]))).toMatchObject({ by: "peak", value: 91 }));
  test("recovery is from the lowest point after the peak back to within a degree", () => {
    expect(readCurve(curve([60, 93, 93, 88, 86, 89, 92.5])).recovery).toBe(4);
    expect(readCurve(curve([60, 92, 93, 92.5])).recovery).toBeNull();
    expect(readCurve(curve([60, 93, 88, 87])).recovery).toBeNull();
  });
  test("shifting all temperatures shifts what is read by as much (property)", () => {
    const points = fc.array(fc.double({ min: 20, max: 100, noNaN: true }), { minLength: 3, maxLength: 30 });
    fc.assert(
      fc.property(points, fc.integer({ min: -10, max: 10 }), (celsius, shift) => {
        const a = readCurve(curve(celsius));
        const b = readCurve(curve(celsius.map((c) => c + shift)));
        // A stretch that is exactly a degree wide may fall either side of the limit after rounding.
        if (a.by === b.by && a.plateau?.points === b.plateau?.points) expect(b.value - a.value).toBeCloseTo(shift, 6);
        expect(b.peak.celsius - a.peak.celsius).toBeCloseTo(shift, 6);
      }),
    );
  });
});

describe("offset, in whole degrees and with the model’s sign", () => {
  const read = (value: number, settled = false) => ({
    kind: "reading" as const,
    value,
    u: 0.2,
    uCommon: 0.2,
    ...(settled ? { settled } : {}),
  });
  const ask = (raises: boolean, events: Parameters<typeof nextAction>[0]["events"]) =>
    nextAction({ knob: offsetKnob({ step: 1, raises }), tolerance: OFFSET_TOLERANCE.correct, events }).action;

  test("water two degrees under the display: two up where that makes it hotter, two down where it makes it cooler", () => {
    expect(ask(true, [read(-2.1)])).toMatchObject({ kind: "move", amount: 2 });
    expect(ask(false, [read(-2.1)])).toMatchObject({ kind: "move", amount: -2 });
  });
  test("the first reading after a change equals the last one: wait and read, never a second correction on top", () => {
    const moved = [read(-2.1), { kind: "move" as const, amount: 2 }, read(-2.1)];
    expect(ask(true, moved)).toMatchObject({ kind: "recheck", reason: "unsettled" });
    expect(ask(true, [...moved, read(0.1, true)])).toMatchObject({ kind: "accept" });
  });
  test("every move is a whole step, and a larger error never gives a smaller move (property)", () => {
    const error = fc.double({ min: 0.2, max: 9, noNaN: true });
    fc.assert(
      fc.property(error, error, fc.constantFrom(1, 0.5), (a, b, step) => {
        const of = (e: number) => {
          const { action } = nextAction({
            knob: offsetKnob({ step, raises: true }),
            tolerance: OFFSET_TOLERANCE.correct,
            events: [read(-e)],
          });
          return action.kind === "move" ? action.amount : 0;
        };
        const [small, large] = [of(Math.min(a, b)), of(Math.max(a, b))];
        expect(large).toBeGreaterThanOrEqual(small);
        expect(Math.abs(large / step - Math.round(large / step))).toBeLessThan(1e-9);
      }),
      { numRuns: 60 },
    );
  });
  test("leave at 0 when inside: a degree and more away is left alone in that school, corrected in the other", () => {
    const at = (tolerance: (typeof OFFSET_TOLERANCE)["leave"]) =>
      nextAction({ knob: offsetKnob({ step: 1, raises: true }), tolerance, events: [read(-0.9), read(-0.9)] }).action;
    expect(at(OFFSET_TOLERANCE.leave).kind).toBe("accept");
    expect(at(OFFSET_TOLERANCE.correct).kind).not.toBe("accept");
  });
});

test("second set point: an offset holds at both, a faulty probe does not, and a doubt stays one", () => {
  expect(secondSetPoint(0.2, 0.4, 0.2).verdict).toBe("an offset");
  expect(secondSetPoint(0.2, 2.4, 0.3).verdict).toBe("not an offset");
  expect(secondSetPoint(0, 1.3, 0.7).verdict).toBe("can't tell");
});

describe("no display: the light’s cycle", () => {
  const cycles = [
    { on: 15, off: 60 },
    { on: 16, off: 64 },
    { on: 14, off: 58 },
  ];
  const stats = cycleStats(cycles);
  test("mean and spread; a wandering cycle says so", () => {
    expect(stats).toMatchObject({ cycles: 3, on: { mean: 15 }, steady: true });
    expect(stats.off.mean).toBeCloseTo(60.67, 2);
    expect(
      cycleStats([
        { on: 15, off: 20 },
        { on: 15, off: 90 },
      ]).steady,
    ).toBe(false);
    // One figure, “about 15 s”, is enough to begin with: its spread is taken, not known.
    expect(cycleStats([{ off: 15 }])).toMatchObject({ cycles: 1, off: { mean: 15 }, on: { mean: 15 }, steady: true });
    expect(() => cycleStats([])).toThrow("one cycle");
    expect(() => cycleStats([...cycles, { on: 0, off: 60 }])).toThrow("above 0");
  });
  test("trade: about 15 s until it changes back, about 10 s more, brew", () => {
    const plan = cyclePlan(stats, nextWait(stats, []).wait);
    expect(plan.map((s) => s.seconds).slice(1, 3)).toEqual([15, 10]);
    expect(plan[1]!.until).toBe("light");
  });
  test("trade: sour → wait less, bitter → wait longer; between both once both were tasted; balanced is kept", () => {
    expect(nextWait(stats, [{ wait: 10, taste: "sour" }]).wait).toBeLessThan(10);
    expect(nextWait(stats, [{ wait: 10, taste: "bitter" }]).wait).toBeGreaterThan(10);
    const both = nextWait(stats, [
      { wait: 6, taste: "bitter" },
      { wait: 14, taste: "sour" },
    ]);
    expect(both.wait).toBe(10);
    expect(nextWait(stats, [{ wait: 12, taste: "balanced" }])).toMatchObject({ wait: 12, kind: "keep" });
    // A second apart, nothing lies between them: what tasted of a fault is not kept.
    const apart = nextWait(stats, [
      { wait: 9, taste: "bitter" },
      { wait: 10, taste: "sour" },
    ]);
    expect(apart.kind).toBe("other");
    expect(apart.why).toContain("no wait between them can be timed");
  });
  test("at the end of what waiting can do another way is named, and nothing is told to wait longer", () => {
    const short = cycleStats([{ off: 15 }]);
    const capped = nextWait(short, [{ wait: nextWait(short, [{ wait: 14, taste: "bitter" }]).wait, taste: "bitter" }]);
    expect(capped.kind).toBe("other");
    expect(capped.why).toMatch(/Flush a few seconds first, set the thermostat lower/);
    expect(capped.why).not.toMatch(/[Ww]ait longer/);
    const none = nextWait(short, [{ wait: 0, taste: "sour" }]);
    expect(none).toMatchObject({ wait: 0, kind: "other" });
    expect(none.why).not.toMatch(/Wait less/);
  });
  test("told to wait longer, the wait is longer; told to wait less, it is less (property)", () => {
    fc.assert(
      fc.property(fc.nat(60), fc.nat(200), fc.constantFrom("sour" as const, "bitter" as const), (off, wait, taste) => {
        const advice = nextWait(cycleStats([{ off: off + 1 }]), [{ wait, taste }]);
        if (/Wait longer/.test(advice.why)) expect(advice.wait).toBeGreaterThan(wait);
        if (/Wait less/.test(advice.why)) expect(advice.wait).toBeLessThan(wait);
      }),
    );
  });
  test("the wait stays inside the rest, however bitter it tastes (property)", () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ wait: fc.nat(200), taste: fc.constantFrom("sour" as const, "bitter" as const) })),
        (tried) => {
          const { wait } = nextWait(stats, tried);
          expect(wait).toBeGreaterThanOrEqual(0);
          expect(wait).toBeLessThanOrEqual(stats.off.mean);
        },
      ),
    );
  });
});

describe("cooling flush of a heat exchanger", () => {
  test("trade: 0 to 5 s, or until it stops boiling, before anything was read", () => {
    const first = flushFor([], 93);
    expect(first.seconds).toBeGreaterThanOrEqual(0);
    expect(first.seconds).toBeLessThanOrEqual(5);
    expect(first.by).toBe("usual");
  });
  test("one reading moves it, three fit this machine’s own line", () => {
    expect(flushFor([{ seconds: 3, celsius: 96 }], 93)).toMatchObject({ seconds: 6, by: "one reading" });
    const fit = flushFor(
      [
        { seconds: 2, celsius: 98 },
        { seconds: 4, celsius: 95.1 },
        { seconds: 6, celsius: 92 },
      ],
      93,
    );
    expect(fit.by).toBe("fit");
    expect(fit.seconds).toBeCloseTo(5.5, 6);
    expect(fit.U).toBeGreaterThan(0);
  });
  test("readings that make no sense as a line fall back, and it is never negative or endless", () => {
    const odd = flushFor(
      [
        { seconds: 2, celsius: 92 },
        { seconds: 4, celsius: 95 },
        { seconds: 6, celsius: 98 },
      ],
      93,
    );
    expect(odd.by).toBe("one reading");
    expect(flushFor([{ seconds: 1, celsius: 80 }], 93).seconds).toBe(0);
    expect(flushFor([{ seconds: 15, celsius: 120 }], 93).seconds).toBe(20);
    expect(planSeconds(flushPlan(4))).toBe(39);
  });
});

describe("single boiler: steam by the clock", () => {
  test("trade: bleed 5 s at 0, 20 and 40 s of an 80 s heat-up, start 10 s before the light, refill straight after", () => {
    let at = 0;
    const starts = steamPlan(80).map((s) => {
      const start = at;
      at += s.seconds;
      return [start, s.label] as const;
    });
    expect(starts.filter(([, l]) => /bleed water/.test(l)).map(([s]) => s)).toEqual([0, 20, 40]);
    expect(starts.find(([, l]) => /Start steaming/.test(l))![0]).toBe(70);
    expect(starts.at(-1)![1]).toMatch(/Refill straight away/);
  });
  test("scaled to the heat-up timed on the machine; nonsense is refused", () => {
    const total = (h: number) => planSeconds(steamPlan(h));
    expect(total(160) - total(80)).toBe(80);
    expect(() => steamPlan(5)).toThrow(RangeError);
  });
});

test("which step a running plan is in", () => {
  const steps = [
    { label: "a", seconds: 5 },
    { label: "b", seconds: 10 },
  ];
  expect(planAt(steps, 0, [])).toEqual({ index: 0, left: 5 });
  expect(planAt(steps, 5, [])).toEqual({ index: 1, left: 10 });
  expect(planAt(steps, 15, [])).toBeNull();
  // What ends by the light goes on when it is said that the light changed, never by itself.
  const light = [
    { label: "flush", seconds: 5, until: "light" as const },
    { label: "wait", seconds: 10 },
  ];
  expect(planAt(light, 60, [])).toEqual({ index: 0, left: -55 });
  expect(planAt(light, 60, [58])).toEqual({ index: 1, left: 8 });
  expect(planAt(light, 70, [58])).toBeNull();
});

test.each([
  ["blanks before a line end that is none", `0${" ".repeat(39_000)}\u2028`],
  ["digits alone", "1".repeat(40_000)],
  ["commas", "1,".repeat(20_000)],
  ["a line of blanks and colons", `1${" :".repeat(20_000)}`],
])("a curve of nothing but %s is refused in the time of reading it", (_, typed) => {
  expect(parseCurve(typed)).toMatchObject({ ok: false });
});
