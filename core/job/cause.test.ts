import fc from "fast-check";
import { PATTERNS } from "../diagnose";
import { KINDS, type KindId } from "../kind";
import { aJob, aReading, aRepair, knobOf } from "./job.fixture";
import { documentOf, foundWork, standingOf } from ".";

/** A cause that is found is what the next move says: nothing beside it tells to turn for what no turning mends. */

const SIGNED = { workshop: "Shop", name: "Ilka", remark: "", at: aReading(9, 9).at };

const saw = (sequence: number, check: string, outcome: string) => ({
  id: `saw ${sequence}`,
  by: "Ilka",
  at: aReading(sequence, 7).at,
  supersedes: null,
  task: "diagnosis.brew-pressure",
  value: { form: "evidence" as const, check, outcome },
  typed: "",
  unit: "",
  readBy: [],
});

const low = [aReading(1, 7), aReading(2, 7)];
const on = (kind: KindId, more: Parameters<typeof aJob>[2]) => standingOf(aJob(kind, "check", more));

test("too low on a machine with springs: a stiffer one is tried while nobody has looked for more", () => {
  const { advice, cause } = knobOf(on("K13", { readings: low }), "opv");
  expect(advice!.action.kind).toBe("move");
  expect(cause!.typed).toEqual([]);
});

test("too low and nothing comes back: the valve is shut already, and no stiffer spring is fitted", () => {
  const dry = [aReading(1, 7, { returned: "none" }), aReading(2, 7, { returned: "none" })];
  const { advice, cause } = knobOf(on("K13", { readings: dry }), "opv");
  expect(cause!.typed).toEqual([]);
  expect(advice!.action).toMatchObject({ kind: "fault", fault: "look-first" });
});

test("little comes freely: no spring is fitted for that, the check that tells most comes first", () => {
  const { advice, cause, stop } = knobOf(on("K13", { readings: low, entries: [saw(3, "free-flow", "low")] }), "opv");
  expect(cause!.beyond).toBeGreaterThan(0.9);
  expect(advice!.action).toMatchObject({ kind: "fault", fault: "look-first" });
  expect(cause!.next!.check.id).not.toBe("turn");
  expect(stop).toBeNull();
});

const worn = [saw(3, "free-flow", "low"), saw(4, "inlet-open", "same"), saw(5, "return", "none")];

test("a worn pump, found: the test ends with it, with its part, and the sheet runs on", () => {
  const before = on("K13", { readings: low, entries: worn });
  const { stop, record } = knobOf(before, "opv");
  // Free flow weak, a jug no better, no return: scale in the way is left as the other cause.
  expect(stop).toMatchObject({ id: "cause.pump", headline: "Likeliest: Pump worn.", part: "Pump" });
  expect(stop!.means).toMatch(/^8\d % by the checks so far\.$/);
  expect(record).toMatchObject({ stopped: true, accepted: false, turns: false });

  const taken = { id: "f", by: "Ilka", at: aReading(7, 7).at, loop: "opv" as const, fault: stop!.id, text: "Ordered." };
  const after = on("K13", { readings: low, entries: worn, findings: [taken] });
  expect(foundWork(after)).toContainEqual(expect.objectContaining({ what: "Pump", reason: "Pump worn" }));
  const open = after.at(Date.now()).filter((p) => p.state !== "done");
  expect(open.map((p) => p.station.id)).not.toContain("as-left");
  const signed = JSON.stringify(documentOf(after, SIGNED));
  expect(signed).toContain("Pump worn. Ordered.");
  expect(signed.split("Brew pressure fault")).toHaveLength(2);
});

test("once the part is renewed what was looked at before counts no more", () => {
  const repaired = on("K13", {
    readings: [...low, aReading(8, 9)],
    entries: worn,
    repairs: [aRepair(7, "Pump renewed")],
  });
  const { stop, cause, advice } = knobOf(repaired, "opv");
  expect(stop).toBeNull();
  expect(cause!.typed).toEqual([]);
  expect(advice!.action.kind).toBe("accept");
});

test("a valve half shut before the group is opened: no part is named, and nothing is turned", () => {
  const job = aJob("K12", "check", { readings: low, entries: [saw(3, "flow-control", "was-shut")] });
  const throttled = standingOf({ ...job, particulars: { ...job.particulars, flowControl: true } });
  const { stop, cause, advice } = knobOf(throttled, "opv");
  expect(cause!.ranked[0]!.cause.id).toBe("flow-control");
  expect(stop).toBeNull();
  expect(advice!.action.kind).not.toBe("move");
});

const someChecks = fc.array(
  fc.constantFrom(
    ...PATTERNS["brew-pressure"].checks
      .filter((c) => !c.needsScrew)
      .flatMap((c) => c.outcomes.map((o) => [c.id, o.id] as const)),
  ),
  { maxLength: 6 },
);

test("whatever is read and seen: never a turn beside a cause that no turning mends, never a stop in spec", () => {
  const kinds = Object.keys(KINDS).filter((k) => k !== "K14") as KindId[];
  fc.assert(
    fc.property(
      fc.constantFrom(...kinds),
      fc.double({ min: 2, max: 14, noNaN: true }),
      someChecks,
      (kind, bar, checks) => {
        const readings = [aReading(1, bar), aReading(2, bar)];
        const standing = on(kind, { readings, entries: checks.map(([c, o], i) => saw(3 + i, c, o)) });
        const knob = standing.loops.find((l) => l.loop.id === "opv");
        if (!knob?.advice || !knob.cause) return;
        const { stop, advice, cause, record } = knob;
        // One thing looked at twice is one check, and no cause stands on one alone.
        const different = new Set(cause.typed.map((e) => e.check)).size;
        if (different > 1 && cause.beyond > 0.5) expect(advice.action.kind).not.toBe("move");
        if (stop) expect(record).toMatchObject({ accepted: false, turns: false });
      },
    ),
    { numRuns: 150 },
  );
});
