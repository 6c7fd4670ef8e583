import fc from "fast-check";
import { PATTERNS, type Pattern, diagnose } from ".";

const likeliest = (pattern: Pattern, ...evidence: [string, string][]) =>
  diagnose(
    pattern,
    evidence.map(([check, outcome]) => ({ check, outcome })),
  );
const BREW = PATTERNS["brew-pressure"];

describe.each(Object.values(PATTERNS))("$title", (pattern) => {
  test("is well stated: priors and rows sum to 1, every check speaks of every cause", () => {
    expect(pattern.causes.reduce((sum, c) => sum + c.prior, 0)).toBeCloseTo(1, 9);
    for (const check of pattern.checks)
      for (const cause of pattern.causes) {
        const row = check.chances[cause.id]!;
        expect(row).toHaveLength(check.outcomes.length);
        expect(row.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
        expect(Math.min(...row)).toBeGreaterThan(0);
      }
  });

  test("names nothing before a check, nor on one alone, whatever it shows; asks for a next one", () => {
    expect(diagnose(pattern, []).named).toBeNull();
    expect(diagnose(pattern, []).next).not.toBeNull();
    for (const check of pattern.checks)
      for (const o of check.outcomes) expect(likeliest(pattern, [check.id, o.id]).named).toBeNull();
  });

  test("followed to the end, each cause is found when the checks show what it mostly shows", () => {
    for (const cause of pattern.causes) {
      const evidence: { check: string; outcome: string }[] = [];
      for (let next = diagnose(pattern, evidence).next; next; next = diagnose(pattern, evidence).next) {
        const row = next.check.chances[cause.id]!;
        evidence.push({ check: next.check.id, outcome: next.check.outcomes[row.indexOf(Math.max(...row))]!.id });
        if (diagnose(pattern, evidence).named) break;
      }
      expect(diagnose(pattern, evidence).ranked[0]!.cause.id).toBe(cause.id);
    }
  });
});

describe("the patterns of the trade", () => {
  test("behind a flow control a low reading is that first, and asked first; open, it is as on any other machine", () => {
    const pattern = PATTERNS["brew-pressure-flow-control"];
    const low = likeliest(pattern, ["static", "low"]);
    expect(low.ranked[0]!.cause.id).toBe("flow-control");
    expect(low.next!.check.id).toBe("flow-control");
    expect(likeliest(pattern, ["static", "low"], ["flow-control", "was-shut"]).named).toMatchObject({
      id: "flow-control",
      part: "",
    });
    const open = likeliest(pattern, ["static", "low"], ["flow-control", "was-open"]).ranked.map((r) => r.cause.id);
    const plain = likeliest(BREW, ["static", "low"]).ranked.map((r) => r.cause.id);
    expect(open.filter((id) => id !== "flow-control").slice(0, 2)).toEqual(plain.slice(0, 2));
    expect(open[0]).not.toBe("flow-control");
  });
  test("low static and low free flow: pump, inlet or scale", () => {
    const { ranked } = likeliest(BREW, ["static", "low"], ["free-flow", "low"]);
    expect(
      ranked
        .slice(0, 2)
        .map((r) => r.cause.id)
        .sort(),
    ).toEqual(["inlet", "pump"]);
  });
  test("low static and normal free flow: valve set low or leaking", () => {
    const { ranked } = likeliest(BREW, ["static", "low"], ["free-flow", "normal"]);
    expect(
      ranked
        .slice(0, 2)
        .map((r) => r.cause.id)
        .sort(),
    ).toEqual(["leaking", "set-low"]);
  });
  test("high static, no return, a turn changes nothing: stuck, and it has a line for the parts list", () => {
    const { named } = likeliest(BREW, ["static", "high"], ["return", "none"], ["turn", "nothing"]);
    expect(named).toMatchObject({ id: "stuck", part: expect.stringContaining("OPV") });
  });
  test("needle climbs again after the pump stops: towards a closed valve", () => {
    const before = likeliest(BREW, ["static", "high"]).ranked.find((r) => r.cause.id === "stuck")!.probability;
    const after = likeliest(BREW, ["static", "high"], ["after-stop", "climbs"]).ranked.find(
      (r) => r.cause.id === "stuck",
    )!;
    expect(after.probability).toBeGreaterThan(1.5 * before);
  });
  test("gauge and thermometer agree after steam was let out: it was air", () => {
    expect(likeliest(PATTERNS.steam, ["bleed", "agree"], ["cold-zero", "zero"]).named?.id).toBe("air");
  });
  test("flow alarm with coffee in, and pulses without a basket: only too fine, nothing broken", () => {
    const { named } = likeliest(PATTERNS["flow-alarm"], ["basket", "coffee"], ["blank-run", "both"]);
    expect(named).toMatchObject({ id: "puck", part: expect.stringContaining("coarser") });
  });
});

test("a check taken twice counts once, by what it showed last", () => {
  const twice = likeliest(BREW, ["static", "high"], ["static", "low"]);
  expect(twice.ranked).toEqual(likeliest(BREW, ["static", "low"]).ranked);
});

test("unknown checks and outcomes are refused", () => {
  expect(() => likeliest(BREW, ["smell", "bad"])).toThrow(RangeError);
  expect(() => likeliest(BREW, ["static", "purple"])).toThrow(RangeError);
});

test("order of evidence does not matter, and probabilities sum to 1 (property)", () => {
  const evidence = fc.uniqueArray(
    fc.constantFrom(...BREW.checks.flatMap((c) => c.outcomes.map((o) => ({ check: c.id, outcome: o.id })))),
    { selector: (e) => e.check, maxLength: 6 },
  );
  fc.assert(
    fc.property(evidence, (seen) => {
      const one = diagnose(BREW, seen);
      const other = diagnose(BREW, [...seen].reverse());
      expect(one.ranked.reduce((sum, r) => sum + r.probability, 0)).toBeCloseTo(1, 9);
      for (const { cause, probability } of one.ranked)
        expect(other.ranked.find((r) => r.cause.id === cause.id)!.probability).toBeCloseTo(probability, 9);
    }),
  );
});
