import { SPEC_QUANTITIES, STARTING_CARDS, toleranceFor } from ".";
import { KINDS, KIND_IDS, usualCard } from "../kind";
import { checkTolerance } from "../metrology";
import { SCHOOLS, SCHOOL_IDS, USUAL_SCHOOLS, overridden, schoolWords } from "../school";

describe("published definitions (values from memory)", () => {
  test("certified Italian espresso: 7 ± 0.5 g, 25 ± 2.5 ml in 25 ± 5 s, 9 ± 1 bar, 88 ± 2 °C", () => {
    const { lines } = STARTING_CARDS["certified-italian"];
    expect(toleranceFor(lines, "dose")).toEqual({ lower: 6.5, target: 7, upper: 7.5 });
    expect(toleranceFor(lines, "shot-volume")).toEqual({ lower: 22.5, target: 25, upper: 27.5 });
    expect(toleranceFor(lines, "shot-time")).toEqual({ lower: 20, target: 25, upper: 30 });
    expect(toleranceFor(lines, "brew-pressure")).toEqual({ lower: 8, target: 9, upper: 10 });
    expect(toleranceFor(lines, "group-temperature")).toEqual({ lower: 86, target: 88, upper: 90 });
  });
  test("SCA: 7–9 g, 25–35 ml, 20–30 s, 9–10 bar, 90.5–96.1 °C", () => {
    const { lines } = STARTING_CARDS.sca;
    expect(toleranceFor(lines, "dose")).toMatchObject({ lower: 7, upper: 9 });
    expect(toleranceFor(lines, "shot-volume")).toMatchObject({ lower: 25, upper: 35 });
    expect(toleranceFor(lines, "group-temperature")).toMatchObject({ lower: 90.5, upper: 96.1 });
    expect(toleranceFor(lines, "hardness")).toBeUndefined();
  });
  test("every line of every card is a tolerance with its source", () => {
    for (const card of Object.values(STARTING_CARDS))
      for (const line of card.lines) {
        expect(() => checkTolerance(line)).not.toThrow();
        expect(line.source).not.toBe("");
        expect(SPEC_QUANTITIES[line.quantity]).toBeDefined();
      }
  });
});

describe("schools", () => {
  test("the twelve questions of the trade, each with at least two answers, the usual one among them", () => {
    expect(SCHOOL_IDS).toHaveLength(12);
    for (const id of SCHOOL_IDS) {
      expect(Object.keys(SCHOOLS[id].options).length).toBeGreaterThanOrEqual(2);
      expect(Object.keys(SCHOOLS[id].options)).toContain(USUAL_SCHOOLS[id]);
      expect(Object.values(SCHOOLS[id].options)).toContain(schoolWords(id, USUAL_SCHOOLS[id]));
    }
  });
  test("what a job answers otherwise is named", () =>
    expect(overridden({ ...USUAL_SCHOOLS, hardness: "published-band" }, USUAL_SCHOOLS)).toEqual(["hardness"]));
});

describe("kinds and their usual cards", () => {
  test.each(KIND_IDS)("%s", (id) => {
    const kind = KINDS[id];
    const card = usualCard(kind);
    expect(card.linePressure !== null).toBe(kind.supply === "plumbed");
    expect(card.steamPressure !== null).toBe(kind.steamGauge);
    expect(card.offset !== null).toBe(kind.knobs.includes("offset"));
    expect(kind.cautions.length).toBeGreaterThan(0);
    expect(kind.special.length).toBeGreaterThan(0);
  });
  test("trade: lever 1.0 to 1.2 bar of steam, commercial 1.2 to 1.4; line 3 to 6; no acid through a K8's tank", () => {
    expect(usualCard(KINDS.K10).steamPressure).toEqual({ lower: 1, upper: 1.2 });
    expect(usualCard(KINDS.K11)).toMatchObject({
      steamPressure: { lower: 1.2, upper: 1.4 },
      linePressure: { lowest: 3, highest: 6 },
    });
    expect(usualCard(KINDS.K8).descaling).toBe("dismantle-only");
  });
});
