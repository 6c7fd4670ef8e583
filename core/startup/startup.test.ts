import { type Burst, FILL, PRIME, burstState } from ".";

const t0 = 1e12;
const burst = (from: number, to: number | null, outcome: Burst["outcome"] = null): Burst => ({
  startedAt: t0 + from * 1000,
  endedAt: to === null ? null : t0 + to * 1000,
  outcome,
});
const at = (seconds: number, bursts: Burst[], rule = FILL) => burstState(bursts, t0 + seconds * 1000, rule);

describe("trade: a fill ends inside 2 minutes; off 5 s, one retry, then a fault", () => {
  test("nothing yet", () => expect(at(0, [])).toEqual({ phase: "idle", next: 1 }));
  test("running until two minutes are over", () => {
    expect(at(60, [burst(0, null)])).toEqual({ phase: "running", attempt: 1, until: t0 + 120_000 });
    expect(at(121, [burst(0, null)])).toMatchObject({ phase: "pause", attempt: 1, until: t0 + 125_000 });
    expect(at(126, [burst(0, null)])).toEqual({ phase: "again", next: 2 });
  });
  test("full in time", () =>
    expect(at(90, [burst(0, 80, "done")])).toEqual({ phase: "done", seconds: 80, attempt: 1 }));
  test("“full” after the limit is an alarm all the same", () =>
    expect(at(140, [burst(0, 130, "done")])).toEqual({ phase: "again", next: 2 }));
  test("an alarm told early starts the pause early; the second alarm is the end", () => {
    expect(at(32, [burst(0, 30, "alarm")])).toMatchObject({ phase: "pause", until: t0 + 35_000 });
    expect(at(40, [burst(0, 30, "alarm")])).toEqual({ phase: "again", next: 2 });
    expect(at(300, [burst(0, 30, "alarm"), burst(40, 160, "alarm")])).toEqual({ phase: "fault", attempt: 2 });
    expect(at(300, [burst(0, 30, "alarm"), burst(40, null)])).toEqual({ phase: "fault", attempt: 2 });
  });
  test("the second try may succeed", () =>
    expect(at(300, [burst(0, 120, "alarm"), burst(130, 190, "done")])).toEqual({
      phase: "done",
      seconds: 60,
      attempt: 2,
    }));
});

describe("trade: priming runs under a minute, then the pump rests", () => {
  test("rests after water came", () => {
    expect(at(60, [burst(0, 25, "done")], PRIME)).toMatchObject({ phase: "resting", until: t0 + 205_000, seconds: 25 });
    expect(at(206, [burst(0, 25, "done")], PRIME)).toMatchObject({ phase: "done" });
  });
  test("rests before another try", () =>
    expect(at(100, [burst(0, null)], PRIME)).toMatchObject({ phase: "pause", until: t0 + 240_000 }));
});
