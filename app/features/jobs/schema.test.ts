import { randomUUID } from "node:crypto";
import { evidenceSchema, moveSchema, readingSchema, rowSchema, strikeSchema } from "./schema";

/** What is typed for readings and moves: understood with its unit, or refused beside its own field. */

const base = { commandId: randomUUID(), instrumentId: randomUUID(), unit: "bar" };
const reading = (over: Record<string, string>) => readingSchema.safeParse({ ...base, loop: "opv", ...over });
const refused = (result: { success: boolean; error?: { issues: { path: PropertyKey[]; message: string }[] } }) =>
  result.success ? [] : result.error!.issues.map((i) => `${i.path.join(".")}: ${i.message}`);

describe("readings", () => {
  test.each([
    ["9.2", 9.2],
    ["130 psi", 8.963],
    ["0,9 MPa", 9],
    ["8.7-9.3", 9],
    ["8.7 to 9.3 bar", 9],
  ])("%s", (typed, bar) => {
    const result = reading({ reading: typed });
    expect(result.success && result.data.indicated).toBeCloseTo(bar, 3);
  });
  test("both ends of a swing are kept; one figure has none", () => {
    expect(reading({ reading: "8.7-9.3" })).toMatchObject({ data: { detail: { low: 8.7, high: 9.3 } } });
    expect(reading({ reading: "9" })).toMatchObject({ data: { detail: {} } });
  });
  test.each<[Record<string, string>, RegExp]>([
    [{ reading: "" }, /^reading: Type what the gauge shows/],
    [{ reading: "nine" }, /^reading: “nine” is not a number/],
    [{ reading: "-1" }, /^reading: A gauge can’t show less than nothing/],
    [{ reading: "26" }, /^reading: 26.0 bar can’t be: no brew circuit/],
    [{ reading: "17" }, /^sure: 17.0 bar is unusual/],
    [{ reading: "9 °C" }, /^reading: “°C” is not a unit of pressure/],
    [{ reading: "9", flow: "flowing" }, /^bleed: Type the bleed/],
    [{ reading: "9", flow: "flowing", bleed: "9" }, /^bleed: 9.0 ml\/s is more than a shot/],
    [{ reading: "9", returnedMl: "a lot" }, /^returnedMl:/],
    [{ reading: "halfway", clock: "yes" }, /^reading: “halfway” is not a place on a clock face/],
    [{ loop: "pressurestat", reading: "1.2", cutIn: "1.4" }, /^cutIn: Cut-in is the lower/],
    [{ loop: "pressurestat", reading: "5" }, /^reading: 5.00 bar can’t be: the safety valve/],
    [{ loop: "offset", reading: "20 psi", setPoint: "93" }, /^reading: “psi” is not a unit of temperature/],
    [{ loop: "offset", reading: "93", setPoint: "9" }, /^setPoint: 9.0 °C can’t be/],
    [{ loop: "offset", curve: "0 60\n5 190 °F\n9 90", setPoint: "93" }, /^curve: Line 2: .*mixed/],
    [{ loop: "dose-1", reading: "0" }, /^reading: 0.0 g can’t be/],
    [{ loop: "nothing", reading: "9" }, /^loop: Load the page again/],
    [{ instrumentId: "", reading: "9" }, /^instrumentId: Choose/],
  ])("%j is refused: %s", (over, why) => expect(refused(reading(over)).join("\n")).toMatch(why));
  test("the unusual is taken once somebody is sure", () =>
    expect(reading({ reading: "17", sure: "yes" }).success).toBe(true));
  test("flowing, returned and settled go beside the figure", () => {
    expect(reading({ reading: "7", flow: "flowing", bleed: "2 ml/s", returnedMl: "150" })).toMatchObject({
      data: { detail: { flowing: true, bleed: 2, returned: "seen", returnedMl: 150 } },
    });
    expect(reading({ reading: "9", returned: "none", settled: "yes" })).toMatchObject({
      data: { detail: { returned: "none", settled: true } },
    });
  });
  test("a curve is read to its plateau, in its own unit", () => {
    const curve = "0 62\n2 80\n4 90\n6 92.8\n8 93.1\n10 93\n12 93.1";
    expect(reading({ loop: "offset", curve, setPoint: "93" })).toMatchObject({
      data: { indicated: expect.closeTo(93, 1), detail: { by: "plateau", setPoint: 93, curve: expect.any(Array) } },
    });
    expect(reading({ loop: "temperature", reading: "200 F" })).toMatchObject({
      data: { indicated: expect.closeTo(93.33, 2), unit: "F" },
    });
  });
});

describe("moves", () => {
  const move = (over: Record<string, string>) =>
    moveSchema.safeParse({ commandId: randomUUID(), loop: "opv", way: "plus", ...over });
  test.each<[string, string, string, number]>([
    ["opv", "3/8", "plus", 0.375],
    ["opv", "⅜", "minus", -0.375],
    ["opv", "90°", "plus", 0.25],
    ["pressurestat", "3 notches", "plus", 3],
    ["pressurestat", "½", "minus", -0.5],
    ["dose-1", "12 pulses", "minus", -12],
    ["offset", "1 °C", "plus", 1],
    ["line-regulator", "1 1/2 turn", "plus", 1.5],
  ])("%s: %s %s", (loop, amount, way, expected) =>
    expect(move({ loop, amount, way })).toMatchObject({ success: true, data: { amount: expected } }),
  );
  test.each([
    [{ amount: "" }, /^amount: Type how far/],
    [{ amount: "some" }, /^amount: “some” is not a number/],
    [{ amount: "-1" }, /^amount: Type a number above 0/],
    [{ amount: "1", way: "sideways" }, /^way: Say which way/],
    [{ loop: "offset", amount: "up" }, /^amount: /],
  ])("%j is refused: %s", (over, why) => expect(refused(move(over)).join("\n")).toMatch(why));
});

test("rows: cells and instruments by their columns; evidence and striking need what they say", () => {
  const id = randomUUID();
  expect(rowSchema.parse({ commandId: id, task: "t", cell: { a: "1" }, with: { a: id, b: "" } })).toEqual({
    commandId: id,
    task: "t",
    unit: "bar",
    cells: { a: "1" },
    instruments: { a: id },
  });
  expect(rowSchema.safeParse({ commandId: id, task: "t", with: { a: "gauge" } }).success).toBe(false);
  expect(refused(evidenceSchema.safeParse({ commandId: id, task: "t", check: "c" })).join()).toContain(
    "Choose what it showed",
  );
  expect(strikeSchema.safeParse({ commandId: id, entryId: id }).success).toBe(true);
  expect(refused(strikeSchema.safeParse({ commandId: id, entryId: "x" })).length).toBeGreaterThan(0);
});
