import fc from "fast-check";
import type { Pull } from "../shot";
import { USUAL_SCHOOLS } from "../school";
import { STARTING_CARDS } from "../spec";
import {
  type Job,
  adviceWords,
  dialling,
  grindShown,
  judgeShot,
  reasonNeeded,
  recipeWords,
  sayPull,
  sayTaken,
  shotLines,
  shotsBrief,
  type Standing,
  standingOf,
  standingShots,
} from ".";
import { aJob, aPull, aShot } from "./job.fixture";

const standing = (pulls: readonly Partial<Pull>[], more: Partial<Job> = {}) =>
  standingOf(aJob("K7", "handover", { shots: pulls.map((pull, i) => aShot(i + 1, aPull(pull))), ...more }));
const wordsOf = (at: Standing) => adviceWords(dialling(at), at);
const says = (...pulls: Partial<Pull>[]) => wordsOf(standing(pulls));

const taken = (shot: string, reason: string): Partial<Job> => ({
  entries: [
    {
      id: "taken",
      by: "Ilka",
      at: new Date("2026-05-04T10:00:00Z"),
      readBy: [],
      supersedes: null,
      task: "shots",
      value: { form: "accepted", shot, reason },
      typed: "",
      unit: "",
    },
  ],
});

describe("what a step is worth", () => {
  const builtIn = (pulls: readonly Partial<Pull>[], more: Partial<Job> = {}) =>
    standingOf(aJob("K1", "handover", { shots: pulls.map((pull, i) => aShot(i + 1, aPull(pull))), ...more }));
  const steps = (stand: Standing) => {
    const { change } = dialling(stand).advice!;
    return change.kind === "grind" ? change.finer : 0;
  };
  const knows = (mean: number, sd: number) => ({ learnt: { grind: { mean, sd, machines: 5, own: 0 } } });

  test("a grinder built in begins with what its model has shown; one beside the machine with the usual", () => {
    const fast = [{ seconds: 12, setting: 10 }];
    expect(steps(builtIn(fast, knows(0.12, 0.02)))).toBeGreaterThan(steps(builtIn(fast, knows(0.5, 0.05))));
    expect(steps(standing(fast, knows(0.5, 0.05)))).toBe(steps(standing(fast)));
  });

  test("the shots of a job show it, where the grinder is the model’s", () => {
    const two = [
      { seconds: 15, setting: 10 },
      { seconds: 28, setting: 8 },
    ];
    expect(grindShown(builtIn(two))!.value).toBeCloseTo(Math.log(28 / 15) / 2, 9);
    expect(grindShown(standing(two))).toBeNull();
    expect(grindShown(builtIn([]))).toBeNull();
    expect(grindShown(builtIn(two.map((p) => ({ ...p, preGround: true }))))).toBeNull();
  });
});

describe("which shots count", () => {
  test("none yet: the first is asked for, and nothing is promised", () => {
    const words = says();
    expect(words).toMatchObject({ kind: "none", setting: null, dose: null, seconds: null, expect: "" });
    expect(words.headline).toContain("Pull a first one");
  });

  test("a corrected shot no longer stands, the one that corrects it does", () => {
    const wrong = aShot(1, aPull({ seconds: 15 }));
    const right = { ...aShot(1, aPull({ seconds: 25 })), id: "put right", supersedes: wrong.id };
    expect(standingShots({ shots: [wrong, right] }).map((s) => s.id)).toEqual(["put right"]);
    const stand = standing([], { shots: [wrong, right] });
    expect(dialling(stand).advice!.change.kind).toBe("keep");
    expect(shotLines(stand)).toHaveLength(1);
  });

  test("one added after the signature stands beside, and advises nothing", () => {
    const amended = { ...aShot(2, aPull({ seconds: 15 })), amends: true };
    const stand = standing([], { shots: [aShot(1, aPull({ seconds: 25 })), amended] });
    expect(dialling(stand).last!.sequence).toBe(1);
    expect(shotLines(stand).map((l) => l.label)).toEqual(["Shot 1"]);
  });

  test("another coffee, grinder or basket begins anew: what the old ones showed is not mixed in", () => {
    const fast = { seconds: 14, setting: 10 };
    const alone = dialling(standing([fast])).advice;
    for (const other of [
      { coffee: { name: "Another" } },
      { basket: "single" as const },
      { grinder: { name: "Another", finer: -1 as const, step: 1 } },
    ])
      expect(dialling(standing([{ seconds: 40, setting: 12, ...other }, fast])).advice).toEqual(alone);
    expect(dialling(standing([{ seconds: 40, setting: 5 }, fast])).advice).not.toEqual(alone);
  });

  test("seconds from another event than the recipe’s can’t be held against it without the first drop", () => {
    const schools = { ...USUAL_SCHOOLS, shotClock: "first-drop" as const };
    const told = (pull: Partial<Pull>) => dialling(standing([{ seconds: 33, from: "pump", ...pull }], { schools }));
    expect(told({})).toMatchObject({ advice: null, missing: expect.stringContaining("first drop was not marked") });
    expect(told({ firstDrop: 8 }).advice!.change.kind).toBe("keep");
    expect(reasonNeeded(standing([{ seconds: 33 }], { schools }), aShot(1, aPull({ seconds: 33 })))).not.toBeNull();
  });
});

describe("the one thing to change, in words", () => {
  test("too fast goes finer, too slow coarser, by the scale of the grinder in hand", () => {
    const finer = says({ seconds: 16, setting: 10 });
    expect(finer.headline).toMatch(/^Set grinder to \d+ \(\d+ steps? finer\), same dose\.$/);
    expect(finer.setting).toBeLessThan(10);
    expect(finer.expect).toMatch(
      /^Expect \d+ to \d+ s \(target 22 to 28\)\. (First try, )?\d+ % in the target time\.$/,
    );
    const coarser = says({ seconds: 45, setting: 10 });
    expect(coarser.headline).toMatch(/steps? coarser\), same dose/);
    expect(coarser.setting).toBeGreaterThan(10);
    const grinder = { name: "Mill", finer: 1 as const, step: 0.25 };
    expect(says({ seconds: 16, setting: 3, grinder }).setting).toBeGreaterThan(3);
  });

  test("a taste that asks for another time says so once, and the forecast is held against that time", () => {
    for (const [taste, seconds, asks, window] of [
      ["sour", 16, "longer", "24 to 31"],
      ["bitter", 45, "shorter", "20 to 25"],
    ] as const) {
      const words = says({ seconds, setting: 10, taste });
      expect(words.why).toContain(`and ${taste}, and the taste asks for ${asks} than the recipe, ${window} s:`);
      expect(words.expect).toContain(`(target ${window})`);
    }
  });

  test("the school that changes the dose says how many grams, and the grind stays", () => {
    const schools = { ...USUAL_SCHOOLS, grindOrDose: "coarser-more" as const };
    const words = wordsOf(standing([{ seconds: 18 }], { schools }));
    expect(words).toMatchObject({ kind: "dose", setting: null });
    expect(words.headline).toMatch(/^\d+\.\d g more coffee: \d+\.\d g\.$/);
    expect(words.dose).toBe(18.5);
  });

  test("right in time and wrong in the cup: the grind stays; by hand one stops, a button is taught", () => {
    const long = (more: Partial<Pull> = {}) => [1, 2, 3].map(() => ({ seconds: 35, yield: 50, firstDrop: 0, ...more }));
    expect(says(...long()).headline).toBe("Keep the grind: stop for 36 g in the cup.");
    expect(says(...long({ by: "double" })).headline).toBe("Keep the grind: teach the button for 36 g in the cup.");
  });

  test("a button is taught where its shot keeps the grind, before there is a recipe", () => {
    const opens = (by: Pull["by"], seconds: number) => {
      const shots = [aShot(1, aPull({ yield: 30, seconds, by }))];
      const { plan, records } = standingOf(aJob("K1", "handover", { shots }));
      return plan.find((s) => s.id === "buttons")!.requires.find((r) => r.station === "shots")!.or!(records);
    };
    expect(opens("double", 22)).toBe(true);
    // Pulled by hand there is nothing to teach; too fast, the grind is moved first.
    expect(opens("manual", 22)).toBe(false);
    expect(opens("double", 12)).toBe(false);
  });

  test("a shot that is in spec and tastes so is kept, however the one before it ran", () => {
    const words = says(
      { yield: 47, seconds: 17, setting: 14, taste: "sour" },
      { yield: 38, seconds: 22.5, setting: 12 },
      { yield: 33, seconds: 26, setting: 12, taste: "balanced" },
    );
    expect(words.headline).toBe("Keep: this is the recipe.");
    // Without the taste, the two of one setting ask for a third.
    const untasted = says({ yield: 38, seconds: 22.5, setting: 12 }, { yield: 33, seconds: 26, setting: 12 });
    expect(untasted.headline).not.toBe("Keep: this is the recipe.");
  });

  test("what is not the grind is told by what this machine has, and to what value", () => {
    const on = (kind: "K2" | "K7" | "K11", ...pulls: Partial<Pull>[]) =>
      wordsOf(standingOf(aJob(kind, "handover", { shots: pulls.map((p, i) => aShot(i + 1, aPull(p))) }))).headline;
    const died = { flow: "died" as const, yield: 16, seconds: 14 };
    expect(on("K7", died)).toBe("Died off: fill the tank, repeat.");
    expect(on("K11", died)).toBe("Died off: open the supply, repeat.");
    const bitter = { seconds: 26, taste: "bitter" as const };
    expect(on("K7", bitter)).toBe("Flush 5 s before the shot, same grind, repeat.");
    expect(on("K2", bitter)).toBe("Brew 5 s later after the light than this shot, same grind, repeat.");
    expect(on("K7", { seconds: 26, taste: "sour" })).toBe(
      "No flush, or 2 s at most, before the shot, same grind, repeat.",
    );
    // Bitter again after it: something else.
    expect(on("K7", bitter, bitter)).toMatch(/coarser/);
  });

  test("a grinder whose scale ends before the window says so; no setting outside is ever advised", () => {
    const grinder = { name: "Mill", finer: -1 as const, step: 1, lowest: 1, highest: 30 };
    const words = says({ seconds: 13, setting: 2, grinder }, { seconds: 15, setting: 1, grinder });
    expect(words).toMatchObject({ kind: "reach", setting: null });
    expect(words.headline).toMatch(/^Grinder does not reach the time with this dose: .*another coffee\.$/);
    expect(words.why).toContain("At 1, where its scale ends");
    // Where nobody said where it ends, it is not sent under nought.
    for (const setting of [2, 1, 0]) expect(says({ seconds: 12, setting }).setting ?? 0).toBeGreaterThanOrEqual(0);
  });

  test("choked on a grinder that is built in: the settings to try, and why", () => {
    const words = wordsOf(
      standingOf(
        aJob("K1", "handover", { shots: [aShot(1, aPull({ setting: 1, seconds: 60, yield: null, choked: true }))] }),
      ),
    );
    expect(words.setting).toBeGreaterThanOrEqual(3);
    expect(words.setting).toBeLessThanOrEqual(8);
    expect(words.expect).toMatch(/^Try \d+ to \d+: what a step is worth here is not known yet\./);
    expect(words.why).toMatch(/^It choked: much coarser, not one step/);
  });

  test.each([
    [{}, /not dangerous for the machine/],
    [{ trayMl: 60 }, /60 ml came back to the tray: the OPV works\. Not dangerous for the machine\./],
    [{ trayMl: 0 }, /No water came back to the tray: check the OPV/],
  ])("choked, with %j seen in the tray: what it means for the machine is said", (tray, says) => {
    const shots = [aShot(1, aPull({ setting: 1, seconds: 60, yield: 4, choked: true, ...tray }))];
    const { why } = wordsOf(standingOf(aJob("K1", "handover", { shots })));
    expect(why).toMatch(says);
    if ("trayMl" in tray && tray.trayMl === 0) expect(why).not.toMatch(/not dangerous/i);
  });

  test("once a recipe was taken, an odd shot elsewhere leads back to it", () => {
    const good = { seconds: 25, setting: 10 };
    const at = standing([good, good, { seconds: 33, setting: 8 }], taken("shot 2", ""));
    expect(wordsOf(at)).toMatchObject({ kind: "grind", setting: 10 });
    expect(wordsOf(standing([good, good, { seconds: 33 }], taken("shot 2", ""))).headline).toMatch(/[Rr]epeat/);
  });

  test("what is not the grind is said before the grind is touched", () => {
    expect(says({ seconds: 15, flow: "spray" }).headline).toBe("Channelling: redistribute, tamp level, repeat.");
    expect(says({ seconds: 15, coffee: { name: "Old", roastedOn: "2026-01-01" } }).headline).toContain("Old coffee");
    expect(says({ seconds: 15, peak: 5 }).headline).toContain("Low pressure");
    const cold = { shots: [{ ...aShot(1, aPull({ seconds: 15 })), early: true }] };
    expect(wordsOf(standing([], cold)).headline).toContain("Not warmed up");
  });
});

describe("one judgement of a shot", () => {
  const anyPull = fc.record({
    setting: fc.integer({ min: 4, max: 14 }),
    dose: fc.integer({ min: 170, max: 195 }).map((g) => g / 10),
    yield: fc.integer({ min: 20, max: 50 }),
    seconds: fc.integer({ min: 10, max: 45 }),
    firstDrop: fc.constantFrom(0, 5, undefined),
    taste: fc.constantFrom(undefined, "sour", "balanced", "bitter"),
    flow: fc.constantFrom(undefined, "even", "drip", "spray"),
    by: fc.constantFrom("manual", "double"),
  });

  test("whatever was pulled: what is kept is in spec, and what is in spec is never to be changed", () => {
    const ratio = fc.constantFrom("1-2", "to-1-2.5");
    const grindOrDose = fc.constantFrom("grind", "coarser-more");
    fc.assert(
      fc.property(fc.array(anyPull, { minLength: 1, maxLength: 4 }), ratio, grindOrDose, (pulls, ratio, school) => {
        const schools = { ...USUAL_SCHOOLS, ratio, grindOrDose: school } as Job["schools"];
        const stand = standing(pulls as Partial<Pull>[], { schools });
        const { advice, last } = dialling(stand);
        const { verdict } = judgeShot(last!, stand);
        const { headline } = wordsOf(stand);
        if (advice!.change.kind === "keep") expect(verdict).toMatch(/holds/);
        if (verdict === "holds") expect(["keep", "same", "check"]).toContain(advice!.change.kind);
        if (verdict === "just holds" && ["grind", "yield", "dose"].includes(advice!.change.kind))
          expect(headline).toMatch(/^Use it, or /);
      }),
      { numRuns: 150 },
    );
  });

  test("inside the band: used as it is, or bettered; one step of the grind, or the seconds to the full cup", () => {
    const schools = { ...USUAL_SCHOOLS, shotWindow: "20-30" } as const;
    const stand = standing([{ seconds: 30, yield: 32, firstDrop: 7, by: "double", setting: 5 }], { schools });
    expect(judgeShot(stand.job.shots[0]!, stand)).toMatchObject({ verdict: "just holds" });
    expect(wordsOf(stand).headline).toMatch(
      /^Use it, or set grinder to [67] \([12] steps? coarser\), same dose, or let the button run 3 s longer\.$/,
    );
    expect(reasonNeeded(stand, stand.job.shots[0]!)).toBeNull();
  });

  test("pressure beside what a definition says: nothing is kept before it is put right", () => {
    const spec = { version: 1, name: "Definition", lines: STARTING_CARDS["certified-italian"].lines };
    const cup = { dose: 7, yield: 20.4, volume: 25, seconds: 25, setPoint: 88, basket: "single" } as const;
    const stand = standing(
      [
        { ...cup, plateau: 11 },
        { ...cup, plateau: 11 },
      ],
      { spec },
    );
    expect(wordsOf(stand).headline).toBe("Keep the grind. Out of spec: the pressure. Correct it, repeat.");
  });
});

describe("taking a shot as the recipe", () => {
  test("what the advice keeps is taken without a word: screen and advice are one decision", () => {
    const balanced = standing([{ seconds: 31, taste: "balanced" }]);
    expect(wordsOf(balanced).kind).toBe("keep");
    expect(reasonNeeded(balanced, balanced.job.shots[0]!)).toBeNull();
    const short = standing([{ seconds: 21, yield: 30, firstDrop: 5 }]);
    expect(wordsOf(short).kind).toBe("yield");
    expect(reasonNeeded(short, short.job.shots[0]!)).not.toBeNull();
  });

  test("one that makes the recipe needs no reason, one outside does", () => {
    const good = standing([{ seconds: 25 }]);
    expect(reasonNeeded(good, good.job.shots[0]!)).toBeNull();
    const bad = standing([{ seconds: 45 }]);
    expect(reasonNeeded(bad, bad.job.shots[0]!)).toContain("outside the recipe");
    const sprays = standing([{ seconds: 25, flow: "spray" }]);
    expect(reasonNeeded(sprays, sprays.job.shots[0]!)).toContain("Another cause than the grind");
  });

  test("the report says each try, the one taken and for what it holds", () => {
    const stand = standing([{ seconds: 15 }, { seconds: 25, setting: 8 }], taken("shot 2", "Told to"));
    const lines = shotLines(stand);
    expect(lines.map((l) => l.label)).toEqual(["Shot 1", "Shot 2", "Used as the recipe"]);
    expect(lines[2]!.text).toBe(
      `${sayPull(aPull({ seconds: 25 }))}, grind 8; valid for House, this grinder and this dose only; Told to`,
    );
    expect(shotsBrief(stand)).toMatchObject({ count: 2, last: { verdict: "holds" }, accepted: { reason: "Told to" } });
  });

  test("a shot that was corrected afterwards is no longer the recipe", () => {
    const wrong = aShot(1, aPull({ seconds: 25 }));
    const right = { ...aShot(1, aPull({ seconds: 40 })), id: "put right", supersedes: wrong.id };
    expect(sayTaken(standing([], { shots: [wrong], ...taken(wrong.id, "") }))).toMatchObject({ verdict: "holds" });
    expect(sayTaken(standing([], { shots: [wrong, right], ...taken(wrong.id, "") }))).toBeNull();
  });
});

test("a shot and a recipe in a line each", () => {
  expect(sayPull(aPull({ seconds: 25, flow: "even", taste: "balanced" }))).toBe(
    "18.0 g to 36.0 g in 25.0 s from the pump, even, balanced",
  );
  expect(sayPull(aPull({ seconds: 60, yield: null, choked: true }))).toBe(
    "18.0 g to nothing in over 60.0 s from the pump, choked",
  );
  // What was read as a volume is said as it was read.
  expect(sayPull(aPull({ seconds: 27, yield: 36, volume: 44, byVolume: "with-crema" }))).toBe(
    "18.0 g to 44 ml (36.0 g) in 27.0 s from the pump",
  );
  expect(recipeWords(standing([]))).toMatch(/^18\.0 g to 36 g in 22 to 28 s from button or pump$/);
});
