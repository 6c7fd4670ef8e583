import { KINDS, type KindId } from "../kind";
import { aGauge, aJob, aPull, aReading, aShot, knobOf } from "./job.fixture";
import { type Entry, type Job, type Standing, amountNow, runOf, standingOf } from ".";
import { doseAgain, retimed, sinceGrind } from "./grind";

// Any kind whose grinder is set by seconds will do.
const TIMED = (Object.keys(KINDS) as KindId[]).find((id) => KINDS[id].knobs.includes("timer"))!;

const dose = (sequence: number, grams: number, amount: number, setting: number) => ({
  ...aReading(
    sequence,
    grams,
    { amount, setting },
    { unit: "g", instrument: { ...aGauge("Scale"), quantity: "mass", highest: 200 } },
  ),
  loop: "basket" as const,
});
const turned = (sequence: number, amount: number) => ({
  id: `turn ${sequence}`,
  by: "Ilka",
  at: new Date(Date.UTC(2026, 4, 4, 9, sequence)),
  loop: "basket" as const,
  sequence,
  supersedes: null,
  reason: "",
  amount,
});
const setTo = (minute: number, value: number): Entry => ({
  id: `set ${minute}`,
  by: "Ilka",
  at: new Date(Date.UTC(2026, 4, 4, 9, minute)),
  readBy: [],
  supersedes: null,
  task: "grinder.setting",
  value: { form: "figure", value },
  typed: String(value),
  unit: "",
});
const timed = (more: Partial<Job>) => standingOf(aJob(TIMED, "handover", more));

describe("a grinder that doses by seconds: the rate belongs to the grind", () => {
  const readings = [dose(1, 16, 8, 10), dose(2, 16.2, 8, 10)];

  test("other machines have no rate", () => {
    const other = (Object.keys(KINDS) as KindId[]).find((id) => !KINDS[id].knobs.includes("timer"))!;
    expect(standingOf(aJob(other, "handover", {})).timed).toBeNull();
  });

  test("the grind stands where the last dose was ground, or where it was set since", () => {
    expect(timed({ readings }).timed!.setting).toBe(10);
    expect(timed({ readings, entries: [setTo(1, 7), setTo(30, 8)] }).timed!.setting).toBe(8);
    // What was set before a dose was weighed has been overtaken by it.
    expect(timed({ readings, entries: [setTo(1, 7)] }).timed!.setting).toBe(10);
  });

  test("finer: the seconds to set come before anything is weighed, and more of them", () => {
    const stand = timed({ readings, entries: [setTo(30, 7)] });
    const { log, loop } = knobOf(stand, "basket");
    const again = retimed(log, loop, stand.timed!)!;
    expect(again.words).toMatch(
      /^The grind went from 10 to 7 since it was timed\. Set .* \(it stands at 8\.0 s\): expect 18\.0 ± /,
    );
    const coarser = timed({ readings, entries: [setTo(30, 13)] });
    const less = retimed(log, knobOf(coarser, "basket").loop, coarser.timed!)!;
    expect(Number(again.seconds)).toBeGreaterThan(Number(less.seconds));
    const same = timed({ readings });
    expect(retimed(log, loop, same.timed!)).toBeNull();
    expect(retimed([], loop, same.timed!)).toBeNull();
  });

  test("the amount is what was read, with what was turned since; read again it is that", () => {
    const at = (more: Partial<Job>) => {
      const { log, loop } = knobOf(timed(more), "basket");
      return amountNow(log, loop);
    };
    expect(at({})).toBeNull();
    expect(at({ readings })).toBe(8);
    expect(at({ readings, moves: [turned(3, 0.9)] })).toBeCloseTo(8.9, 9);
    expect(at({ readings: [...readings, dose(4, 18, 9, 10)], moves: [turned(3, 0.9)] })).toBe(9);
  });

  test("the engine begins anew with the grind: doses of another one are no readings of this knob", () => {
    const more = [...readings, dose(4, 15, 9, 7), dose(6, 17.8, 10.6, 7)];
    const { log, question } = knobOf(timed({ readings: more, moves: [turned(3, 1), turned(5, 1.6)] }), "basket");
    expect(sinceGrind(log, 7).map((l) => (l.kind === "grind" ? 0 : l.row.sequence))).toEqual([4, 5, 6]);
    expect(question!.events.map((e) => e.kind)).toEqual(["reading", "move", "reading"]);
    // A turn before the first dose of this grind was the re-timing itself.
    expect(sinceGrind(log, 10)).toEqual([]);
  });
});

describe("a grinder built in: the grind of the shots is that of the doses", () => {
  const scale = { ...aGauge("Scale"), quantity: "mass" as const, highest: 200 };
  const weighed = (sequence: number, grams: number) => ({
    ...aReading(sequence, grams, { amount: 14 }, { unit: "g", instrument: scale }),
    loop: "basket" as const,
  });
  const shotAt = (number: number, minute: number, setting: number) => ({
    ...aShot(number, aPull({ setting })),
    at: new Date(aReading(minute, 1).at.getTime() + 1000),
  });
  const with_ = (more: Partial<Job>) => standingOf(aJob("K1", "handover", more));
  const openAt = (stand: Standing, id: string) => stand.at(Date.now()).find((p) => p.station.id === id)!;

  test("moved after the dose was weighed, the dose is asked for again and the old one counts no more; shots go on", () => {
    const before = with_({ readings: [weighed(1, 18)], shots: [shotAt(1, 2, 5)] });
    expect(knobOf(before, "basket").record).toMatchObject({ regrind: null, events: ["reading"] });
    const moved = with_({ readings: [weighed(1, 18)], shots: [shotAt(1, 2, 5), shotAt(2, 3, 6)] });
    const { record, log } = knobOf(moved, "basket");
    expect(record).toMatchObject({ regrind: "asked", events: ["reading", "move"] });
    expect(runOf(log, "as-left")).toEqual([]);
    expect(doseAgain(log)).toContain("The grind went from 5 to 6 since the dose was weighed");
    expect(openAt(moved, "shots").why ?? "").not.toContain("The dose is weighed first");
  });

  test("weighed at the new grind it is what is left, and the mean is of this grind alone; back at the old one nothing was moved", () => {
    const again = with_({ readings: [weighed(1, 17), weighed(4, 18.1)], shots: [shotAt(1, 2, 5), shotAt(2, 3, 6)] });
    const { record, log, question } = knobOf(again, "basket");
    expect(record).toMatchObject({ regrind: "weighed", events: ["reading", "move", "reading"] });
    expect(runOf(log, "as-left").map((r) => r.value)).toEqual([18.1]);
    expect(question!.events).toHaveLength(1);
    const back = with_({ readings: [weighed(1, 18)], shots: [shotAt(1, 2, 5), shotAt(2, 3, 6), shotAt(3, 4, 5)] });
    expect(doseAgain(knobOf(back, "basket").log)).toBe("");
  });

  test("a grinder beside the machine is not the one that these doses came from", () => {
    const readings = [weighed(1, 18)];
    const beside = standingOf(aJob("K7", "handover", { readings, shots: [shotAt(1, 2, 5), shotAt(2, 3, 6)] }));
    expect(knobOf(beside, "basket").log.map((l) => l.kind)).toEqual(["reading"]);
  });
});
