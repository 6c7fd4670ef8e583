import { randomLcg, randomNormal } from "d3-random";
import { type DriftVisit, driftFrom, forecastService, pOutside, reachedOn } from ".";

/** Drift between visits. The model is Whitmore’s (1995); the machines here are made up and the model was not tuned on them. */

const BREW = { lower: 8.5, target: 9, upper: 9.5 };
const YEAR = 365.25;
const at = (day: number, found: number | null, left: number, u = 0.08): DriftVisit => ({
  day,
  found: found === null ? null : { value: found, u },
  left: { value: left, u },
});

test("never left anywhere: nothing is said; left once: as wide as what nobody has seen", () => {
  expect(driftFrom([], BREW)).toBeNull();
  expect(driftFrom([{ day: 0, found: { value: 9, u: 0.1 }, left: null }], BREW)).toBeNull();
  const once = driftFrom([at(0, null, 9)], BREW)!;
  expect(once).toMatchObject({ stretches: 0, rate: 0 });
  // Within a year it is more likely in than out, and nobody is sure.
  expect(pOutside(once, BREW, YEAR)).toBeGreaterThan(0.05);
  expect(pOutside(once, BREW, YEAR)).toBeLessThan(0.5);
});

test("a steady fall of 0.3 bar a year is found, the surer the more visits", () => {
  const visits = (n: number) => Array.from({ length: n }, (_, i) => at(i * YEAR, i === 0 ? null : 8.9, 9.2));
  const [two, eight] = [driftFrom(visits(2), BREW)!, driftFrom(visits(8), BREW)!];
  expect(eight.rate).toBeCloseTo(-0.3, 1);
  expect(eight.uRate).toBeLessThan(two.uRate);
  expect(Math.abs(two.rate)).toBeLessThan(Math.abs(eight.rate));
  // From 9.2 it takes two years and a bit to 8.5.
  expect((reachedOn(eight, BREW, 0.5)! - eight.from.day) / YEAR).toBeGreaterThan(1.6);
  expect((reachedOn(eight, BREW, 0.5)! - eight.from.day) / YEAR).toBeLessThan(3);
});

test("one visit that is far off, a valve that stuck, does not become the machine’s drift", () => {
  const calm = Array.from({ length: 7 }, (_, i) => at(i * YEAR, i === 0 ? null : 9.02, 9));
  const stuck = calm.map((v, i) => (i === 4 ? at(v.day, 12, 9) : v));
  expect(Math.abs(driftFrom(stuck, BREW)!.rate)).toBeLessThan(0.25);
});

test("the same day twice tells of readings, not of drift", () => {
  const twice = driftFrom([at(0, null, 9), at(1, 8.8, 9)], BREW)!;
  expect(twice.stretches).toBe(0);
});

test("the chance grows with the days, and the day is the first on which it is reached", () => {
  const drift = driftFrom([at(0, null, 9.2), at(YEAR, 8.9, 9.2), at(2 * YEAR, 8.95, 9.2)], BREW)!;
  const day = reachedOn(drift, BREW, 0.2)!;
  expect(pOutside(drift, BREW, day)).toBeGreaterThanOrEqual(0.2);
  expect(pOutside(drift, BREW, day - 1)).toBeLessThan(0.2);
  expect(reachedOn(drift, BREW, 0.1)!).toBeLessThan(day);
  // One side only.
  expect(pOutside(drift, { lower: 8.5 }, day)).toBeLessThanOrEqual(pOutside(drift, BREW, day));
});

test.each([
  ["calm pumps", 0, 0.1],
  ["worn pumps that fall", -0.25, 0.12],
  ["valves that wander", 0.05, 0.3],
] as const)("%s: what is called likely comes about as often", (_, mean, wander) => {
  // Populations of their own: rates differ from machine to machine, visits are not regular, gauges read with an error.
  const source = randomLcg(0.4217);
  const normal = (mu: number, sd: number) => randomNormal.source(source)(mu, sd)();
  const u = 0.08;
  let [said, came, n] = [0, 0, 0];
  for (let machine = 0; machine < 400; machine++) {
    const rate = normal(mean, 0.15);
    let [day, value] = [0, 9];
    const visits: DriftVisit[] = [at(0, null, 9 + normal(0, u), u)];
    const wait = () => Math.max(60, normal(300, 90));
    const pass = (days: number) => {
      value += (rate * days) / YEAR + normal(0, wander * Math.sqrt(days / YEAR));
      day += days;
    };
    for (let v = 0; v < 1 + (machine % 5); v++) {
      pass(wait());
      const found = value + normal(0, u);
      value = 9 + normal(0, 0.05);
      visits.push(at(day, found, value + normal(0, u), u));
    }
    const drift = driftFrom(visits, BREW)!;
    const ahead = 365;
    said += pOutside(drift, BREW, day + ahead);
    pass(ahead);
    came += value < BREW.lower || value > BREW.upper ? 1 : 0;
    n++;
  }
  // Over 400 machines: at most one in ten too careful where all are calm, never more than one in twenty too calm.
  expect((said - came) / n).toBeLessThan(0.1);
  expect((came - said) / n).toBeLessThan(0.05);
});

describe("the next service", () => {
  const falling = driftFrom(
    Array.from({ length: 6 }, (_, i) => at(i * YEAR, i === 0 ? null : 8.7, 9.2)),
    BREW,
  )!;
  const today = 5 * YEAR + 30;
  const yearly = { kind: "date" as const, what: "Interval", day: 6 * YEAR, why: "Every 12 months." };
  const drifting = { kind: "drift" as const, what: "Brew pressure", drift: falling, tolerance: BREW };

  test("a fixed date alone is that day", () => {
    const only = forecastService([yearly], today)!;
    expect(only).toMatchObject({ on: yearly.day, pBefore: 0, window: { from: yearly.day, to: yearly.day } });
    expect(forecastService([], today)).toBeNull();
  });

  test("a setting that leaves its tolerance sooner sets it, with a window around it", () => {
    const late = { ...yearly, day: 9 * YEAR };
    const { limit, on, window, pBefore } = forecastService([late, drifting], today)!;
    expect(limit).toBe(drifting);
    expect(window.from).toBeLessThanOrEqual(on);
    expect(window.to!).toBeGreaterThan(on);
    expect(pBefore).toBeCloseTo(0.2, 1);
    expect(on).toBeLessThan(late.day);
  });

  test("sooner is the fixed date: it sets it, and says how likely something is out by then", () => {
    const soon = { ...yearly, day: today + 10 };
    const { limit, pBefore } = forecastService([drifting, soon], today)!;
    expect(limit).toBe(soon);
    expect(pBefore).toBeGreaterThan(0);
    expect(pBefore).toBeLessThan(0.2);
  });

  test("a setting sets no day before the soonest that makes sense; a fixed date does", () => {
    const near = { ...drifting, tolerance: { lower: 9.1, upper: 10 } };
    expect(forecastService([near], today, today + 90)!.on).toBe(today + 90);
    expect(forecastService([near, { ...yearly, day: today + 20 }], today, today + 90)!.on).toBe(today + 20);
  });

  test("overdue is today, never a day that has gone by", () => {
    expect(forecastService([drifting], 20 * YEAR)!.on).toBe(20 * YEAR);
  });
});
