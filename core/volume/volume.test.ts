import { randomLcg, randomNormal } from "d3-random";
import fc from "fast-check";
import {
  USUAL_DRIP,
  USUAL_KEPT,
  usualKept,
  USUAL_METER,
  balanced,
  compareMeters,
  driftOf,
  fitKept,
  fitMeter,
  keptAt,
  learnDrip,
  offTheLine,
  programmeFor,
  pulseKnob,
  stopAt,
  storageTest,
  teachKnob,
} from ".";
import { densityOfWater } from "../steam";

const YIELD = { lower: 34, target: 36, upper: 38 };

/** Blank runs of a meter with this factor, weighed. */
function runs(K: number, scatter: number, seed: number, lengths = [60, 120, 200, 60, 120, 200]) {
  const error = randomNormal.source(randomLcg(seed))(0, scatter);
  return lengths.map((pulses) => ({ pulses, grams: (pulses / K + 1.5) * (1 + error()) * densityOfWater(20) }));
}

describe("meter factor", () => {
  test("the factor and what flows at each start come back; grams become ml by the water’s density", () => {
    const fitted = fitMeter(runs(2, 0, 0.3));
    expect(fitted.K).toBeCloseTo(2, 9);
    expect(fitted.start).toBeCloseTo(1.5, 9);
    expect(fitted.verdict).toBe("holds");
    expect(fitMeter(runs(2, 0, 0.3), 80).K).toBeLessThan(2);
  });
  test("its interval holds the truth about 95 times in 100", () => {
    let inside = 0;
    for (let i = 0; i < 200; i++) {
      const fitted = fitMeter(runs(2, 0.01, i / 211));
      if (Math.abs(fitted.K - 2) <= fitted.U) inside++;
    }
    expect(inside).toBeGreaterThanOrEqual(180);
    expect(inside).toBeLessThanOrEqual(199);
  });
  test("trade: repeatability within 2 %; a meter that scatters more is off", () => {
    expect(fitMeter(runs(2, 0.004, 0.5)).verdict).toBe("holds");
    expect(fitMeter(runs(2, 0.08, 0.5)).verdict).toBe("off");
  });
  test("too few, all alike, or figures the wrong way round: refused", () => {
    expect(() => fitMeter(runs(2, 0, 0.1, [60, 120]))).toThrow("Three blank runs");
    expect(() => fitMeter(runs(2, 0, 0.1, [60, 60, 60]))).toThrow("different places");
    expect(() =>
      fitMeter([
        { pulses: 60, grams: 90 },
        { pulses: 120, grams: 60 },
        { pulses: 180, grams: 30 },
      ]),
    ).toThrow("More pulses");
  });
  test("group against group: the worn one gives fewer pulses for the same water", () => {
    const first = fitMeter(runs(2, 0.003, 0.2));
    expect(compareMeters(first, fitMeter(runs(1.8, 0.003, 0.7)))).toMatchObject({ verdict: "apart", worn: 2 });
    expect(compareMeters(fitMeter(runs(1.8, 0.003, 0.7)), first)).toMatchObject({ verdict: "apart", worn: 1 });
    expect(compareMeters(first, fitMeter(runs(2, 0.003, 0.9)))).toMatchObject({ verdict: "alike", worn: null });
  });
  test("order of runs does not matter (property)", () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(runs(2, 0.02, 0.4), { minLength: 6 }), (shuffled) =>
        expect(fitMeter(shuffled).K).toBeCloseTo(fitMeter(runs(2, 0.02, 0.4)).K, 9),
      ),
    );
  });
});

describe("water kept by the puck", () => {
  test("trade: of about 44 ml in, roughly half is kept at 20 g and more", () => {
    const { value } = keptAt(USUAL_KEPT, 20);
    expect(value).toBeGreaterThan(19);
    expect(value).toBeLessThan(26);
  });
  test("the machine’s own shots move it from the kind’s prior to its own line", () => {
    const shots = [14, 16, 18, 20].map((dose) => ({ dose, water: 36 + 2 + 1.2 * dose, cup: 36 }));
    const fitted = fitKept([...shots, ...shots]);
    const at = keptAt(fitted, 18);
    expect(at.value).toBeCloseTo(2 + 1.2 * 18, 0);
    expect(at.u).toBeLessThan(keptAt(USUAL_KEPT, 18).u / 2);
    expect(fitted.runs).toBe(8);
  });
  test("wider where the kind does not drain or the basket is a single: two shots count for more", () => {
    const usual = usualKept({ drains: true, basket: "double" });
    expect(usual).toEqual(USUAL_KEPT);
    const shots = [17, 18].map((dose) => ({ dose, water: 36 + 2 + 1.4 * dose, cup: 36 }));
    for (const about of [
      { drains: false, basket: "double" },
      { drains: true, basket: "single" },
    ] as const) {
      const wide = usualKept(about);
      expect(keptAt(wide, 18).u).toBeGreaterThan(keptAt(usual, 18).u);
      expect(keptAt(fitKept(shots, wide), 18).u).toBeLessThan(keptAt(wide, 18).u / 2);
    }
    expect(keptAt(usualKept({ drains: false, basket: "double" }), 18).value).toBeLessThan(keptAt(usual, 18).value);
  });
  test("a machine that is nothing like its kind is believed after two runs that agree, and told so", () => {
    const runs = [22, 18].map((dose) => ({ dose, water: 85, cup: 44 }));
    const fitted = fitKept(runs);
    // The doses differ, and a shot scatters: at each of them it stays near, between them it is as measured.
    expect(Math.abs(keptAt(fitted, 20).value - 41)).toBeLessThan(1);
    for (const dose of [18, 22]) {
      const { value, u } = keptAt(fitted, dose);
      expect(Math.abs(value - 41)).toBeLessThan(2 * u);
    }
    // One like its kind is fitted as before: the wide priors take next to no part.
    const usual = fitKept([{ dose: 18, water: 57, cup: 36 }]);
    expect(keptAt(usual, 18).value).toBeCloseTo(21, 0);
    expect(keptAt(usual, 18).u).toBeLessThan(1.7);
  });
  test("more out than in, or no dose: refused", () => {
    expect(() => fitKept([{ dose: 18, water: 30, cup: 36 }])).toThrow("More came out");
    expect(() => fitKept([{ dose: 0, water: 60, cup: 36 }])).toThrow("above 0");
  });
  test("shots in any order teach the same (property)", () => {
    const shots = [14, 17, 18, 20].map((dose, i) => ({ dose, water: 55 + dose / 2 + i, cup: 34 }));
    fc.assert(
      fc.property(fc.shuffledSubarray(shots, { minLength: 4 }), (mixed) => {
        expect(fitKept(mixed).a).toBeCloseTo(fitKept(shots).a, 6);
        expect(fitKept(mixed).b).toBeCloseTo(fitKept(shots).b, 6);
      }),
    );
  });
});

describe("does the button store volume or seconds?", () => {
  const blank = { coffee: false, seconds: 4, cup: 58 };
  test("trade: the same programme ran 4 s blank, about 40 s light, 85 s heavy and fine: volume", () => {
    const { pVolume, verdict } = storageTest([
      blank,
      { coffee: true, seconds: 40, cup: 43, dose: 12 },
      { coffee: true, seconds: 85, cup: 36, dose: 20 },
    ]);
    expect(verdict).toBe("volume");
    expect(pVolume).toBeGreaterThan(0.99);
  });
  test("the same seconds and quite another amount: time", () => {
    expect(
      storageTest([
        { coffee: false, seconds: 25, cup: 160 },
        { coffee: true, seconds: 25.2, cup: 34, dose: 18 },
      ]).verdict,
    ).toBe("time");
  });
  test("one kind of run says nothing, and the run that would settle it is named", () => {
    const blanks = storageTest([blank, { ...blank, seconds: 4.1 }]);
    expect(blanks).toMatchObject({ verdict: "open", next: expect.stringContaining("with coffee") });
    expect(Math.abs(blanks.pVolume - 0.5)).toBeLessThan(0.2);
    expect(storageTest([{ coffee: true, seconds: 26, cup: 36, dose: 18 }]).next).toContain("without coffee");
    expect(storageTest([]).pVolume).toBe(0.5);
  });
  test("neither water nor seconds alike: it may wet first, and the run that would settle it is named", () => {
    const wet = { coffee: false, seconds: 8, cup: 120 };
    const runs = [wet, { ...wet, seconds: 8.1 }, { coffee: true, seconds: 30, cup: 36, dose: 18 }];
    expect(storageTest(runs)).toMatchObject({
      verdict: "neither",
      next: expect.stringContaining("it wets the coffee first"),
    });
  });
  test("with coffee shorter than without is neither, after two runs already: what does so, the run that settles, what to do meanwhile", () => {
    const run = (coffee: boolean, seconds: number) => ({ coffee, seconds });
    const two = storageTest([run(false, 20), run(true, 15)]);
    const all = storageTest([run(false, 20), run(false, 21), run(true, 15), run(true, 16), run(true, 15.5)], 0.7);
    for (const { verdict, next } of [two, all]) {
      expect(verdict).toBe("neither");
      expect(next).toContain("With coffee it ran shorter, which neither can do.");
      expect(next).toContain("Run this same button once more without coffee, timed and weighed");
      expect(next).toContain("Until then teach it with coffee, and check three shots.");
    }
  });
  test("seconds alone, longer with coffee: it is asked to be weighed", () => {
    const asked = storageTest([
      { coffee: false, seconds: 12 },
      { coffee: true, seconds: 18 },
    ]);
    expect(asked).toMatchObject({ verdict: "open", next: expect.stringContaining("Weigh what runs out too") });
  });
  test("a button that wets the coffee first and then counts is not called one that stores volume", () => {
    const run = (coffee: boolean, seconds: number, water: number) =>
      coffee ? { coffee, seconds, cup: water - 21, dose: 18 } : { coffee, seconds, cup: water };
    const wets = [run(false, 10, 45), run(false, 10.2, 46), run(true, 34, 58), run(true, 35, 59)];
    expect(storageTest(wets).verdict).toBe("open");
    const plain = [run(false, 10, 45), run(false, 10.2, 46), run(true, 28, 45), run(true, 29, 46)];
    expect(storageTest(plain).verdict).toBe("volume");
  });
  test("a run 4 ml off what the others say is pointed at", () => {
    const run = (dose: number, more = 0) => ({ dose, water: 60, cup: 60 - (4 + 0.95 * dose) - more });
    expect(offTheLine([run(16), run(18), run(20)])).toEqual([]);
    const off = offTheLine([run(16), run(18, 7), run(20), run(18)]);
    expect(off.map((o) => o.at)).toContain(1);
    expect(Math.max(...off.map((o) => Math.abs(o.by)))).toBeGreaterThan(4);
    expect(offTheLine([run(18, 9)])).toEqual([]);
  });

  test("pulses, cup and kept water fix what a pulse is worth before the first change", () => {
    // 4 pulses per ml, where 2 ± 0.5 are usual: 200 pulses gave 29 g and left 21 ml in the puck of 18 g.
    const knob = pulseKnob(USUAL_METER);
    const fixed = balanced(knob, { stored: 200, cup: 29, dose: 18 }, USUAL_KEPT);
    expect(Math.abs(fixed.response.mean - 0.25)).toBeLessThan(Math.abs(knob.response.mean - 0.25) / 2);
    expect(fixed.response.sd).toBeLessThan(knob.response.sd / 2);
    // 3000 can’t be pulses of any meter met here.
    expect(balanced(knob, { stored: 3000, cup: 29, dose: 18 }, USUAL_KEPT)).toBe(knob);
  });

  test("a set that contradicts both is sure of neither of them", () => {
    const runs = [
      { coffee: false, seconds: 12, cup: 60 },
      { coffee: false, seconds: 12.4, cup: 62 },
      { coffee: true, seconds: 26, cup: 12, dose: 18 },
      { coffee: true, seconds: 27, cup: 13, dose: 18 },
    ];
    const { pVolume, verdict } = storageTest(runs);
    expect(verdict).not.toBe("volume");
    expect(verdict).not.toBe("time");
    expect(pVolume).toBeGreaterThan(0.02);
    expect(pVolume).toBeLessThan(0.98);
  });

  test("made-up machines of both sorts, repeats within 3 to 8 %: wrong in two of a thousand at most", () => {
    const random = randomLcg(0.53);
    const normal = randomNormal.source(random)(0, 1);
    const tally = { wrong: 0, said: 0 };
    const N = 600;
    for (let i = 0; i < N; i++) {
      const way = i % 2 === 0 ? "volume" : "time";
      const [V, T] = [45 * Math.exp(0.3 * normal()), 25 * Math.exp(0.25 * normal())];
      const [flow, ratio] = [4.5 * Math.exp(0.3 * normal()), 2.5 * Math.exp(0.35 * normal())];
      const scatter = 0.03 + 0.05 * random();
      const runs = [false, false, true, true].map((coffee) => {
        const through = (coffee ? flow / ratio : flow) * Math.exp(scatter * normal());
        const water = way === "volume" ? V : through * T;
        return {
          coffee,
          seconds: Math.max(1, water / through + 0.3 * normal()),
          cup: Math.max(3, water - (coffee ? 21 : 0) + normal()),
          ...(coffee ? { dose: 18 } : {}),
        };
      });
      const { verdict } = storageTest(runs);
      if (verdict !== "open" && verdict !== way) tally.wrong++;
      if (verdict === way) tally.said++;
    }
    expect(tally.wrong / N).toBeLessThanOrEqual(0.002);
    expect(tally.said / N).toBeGreaterThan(0.85);
  });

  test("seconds alone say something: the same with and without coffee is time, quite others are volume", () => {
    const ran = (blankSeconds: number, coffeeSeconds: number) =>
      storageTest([
        { coffee: false, seconds: blankSeconds },
        { coffee: true, seconds: coffeeSeconds },
      ]).pVolume;
    expect(ran(25, 25.1)).toBeLessThan(0.2);
    expect(ran(5, 27)).toBeGreaterThan(0.8);
  });
  test("200 simulated buttons of each sort: never the wrong answer more than once in fifty", () => {
    const random = randomLcg(0.77);
    const normal = randomNormal.source(random)(0, 1);
    let wrong = 0;
    for (let i = 0; i < 400; i++) {
      const volume = i % 2 === 0;
      const dose = 16 + 4 * random();
      const kept = 3 + 1.0 * dose + 1.5 * normal();
      const flows = [6 + 8 * random(), 1.2 + 0.8 * random()];
      const set = volume ? 45 + 20 * random() : 18 + 14 * random();
      const [a, b] = flows.map((flow) =>
        volume ? { water: set, seconds: set / flow } : { water: set * flow, seconds: set },
      );
      const cup = b!.water - kept;
      if (cup < 3) continue;
      const { verdict } = storageTest([
        { coffee: false, seconds: a!.seconds + 0.3 * normal(), cup: a!.water + 0.5 * normal() },
        { coffee: true, seconds: b!.seconds + 0.3 * normal(), cup, dose },
      ]);
      if (verdict !== "open" && verdict !== (volume ? "volume" : "time")) wrong++;
    }
    expect(wrong).toBeLessThanOrEqual(8);
  });
  test("no time, nothing in the cup, coffee without a dose: refused", () => {
    expect(() => storageTest([{ ...blank, seconds: 0 }])).toThrow("seconds");
    expect(() => storageTest([{ ...blank, cup: 0 }])).toThrow("Weigh");
    expect(() => storageTest([{ coffee: true, seconds: 25, cup: 36 }])).toThrow("dose");
  });
});

describe("a programme for a target in the cup", () => {
  const kept = { ...USUAL_KEPT, a: 4, b: 1, covariance: [0.2, 0, 0.0005] as const };
  test("mass balance: water in is what is in the cup and what is kept", () => {
    const p = programmeFor({ tolerance: YIELD, dose: 18, kept, meter: { K: 2, u: 0.01, start: 0 } });
    expect(p).toMatchObject({ amount: 116, unit: "pulses", water: 58, expected: 36 });
    expect(p.pInside).toBeGreaterThan(0.7);
    expect(programmeFor({ tolerance: YIELD, dose: 18, kept, meter: null })).toMatchObject({ amount: 58, unit: "ml" });
  });
  test("what flows at the start without a pulse is taken off", () =>
    expect(programmeFor({ tolerance: YIELD, dose: 18, kept, meter: { K: 2, u: 0.01, start: 2 } }).amount).toBe(112));
  test("500 simulated machines: the shot lands as often as it was said to", () => {
    const random = randomLcg(0.31);
    const normal = randomNormal.source(random)(0, 1);
    let said = 0;
    let landed = 0;
    for (let i = 0; i < 500; i++) {
      const K = 2 * (1 + 0.01 * normal());
      const [a, b] = [4 + Math.sqrt(0.2) * normal(), 1 + Math.sqrt(0.0005) * normal()];
      const p = programmeFor({ tolerance: YIELD, dose: 18, kept, meter: { K: 2, u: 0.02, start: 0 } });
      const grams = p.amount / K - (a + b * 18) + 1.5 * normal();
      said += p.pInside;
      if (grams >= YIELD.lower && grams <= YIELD.upper) landed++;
    }
    expect(Math.abs(landed - said) / 500).toBeLessThan(0.06);
  });
  test("a heavier dose keeps more, so it asks for more water (property)", () => {
    const dose = fc.double({ min: 7, max: 24, noNaN: true });
    fc.assert(
      fc.property(dose, dose, (x, y) => {
        const of = (d: number) => programmeFor({ tolerance: YIELD, dose: d, kept, meter: null }).amount;
        expect(of(Math.max(x, y))).toBeGreaterThanOrEqual(of(Math.min(x, y)));
      }),
    );
  });
  test("a button that is only taught: stop on the scale before the target, by the drip", () => {
    expect(stopAt(YIELD, USUAL_DRIP).grams).toBe(34);
    expect(stopAt(YIELD, { mean: 3.2, u: 0.3 }).grams).toBe(33);
    const learnt = learnDrip([
      { atStop: 32, inCup: 35.4 },
      { atStop: 33, inCup: 36.4 },
      { atStop: 32, inCup: 35.3 },
    ]);
    expect(learnt.mean).toBeCloseTo(3.2, 0);
    expect(learnt.u).toBeLessThan(USUAL_DRIP.u / 2);
  });
});

test("the knobs: a pulse is worth 1/K grams, a gram later a gram more", () => {
  expect(pulseKnob({ K: 2, u: 0.1 }).response).toEqual({ mean: 0.5, sd: expect.closeTo(0.025, 9) });
  expect(teachKnob()).toMatchObject({ step: 0.5, response: { mean: 1 } });
});

describe("a button against its own shots", () => {
  test("trade: button says 36, last three 44: they contradict; within its scatter they do not", () => {
    expect(driftOf({ mean: 36, shots: 3 }, [44.2, 43.8, 44.1])).toMatchObject({ contradicts: true, shots: 3 });
    expect(driftOf({ mean: 36, shots: 3 }, [36.8, 35.4, 37])!.contradicts).toBe(false);
    expect(driftOf({ mean: 36, shots: 3 }, [44])).toBeNull();
  });
  test("only the newest three count", () => {
    expect(driftOf({ mean: 36, shots: 3 }, [36, 36.2, 35.9, 60, 60])!.contradicts).toBe(false);
  });
});
