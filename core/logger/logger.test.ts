import { randomLcg, randomNormal } from "d3-random";
import { FIRST_DROP, guessColumns, numberIn, readTrace, thinned, traceFacts } from ".";
import { LEAST_LINES, MOST_LINES } from "./read";

const rows = (lines: string) => lines.split("\n").map((line, i) => ({ line: i + 2, cells: line.split(";") }));

describe("what the columns are", () => {
  test.each([
    [
      ["Time (s)", "Pressure (bar)", "Flow (ml/s)", "Weight (g)", "Temp (°C)"],
      ["time.s", "pressure.bar", "flow.ml", "weight.g", "temperature.C"],
    ],
    [
      ["elapsed_ms", "druck", "Durchfluss", "Gewicht [g]", "Temperatur"],
      ["time.ms", "pressure.bar", "flow.ml", "weight.g", "temperature.C"],
    ],
    [
      ["t", "p", "g/s", "oz", "°F"],
      ["time.s", "pressure.bar", "flow.ml", null, "temperature.F"],
    ],
    [
      ["seconds", "psi", "target pressure", "weight flow (g/s)", "weight (oz)"],
      ["time.s", "pressure.psi", null, "flow.ml", "weight.oz"],
    ],
    [
      ["", "note", "pressure", "pressure goal", "pressure 2"],
      [null, null, "pressure.bar", null, null],
    ],
  ])("%j", (heads, expected) => expect(guessColumns(heads)).toEqual(expected));

  test("seconds that go on for hours are thousandths", () => {
    expect(guessColumns(["time", "bar"], ["27400", "9"])[0]).toBe("time.ms");
    expect(guessColumns(["time", "bar"], ["27.4", "9"])[0]).toBe("time.s");
  });

  test("numbers in cells", () => {
    expect(["9.1", "9,1", " -0.5 ", "1e-3", ".5", "7."].map(numberIn)).toEqual([9.1, 9.1, -0.5, 0.001, 0.5, 7]);
    expect(["", "-", "n/a", "NaN"].map(numberIn)).toEqual([null, null, null, null]);
    for (const wrong of ["=1", "9 bar", "1.2.3", "0x10", "Infinity"]) expect(numberIn(wrong)).toBeNaN();
  });
});

describe("a trace", () => {
  test("in stored units, from its first line; a line twice is one, an empty cell none", () => {
    const read = readTrace(
      rows("1000;130,5;200\n1100;;201\n1100;131;201\n1200;145;212\n1300;130;212\n1400;129;212\n1500;1;200"),
      ["time.ms", "pressure.psi", "temperature.F"],
    );
    if (!read.ok) throw new Error(read.message);
    const { time, pressure, temperature } = read.trace;
    expect(time).toEqual([0, 0.1, 0.2, 0.3, 0.4, 0.5]);
    // NIST SP 811, B.8: 1 psi is 6.894 757 kPa.
    expect(pressure![0]).toBeCloseTo(130.5 * 0.06894757, 6);
    expect(pressure![1]).toBeNull();
    expect(temperature!.slice(2, 3)).toEqual([100]);
    expect(read.trace.weight).toBeUndefined();
  });

  const plan = ["time.s", "pressure.bar"] as const;
  const fine = ["0;1", "1;2", "2;9", "3;9", "4;9"];
  test.each([
    [[null, "pressure.bar"], fine, "Say which column is the time."],
    [["time.s", null], fine, "one column beside the time"],
    [["time.s", "time.ms"], fine, "Two columns are time"],
    [plan, fine.slice(0, LEAST_LINES - 1), "5 lines at least"],
    [plan, [...fine, "3;9"], "Line 7: the time goes back"],
    [plan, [...fine, ";9"], "Line 7: there is no time"],
    [plan, [...fine, "5;nine"], "Line 7: “nine” is no pressure"],
    [plan, [...fine, "5;130"], "Line 7: 130 can’t be a pressure of a shot. Check its unit."],
    [plan, [...fine, "900;1"], "It goes on for 900 s"],
    [plan, fine.map((l) => l.replace(/;.*/, ";")), "There is no number in the column of the pressure."],
    [plan, Array.from({ length: MOST_LINES + 1 }, (_, i) => `${i / 100};9`), "More than 20000 lines"],
  ] as const)("refused: %j %#", (wanted, lines, said) => {
    const read = readTrace(rows(lines.join("\n")), wanted);
    expect(read).toMatchObject({ ok: false });
    expect(read.ok ? "" : read.message).toContain(said);
  });
});

/** A shot as a machine with a plateau pulls it, logged with noise: what is known of it is what should be found. */
function logged(seed: number) {
  const random = randomLcg(seed);
  const known = {
    plateau: 6 + 4 * random(),
    ramp: 1 + 8 * random(),
    hold: 15 + 15 * random(),
    drop: 4 + 5 * random(),
    flow: 1 + 1.5 * random(),
    tare: 40 * (random() - 0.5),
  };
  const noise = randomNormal.source(random)(0, 0.05);
  const end = known.ramp + known.hold;
  const time = Array.from({ length: Math.ceil((end + 4) * 10) }, (_, i) => i / 10);
  const bar = (t: number) => (t < known.ramp ? (known.plateau * t) / known.ramp : t < end ? known.plateau : 0);
  const cup = (t: number) => known.flow * Math.max(0, Math.min(t, end) - known.drop);
  return {
    known: { ...known, cup: cup(end) },
    trace: {
      time,
      pressure: time.map((t) => bar(t) + noise()),
      weight: time.map((t) => known.tare + cup(t) + noise()),
      temperature: time.map(() => 92 + noise()),
    },
  };
}

test("facts: over 200 shots that nothing was tuned to, plateau within 0.1 bar, first drop within 1 s, cup within 0.4 g", () => {
  for (let seed = 1; seed <= 200; seed++) {
    const { known, trace } = logged(seed / 1000);
    const facts = traceFacts(trace);
    expect(Math.abs(facts.plateau! - known.plateau)).toBeLessThan(0.1);
    expect(facts.peak!).toBeGreaterThan(known.plateau - 0.1);
    expect(facts.firstDrop! - known.drop).toBeGreaterThan(-0.1);
    expect(facts.firstDrop! - known.drop).toBeLessThan(FIRST_DROP / known.flow + 0.5);
    expect(Math.abs(facts.cup! - known.cup)).toBeLessThan(0.4);
    expect(facts.temperature).toBeCloseTo(92, 1);
  }
});

test("what was not logged is no fact", () => {
  const time = [0, 1, 2, 3, 4];
  expect(traceFacts({ time, weight: [0, 0, 0.2, 0.2, 0.2] })).toMatchObject({
    peak: null,
    plateau: null,
    firstDrop: null,
    cup: 0.2,
    temperature: null,
  });
  expect(traceFacts({ time, pressure: [null, null, 3, null, null] })).toMatchObject({ peak: 3, plateau: 3, cup: null });
});

test("thinned keeps the ends, and is what it was where it is short", () => {
  const trace = { time: Array.from({ length: 1000 }, (_, i) => i), pressure: Array.from({ length: 1000 }, () => 9) };
  const thin = thinned(trace, 300);
  expect([thin.time.length, thin.pressure!.length, thin.time[0], thin.time.at(-1)]).toEqual([300, 300, 0, 999]);
  expect(thinned(trace, 1000)).toBe(trace);
});
