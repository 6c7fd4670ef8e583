import { shotSchema, takeSchema, tapSchema } from "./schema";

/** What is typed for a shot, understood with its unit, or refused beside its field. */

const id = "0198c0de-0000-7000-8000-000000000001";
const GOOD = {
  commandId: id,
  coffeeName: "Breakwater blend",
  setting: "10",
  dose: "18",
  seconds: "26",
  yield: "36",
};
const pullOf = (over: Record<string, string> = {}) => shotSchema.parse({ ...GOOD, ...over }).input.pull;
const problem = (over: Record<string, string>) => {
  const result = shotSchema.safeParse({ ...GOOD, ...over });
  return result.success ? "" : result.error.issues.map((i) => `${i.path.join(".")}: ${i.message}`).join("; ");
};

describe("a shot as typed", () => {
  test("figures with and without their unit are the same shot", () => {
    const plain = pullOf();
    expect(plain).toMatchObject({
      dose: 18,
      yield: 36,
      seconds: 26,
      setting: 10,
      from: "pump",
      by: "manual",
      group: 1,
    });
    const units = pullOf({ dose: "18 g", yield: "0.036 kg", seconds: "0:26", setting: "10,0" });
    expect(units.yield).toBeCloseTo(plain.yield!, 9);
    expect({ ...units, yield: 36 }).toEqual({ ...plain, yield: 36 });
    expect(pullOf({ setPoint: "201 F" }).setPoint).toBeCloseTo(93.9, 1);
    expect(pullOf({ peak: "130 psi" }).peak).toBeCloseTo(8.96, 2);
    expect(pullOf({ peak: "130", unit: "psi" }).peak).toBeCloseTo(8.96, 2);
    expect(pullOf({ tds: "9.2 %" }).tds).toBe(9.2);
  });

  test("an amount is seconds, threads, or a place on a clock face", () => {
    expect(pullOf({ amount: "half past two", amountKind: "clock" }).amount).toBe(14.5);
    expect(pullOf({ amount: "8.4", amountKind: "seconds" }).amount).toBe(8.4);
    expect(pullOf({ amount: "6", amountKind: "threads" }).amount).toBe(6);
    expect(pullOf({ amount: "6" }).amount).toBeUndefined();
  });

  test("what is left empty is not made up; a choked one needs no cup", () => {
    const { firstDrop, peak, taste, coffee, note } = pullOf({ taste: "", roast: "" });
    expect([firstDrop, peak, taste, coffee.roast, note]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    expect(pullOf({ yield: "", choked: "yes" })).toMatchObject({ yield: null, choked: true });
  });

  test("what was typed is kept as it was", () => {
    const { typed } = shotSchema.parse({ ...GOOD, dose: "18 g" }).input;
    expect(typed).toMatchObject({ dose: "18 g", seconds: "26" });
    expect(typed).not.toHaveProperty("peak");
  });

  test.each<[Record<string, string>, RegExp]>([
    [{ dose: "" }, /^dose: Weigh the dose/],
    [{ seconds: "" }, /^seconds: Tap the timer/],
    [{ setting: "" }, /^setting: Type the grind setting/],
    [{ dose: "18 ml" }, /^dose: “ml” is not a unit of mass/],
    [{ peak: "9 g" }, /^peak: /],
    [{ yield: "lots" }, /^yield: “lots” is not a number/],
    [{ amount: "nowhere", amountKind: "clock" }, /^amount: .*clock face/],
    [{ step: "0" }, /^step: A step is above 0/],
    [{ from: "the bell" }, /^from: /],
  ])("refused: %j", (over, message) => {
    expect(problem(over)).toMatch(message);
  });
});

test("a tap carries its clock and its moment; a recipe taken its shot", () => {
  expect(tapSchema.parse({ commandId: id, clockId: id, what: "pump", moment: "1750000000000" }).moment).toBe(1.75e12);
  expect(tapSchema.safeParse({ commandId: id, clockId: id, what: "hurry", moment: "1" }).success).toBe(false);
  expect(tapSchema.safeParse({ commandId: id, clockId: id, what: "stop", moment: "soon" }).success).toBe(false);
  expect(takeSchema.parse({ commandId: id, shotId: id }).reason).toBe("");
});
