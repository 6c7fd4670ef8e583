import { type PastResult, driftOfLife, livesOf, nextService, serviceFrom, standingOf } from ".";
import { aJob, aReading } from "./job.fixture";

/** One machine over its years, and when it should be seen again. */

const YEAR = 365.25 * 86_400_000;
const NOW = Date.parse("2026-05-04T12:00:00Z");

const past = (years: number, found: number, left: number, more: Partial<PastResult> = {}): PastResult[] =>
  (["as-found", "as-left"] as const).map((phase) => ({
    ...{ knob: "opv", group: null, button: null, jobId: `visit ${years}`, at: new Date(NOW - years * YEAR), phase },
    ...{ dimension: "pressure", value: phase === "as-found" ? found : left, u: 0.06, U: 0.12, resolution: 0.1 },
    ...{ verdict: "holds", lower: 8.5, upper: 9.5 },
    ...more,
  }));

const service = (readings = [aReading(1, 9), aReading(2, 9)]) => standingOf(aJob("K7", "service", { readings }));

test("each setting has its visits, oldest first, under its own name, held against what it was held against last", () => {
  const button = { knob: "button", button: "double", group: 2, dimension: "mass", lower: 34, upper: 38 } as const;
  const lives = livesOf([...past(1, 8.9, 9.1), ...past(2, 8.8, 9), ...past(1, 36, 36, button)], 2);
  expect(lives.map((l) => l.title)).toEqual(["Brew pressure at the group", "Double button, group 2"]);
  expect(lives[0]!.visits.map((v) => [v.jobId, v.found!.value, v.left!.value])).toEqual([
    ["visit 2", 8.8, 9],
    ["visit 1", 8.9, 9.1],
  ]);
  expect(lives[0]!.tolerance).toEqual({ lower: 8.5, upper: 9.5 });
  // What is held against nothing is no setting that can leave its limits.
  expect(livesOf(past(1, 9, 9, { lower: null, upper: null }), 1)).toEqual([]);
});

test("a dose by hand does not wander by itself", () => {
  const [dose] = livesOf(past(1, 18, 18, { knob: "basket", dimension: "mass", lower: 17, upper: 19 }), 1);
  expect(driftOfLife(dose!)).toBeNull();
});

test("without earlier visits the interval decides; a calm machine keeps it", () => {
  expect(nextService(service(), NOW)).toEqual({ on: "2027-05-04", why: "Every 12 months." });
  const calm = [1, 2, 3, 4].flatMap((y) => past(y, 9, 9));
  expect(nextService(service(), NOW, calm)).toMatchObject({ on: "2027-05-04" });
});

test("a valve that falls by 0.8 bar a year is seen sooner, with the days between which it will likely be out", () => {
  const falling = [1, 2, 3, 4].flatMap((y) => past(y, 8.4, 9.2));
  const due = nextService(service([aReading(1, 8.4), aReading(2, 8.4)]), NOW, falling)!;
  expect(due.on < "2027-05-04").toBe(true);
  expect(due.why).toMatch(/^Brew pressure at the group may leave its limits: likely between .* and .*, by 5 visits\.$/);
  expect(due.from! <= due.on && due.on <= due.to!).toBe(true);
});

test("a setting that was not read on this visit sets no date for the next: it would be today", () => {
  const falling = [2, 3, 4].flatMap((y) => past(y, 8.2, 9.2));
  expect(nextService(standingOf(aJob("K7", "service")), NOW, falling)).toMatchObject({ on: "2027-05-04" });
  // On the machine’s own page it is told: read it soon.
  const about = { today: Math.floor(NOW / 86_400_000), zone: "UTC" };
  expect(serviceFrom([], livesOf(falling, 1), about)!.why).toMatch(
    /^Brew pressure at the group may be outside its limits already: \d+ % by 3 visits\.$/,
  );
});

test("what it makes a day sets the date where that is sooner: gasket by shots, scale by hardness and litres where only the workshop takes it out", () => {
  const on = (kind: "K7" | "K8", shotsPerDay: number | null, hardness?: number) => {
    const job = aJob(kind, "service");
    const entries = hardness
      ? [
          {
            ...{
              id: "h",
              by: "Ilka",
              at: new Date(NOW),
              task: "water.hardness",
              typed: "",
              unit: "",
              supersedes: null,
              readBy: [],
            },
            value: { form: "figure" as const, value: hardness },
          },
        ]
      : [];
    return nextService(standingOf({ ...job, entries, machine: { ...job.machine, shotsPerDay } }), NOW)!;
  };
  expect(on("K7", null).on).toBe("2027-05-04");
  // 2,000 shots at 20 a day are 100 days.
  expect(on("K7", 20)).toEqual({ on: "2026-08-12", why: "Gasket and screen, about 2,000 shots at 20 a day." });
  expect(on("K7", 2).on).toBe("2027-05-04");
  // 50 L at 1.2 L a day are 41 days; an owner who runs a cycle does that himself.
  expect(on("K8", 10, 200)).toMatchObject({ on: "2026-06-14", why: expect.stringContaining("Scale: about 50 L") });
  expect(on("K7", 10, 200).why).not.toMatch(/Scale/);
});

test("a visit that was no service sets no date", () => {
  expect(nextService(standingOf(aJob("K7", "check")), NOW, past(1, 8, 9))).toBeNull();
});
