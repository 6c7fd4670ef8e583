import fc from "fast-check";
import Qty from "js-quantities";
import {
  type Dimension,
  UNITS,
  baseUnit,
  decimalsFor,
  formatFigure,
  formatQuantity,
  formatTurns,
  formatTurnsLong,
  formatUncertainty,
  fromBase,
  parseQuantity,
  parseRange,
  toBase,
  unitById,
} from ".";

const parse = (text: string, dimension: Dimension, unit: string) => parseQuantity(text, dimension, unitById(unit));
const valueOf = (text: string, dimension: Dimension, unit: string) => {
  const parsed = parse(text, dimension, unit);
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.value;
};

describe("units against an independent converter (npm js-quantities)", () => {
  const pairs: [string, string, string, string][] = [
    ["psi", "bar", "psi", "bar"],
    ["kPa", "bar", "kPa", "bar"],
    ["MPa", "bar", "MPa", "bar"],
    ["mbar", "bar", "mbar", "bar"],
    ["F", "C", "tempF", "tempC"],
    ["dF", "dC", "degF", "degC"],
    ["kg", "g", "kg", "g"],
    ["oz", "g", "oz", "g"],
    ["l", "ml", "l", "ml"],
    ["floz", "ml", "floz", "ml"],
    ["gal", "ml", "gal", "ml"],
    ["min", "s", "min", "s"],
    ["h", "s", "h", "s"],
    ["deg", "turn", "deg", "rotation"],
  ];
  test.each(pairs)("%s → %s", (from, to, theirs, theirBase) => {
    for (const x of [1, 9.3, 212]) {
      const expected = Qty(x, theirs).to(theirBase).scalar;
      expect(toBase(x, unitById(from)) / expected).toBeCloseTo(1, 5);
      expect(fromBase(toBase(x, unitById(from)), unitById(from))).toBeCloseTo(x, 9);
      expect(unitById(to).factor).toBe(1);
    }
  });

  test("published factors: NIST SP 811 App. B (values from memory)", () => {
    expect(fromBase(1, unitById("psi"))).toBeCloseTo(14.50377, 5);
    expect(toBase(1, unitById("floz"))).toBeCloseTo(29.57353, 5);
    expect(toBase(1, unitById("kgf/cm2"))).toBe(0.980665);
    expect(toBase(212, unitById("F"))).toBeCloseTo(100, 12);
    expect(toBase(-40, unitById("F"))).toBeCloseTo(-40, 12);
  });

  test("hardness grades follow their definitions (values from memory)", () => {
    expect(toBase(1, unitById("mmol/L"))).toBeCloseTo(100.09, 2);
    expect(toBase(1, unitById("dH"))).toBeCloseTo(17.85, 2);
    expect(toBase(1, unitById("fH"))).toBe(10);
    expect(toBase(1, unitById("e"))).toBeCloseTo(14.25, 2);
    expect(toBase(1, unitById("gpg"))).toBeCloseTo(17.12, 2);
  });

  test("trade: 201 °F is about 94 °C", () => expect(valueOf("201F", "temperature", "C")).toBeCloseTo(93.9, 1));
});

describe("what people type", () => {
  test.each([
    ["9.2", "pressure", "bar", 9.2],
    ["9,2", "pressure", "bar", 9.2],
    [" 9.2 bar ", "pressure", "bar", 9.2],
    ["130 psi", "pressure", "bar", 8.96318],
    ["130PSI", "pressure", "bar", 8.96318],
    ["0,9 MPa", "pressure", "bar", 9],
    ["900kPa", "pressure", "bar", 9],
    ["130", "pressure", "psi", 8.96318],
    [".9 MPa", "pressure", "bar", 9],
    ["−2", "temperatureDifference", "dC", -2],
    ["+1.5 °C", "temperatureDifference", "dC", 1.5],
    ["201 °F", "temperature", "C", 93.8889],
    ["½", "angle", "turn", 0.5],
    ["1½ turns", "angle", "turn", 1.5],
    ["3/8", "angle", "turn", 0.375],
    ["1 1/2 turn", "angle", "turn", 1.5],
    ["-1/4", "angle", "turn", -0.25],
    ["90°", "angle", "turn", 0.25],
    ["90 deg", "angle", "turn", 0.25],
    ["1:30", "time", "s", 90],
    ["2 min", "time", "s", 120],
    ["1,234.5 g", "mass", "g", 1234.5],
    ["1.234,5 g", "mass", "g", 1234.5],
    ["0,900", "pressure", "MPa", 9],
    ["18°dH", "hardness", "mg/L", 321.264],
    ["2 fl oz", "volume", "ml", 59.147],
  ] as const)("%s", (text, dimension, unit, expected) => {
    expect(valueOf(text, dimension, unit)).toBeCloseTo(expected, 2);
  });

  test.each([
    ["", "empty"],
    ["   ", "empty"],
    ["nine", "not-a-number"],
    ["9.2.1", "not-a-number"],
    ["1/0", "not-a-number"],
    ["--3", "not-a-number"],
    ["9 °C", "wrong-unit"],
    ["9 g", "wrong-unit"],
    ["9 parsec", "unknown-unit"],
    ["10 bara", "absolute"],
    ["1,000", "ambiguous"],
    ["9e3", "unknown-unit"],
    ["<script>", "not-a-number"],
    ["9; DROP TABLE", "unknown-unit"],
  ] as const)("refuses %p: %s", (text, problem) => {
    const parsed = parse(text, "pressure", "bar");
    expect(parsed).toMatchObject({ ok: false, problem });
    if (!parsed.ok) expect(parsed.message).toMatch(/^.{10,}\.$/);
  });

  test("keeps what was typed and which unit was meant", () => {
    expect(parse("130 psi", "pressure", "bar")).toMatchObject({ typed: "130 psi", number: 130, unitTyped: true });
    expect(parse("9", "pressure", "bar")).toMatchObject({ unitTyped: false, unit: { id: "bar" } });
  });

  test("an unknown unit id is a programming error", () => expect(() => unitById("furlong")).toThrow(RangeError));

  test("any value printed in any unit is read back (property)", () => {
    fc.assert(
      fc.property(fc.constantFrom(...UNITS), fc.double({ min: -500, max: 500, noNaN: true }), (unit, x) => {
        const text = `${x.toFixed(3)} ${unit.symbol}`;
        const parsed = parseQuantity(text, unit.dimension, baseUnit(unit.dimension));
        expect(parsed.ok && parsed.value).toBeCloseTo(toBase(Number(x.toFixed(3)), unit), 6);
      }),
    );
  });

  test("never throws, whatever is typed (property)", () => {
    fc.assert(fc.property(fc.string(), (text) => typeof parse(text, "pressure", "bar").ok === "boolean"));
  });
});

describe("figures show the instrument's resolution and no more", () => {
  test.each([
    [0.1, 1],
    [0.2, 1],
    [0.25, 2],
    [0.5, 1],
    [1, 0],
    [5, 0],
    [0.02, 2],
    [1.45, 0],
    [0.0145, 2],
    [0.18, 1],
  ])("resolution %p → %p decimals", (resolution, decimals) => expect(decimalsFor(resolution)).toBe(decimals));

  test("a resolution must be positive", () => {
    expect(() => decimalsFor(0)).toThrow(RangeError);
    expect(() => decimalsFor(Number.NaN)).toThrow(RangeError);
  });

  test("converted figures gain no digits", () => {
    expect(formatQuantity(8.9632, 0.1, unitById("psi"))).toBe("130 psi");
    expect(formatQuantity(9, 0.1, unitById("MPa"))).toBe("0.90 MPa");
    expect(formatQuantity(8.3, 0.2, unitById("bar"))).toBe("8.3 bar");
    expect(formatQuantity(93.9, 0.1, unitById("F"))).toBe("201.0 °F");
  });

  test("minus is a minus, and minus nothing is nothing", () => {
    expect(formatFigure(-0.04, 0.1, unitById("bar"))).toBe("0.0");
    expect(formatFigure(-1.5, 0.1, unitById("bar"))).toBe("−1.5");
  });

  test("uncertainties round up", () => {
    // GUM 7.2.6: two figures are enough, and 0.119 is not nearly doubled to 0.2.
    expect(formatUncertainty(0.119, 0.1, unitById("bar"))).toBe("0.12");
    expect(formatUncertainty(0.11, 0.1, unitById("bar"))).toBe("0.11");
    expect(formatUncertainty(1.42, 0.1, unitById("bar"))).toBe("1.5");
    expect(formatUncertainty(0.8, 0.1, unitById("bar"))).toBe("0.8");
    expect(formatUncertainty(0.2, 0.1, unitById("bar"))).toBe("0.2");
  });

  test.each([
    [0.375, "⅜"],
    [1.25, "1¼"],
    [-0.5, "½"],
    [0, "0"],
    [2, "2"],
    [0.3, "0.30"],
  ])("turns %p → %s", (turns, text) => expect(formatTurns(turns)).toBe(text));

  test("one turn, more turns", () => {
    expect(formatTurnsLong(0.25)).toBe("¼ turn");
    expect(formatTurnsLong(1)).toBe("1 turn");
    expect(formatTurnsLong(1.5)).toBe("1½ turns");
  });
});

describe("typed as it comes", () => {
  test.each([
    ["92.5℃", "temperature", "C", 92.5],
    ["200℉", "temperature", "C", 93.333],
    ["93.5 degrees", "temperature", "C", 93.5],
    ["1⁄4", "angle", "turn", 0.25],
    ["1 1⁄4 turn", "angle", "turn", 1.25],
    ["⅙", "angle", "turn", 1 / 6],
    ["⅚ turn", "angle", "turn", 5 / 6],
    ["１８．５", "mass", "g", 18.5],
    ["−2", "temperatureDifference", "dC", -2],
    ["1m30s", "time", "s", 90],
    ["1 min 5 s", "time", "s", 65],
    ["25″", "time", "s", 25],
    ["1′30″", "time", "s", 90],
    ["5 cl", "volume", "ml", 50],
    ["8 °GH", "hardness", "mg/L", 8 * (10 / 56.0774) * 100.0869],
  ] as const)("%s", (text, dimension, unit, value) => expect(valueOf(text, dimension, unit)).toBeCloseTo(value, 2));

  test("what can be read two ways is asked: 11/2 for 1 1/2, mPa for MPa", () => {
    expect(parse("11/2", "angle", "turn")).toMatchObject({ ok: false, problem: "ambiguous" });
    expect(parse("11/2", "angle", "turn")).toMatchObject({ message: expect.stringContaining("1 1/2") });
    // Nothing else it could be.
    expect(valueOf("10/2", "angle", "turn")).toBe(5);
    expect(valueOf("3/2", "angle", "turn")).toBe(1.5);
    expect(parse("0.9 mPa", "pressure", "bar")).toMatchObject({ ok: false, problem: "ambiguous" });
    expect(parse("0.9 mPa", "pressure", "bar")).toMatchObject({ message: expect.stringContaining("MPa") });
    expect(valueOf("0.9 mpa", "pressure", "bar")).toBeCloseTo(9, 9);
  });

  test.each(["18 to 20", "18–20", "18−20", "18 - 20", "18-20 g"])("a range: %s", (text) =>
    expect(parseRange(text, "mass", unitById("g"))).toMatchObject({ ok: true, low: 18, high: 20 }),
  );
});
