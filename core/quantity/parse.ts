import { type Dimension, type Unit, UNITS, foldUnit, toBase, unitsOf } from "./units";

/** What somebody typed, understood. */
export interface Parsed {
  ok: true;
  /** In the stored unit of the dimension. */
  value: number;
  /** In the unit typed. */
  number: number;
  unit: Unit;
  /** Exactly as typed, for the record. */
  typed: string;
  /** False when the unit was assumed because none was typed. */
  unitTyped: boolean;
}

export type ParseProblem = "empty" | "not-a-number" | "wrong-unit" | "unknown-unit" | "ambiguous" | "absolute";

export interface NotParsed {
  ok: false;
  problem: ParseProblem;
  /** A sentence for the person who typed it. */
  message: string;
}

const FRACTIONS: Record<string, number> = {
  "½": 1 / 2,
  "¼": 1 / 4,
  "¾": 3 / 4,
  "⅛": 1 / 8,
  "⅜": 3 / 8,
  "⅝": 5 / 8,
  "⅞": 7 / 8,
  "⅓": 1 / 3,
  "⅔": 2 / 3,
  "⅙": 1 / 6,
  "⅚": 5 / 6,
};

const DIMENSION_WORDS: Record<Dimension, string> = {
  pressure: "a pressure",
  temperature: "a temperature",
  temperatureDifference: "a temperature difference",
  mass: "a mass",
  volume: "a volume",
  time: "a time",
  angle: "a part of a turn",
  hardness: "a hardness",
  mark: "a grinder setting",
};

const NUMBER = String.raw`[+-]?(?:\d+[.,\d]*|[.,]\d+)`;
const GLYPH = `[${Object.keys(FRACTIONS).join("")}]`;
// 1 1/2 · 3/8 · 1½ · ½ · 9.2
const FIGURE = new RegExp(
  String.raw`^([+-]?)\s*(?:(?:(\d+)\s+)?(\d+)\s*/\s*(\d+)|(\d*)\s*(${GLYPH})|(${NUMBER.replace("[+-]?", "")}))\s*(.*)$`,
  "u",
);

/** One way to write what keyboards and phones write in several: full-width figures, minus signs, the fraction slash, degrees in one sign. */
function plain(typed: string): string {
  return typed
    .trim()
    .replace(/[\uFF0B-\uFF1A]/g, (c) => String.fromCharCode(c.charCodeAt(0) - 0xfee0))
    .replace(/[−–]/g, "-")
    .replace(/\u2044/g, "/")
    .replace(/℃/g, "°C")
    .replace(/℉/g, "°F")
    .replace(/\u00A0|\u3000/g, " ");
}

/**
 * Reads a quantity the way people type it: "130 psi", "0,9 MPa", "9.2", "201F", "1 1/2 turn", "⅜", "1:30".
 * A figure without a unit is taken in `assumed`.
 *
 * Refuses, with the reason: nothing typed, letters, a unit of another dimension, an unknown unit, absolute pressure,
 * and a comma that can be read two ways ("1,000").
 *
 * @example parseQuantity("0,9 MPa", "pressure", unitById("bar")) // { ok: true, value: 9, … }
 */
export function parseQuantity(typed: string, dimension: Dimension, assumed: Unit): Parsed | NotParsed {
  const text = plain(typed);
  if (text === "") return no("empty", "Nothing is typed here yet.");

  const clock =
    dimension === "time"
      ? /^(\d+)(?::|\s*(?:m|min|′|')\s*(?=\d))([0-5]?\d(?:[.,]\d+)?)\s*(?:s|sec|″|"|'')?$/.exec(text)
      : null;
  if (clock) {
    const seconds = Number(clock[1]) * 60 + Number(clock[2]!.replace(",", "."));
    return { ok: true, value: seconds, number: seconds, unit: unitsOf("time")[0]!, typed, unitTyped: true };
  }

  const parts = FIGURE.exec(text);
  if (!parts) return no("not-a-number", `“${short(text)}” is not a number. Type one, like ${exampleFor(assumed)}.`);
  const joined = joinedFraction(parts);
  if (joined)
    return no("ambiguous", `“${short(text)}” can be read as ${joined} or as a fraction. Put a space after the whole.`);
  const figure = figureOf(parts);
  if (typeof figure === "string")
    return figure === "ambiguous"
      ? no("ambiguous", `“${short(text)}” can be read two ways. Leave the thousands mark out.`)
      : no("not-a-number", `“${short(text)}” is not a number. Type one, like ${exampleFor(assumed)}.`);

  const unitText = parts[8]!.trim();
  const unit = unitText === "" ? assumed : findUnit(unitText, dimension);
  if (typeof unit === "string")
    return no(unit === "milli" ? "ambiguous" : unit, unitMessage(unit, unitText, dimension));
  return { ok: true, value: toBase(figure, unit), number: figure, unit, typed, unitTyped: unitText !== "" };
}

function no(problem: ParseProblem, message: string): NotParsed {
  return { ok: false, problem, message };
}

/** “11/2” may be eleven halves, or 1 1/2 with its space forgotten. */
function joinedFraction([, , whole, over, under]: RegExpExecArray): string | null {
  if (whole !== undefined || over === undefined || over.length < 2 || Number(over) < Number(under)) return null;
  const [first, rest] = [over.slice(0, -1), over.slice(-1)];
  return Number(rest) > 0 && Number(rest) < Number(under) ? `${first} ${rest}/${under}` : null;
}

function figureOf(parts: RegExpExecArray): number | "ambiguous" | "malformed" {
  const [, sign, whole, over, under, before, glyph, decimal] = parts;
  const positive =
    decimal !== undefined
      ? decimalOf(decimal)
      : glyph !== undefined
        ? Number(before || 0) + FRACTIONS[glyph]!
        : Number(under) === 0
          ? "malformed"
          : Number(whole ?? 0) + Number(over) / Number(under);
  return typeof positive === "number" ? (sign === "-" ? -positive : positive) : positive;
}

function decimalOf(text: string): number | "ambiguous" | "malformed" {
  const marks = text.replace(/\d/g, "");
  if (marks.length > 1) {
    // 1,234.5 is clear: groups of three, then the other mark once. Anything else is not.
    if (/^\d{1,3}(,\d{3})+\.\d+$/.test(text)) return Number(text.replaceAll(",", ""));
    if (/^\d{1,3}(\.\d{3})+,\d+$/.test(text)) return Number(text.replaceAll(".", "").replace(",", "."));
    return "malformed";
  }
  // "1,000" may be one or a thousand; "0,900" can only be decimal.
  if (/^[1-9]\d{0,2},\d{3}$/.test(text)) return "ambiguous";
  return Number(text.replace(",", "."));
}

function findUnit(text: string, dimension: Dimension): Unit | "wrong-unit" | "unknown-unit" | "absolute" | "milli" {
  // A millipascal is nothing of this trade: folded, it would be a megapascal.
  if (dimension === "pressure" && /^mPa$/.test(text.trim())) return "milli";
  const folded = foldUnit(text);
  const own = unitsOf(dimension).find((u) => u.spellings.includes(folded));
  if (own) return own;
  if (dimension === "pressure" && /^(bar|psi|kpa|mpa)\(?a(bs(olute)?)?\)?$/.test(folded)) return "absolute";
  return UNITS.some((u) => u.spellings.includes(folded)) ? "wrong-unit" : "unknown-unit";
}

function unitMessage(
  problem: "wrong-unit" | "unknown-unit" | "absolute" | "milli",
  text: string,
  dimension: Dimension,
): string {
  const allowed = unitsOf(dimension)
    .map((u) => u.symbol)
    .join(", ");
  if (problem === "milli") return "“mPa” is a thousandth of a pascal. Was it MPa, with a capital M?";
  if (problem === "absolute") return "That is absolute pressure. Type what the gauge shows: pressure above the air’s.";
  if (problem === "wrong-unit") return `“${short(text)}” is not a unit of ${bare(dimension)}. Use one of: ${allowed}.`;
  return `“${short(text)}” is not a unit known here. Use one of: ${allowed}.`;
}

function bare(dimension: Dimension): string {
  return DIMENSION_WORDS[dimension].replace(/^a (part of a )?/, "");
}

function short(text: string): string {
  return text.length > 24 ? `${text.slice(0, 23)}…` : text;
}

function exampleFor(unit: Unit): string {
  const figure: Partial<Record<Dimension, string>> = {
    pressure: "9.2",
    temperature: "93.5",
    angle: "1/4",
    mass: "18.0",
    mark: "12",
  };
  return `${unit.id === "psi" ? "130" : (figure[unit.dimension] ?? "30")} ${unit.symbol}`.trim();
}

export type ParsedRange = { ok: true; low: number; high: number; unit: Unit } | NotParsed;

/**
 * Understands a figure or a step left open, as a strip shows it: "4 °dH", "3-4 °dH", "between 3 and 4", "3 to 4 gpg".
 * Or a pair, "1.0/1.2 bar". The unit may stand behind the second figure alone. Values in the stored unit.
 *
 * @example parseRange("between 3 and 4 °dH", "hardness", unitById("mg/L")) // low 53.5, high 71.4
 */
export function parseRange(typed: string, dimension: Dimension, assumed: Unit): ParsedRange {
  const text = typed
    .trim()
    .replace(/\s+/g, " ")
    .replace(/(?<=[\d°A-Za-z/]) ?− ?(?=[\d.])/g, "–");
  // A pair, as on a plate: “1.2/1.4”. A fraction has no decimals.
  const pair = /^(\d{1,6}[.,]\d{1,6}) ?\/ ?(\d{1,6}[.,]\d{1,6}.{0,12})$/.exec(text);
  const parts = pair ? [pair[1]!, pair[2]!] : twoOf(text.replace(/^between /i, ""));
  if (!parts) {
    const one = parseQuantity(text, dimension, assumed);
    return one.ok ? { ok: true, low: one.value, high: one.value, unit: one.unit } : one;
  }
  const second = parseQuantity(parts[1]!, dimension, assumed);
  if (!second.ok) return second;
  const first = parseQuantity(parts[0]!, dimension, second.unit);
  if (!first.ok) return first;
  if (first.value > second.value)
    return no("not-a-number", `“${short(text)}” runs backwards. Type the smaller number first.`);
  return { ok: true, low: first.value, high: second.value, unit: second.unit };
}

/** Both sides of the word or the stroke that joins two figures; null where nothing does. */
function twoOf(text: string): [string, string] | null {
  const joint = /.(?: (?:and|to|or) |[–—…]|(?<=[\d°A-Za-z/]) ?- ?(?=[\d.]))/i.exec(text);
  if (!joint) return null;
  const [first, second] = [text.slice(0, joint.index + 1), text.slice(joint.index + joint[0].length)];
  return second.trim() ? [first.trim(), second.trim()] : null;
}
