import { deviation, mean as meanOf } from "d3-array";
import { parseQuantity, unitById } from "../quantity";

/** The temperature of water at the coffee over the seconds of a flush. */

export interface CurvePoint {
  /** s from the start of flow */
  readonly t: number;
  /** °C */
  readonly celsius: number;
}

export type ParsedCurve =
  { ok: true; points: CurvePoint[]; unit: "C" | "F" } | { ok: false; line: number | null; message: string };

/** Over half an hour at one a second; more is another file. Our choice. */
const MOST_POINTS = 2000;

/** Letters of one line. Our choice: a figure, a temperature and their units are half of it. */
const LONGEST_LINE = 60;
/** “10 92.4”, “10 s: 92.4 °C”, “10,92.4”, “10,5;92,4”: runs of blanks are one by then. */
const POINT = /^(\d+(?:[.,]\d+)?) ?s? ?(?:[;:] ?|, |,(?=\d+(?:\.\d+)? ?(?:°|[CF]|$))| )(.+)$/i;

/**
 * Points typed in or pasted from a trace: a line each, or separated by semicolons; seconds, then temperature. A heading line is passed
 * over. All temperatures in one unit: °C, or °F said at each or in the heading.
 *
 * @example parseCurve("0 62\n5 88.5\n10 92.1") // three points
 */
export function parseCurve(typed: string): ParsedCurve {
  const lines = typed.split(/[\n\r]+|;\s+/).map((l) => l.trim().replace(/\s+/g, " "));
  const heading = lines.find((l) => l && !/^[\d.,]/.test(l)) ?? "";
  const assumed = /°?\bF\b|fahrenheit/i.test(heading) ? "F" : "C";
  const points: CurvePoint[] = [];
  const units = new Set<string>();
  for (const [i, line] of lines.entries()) {
    if (!line || (line === heading && points.length === 0)) continue;
    const fail = (message: string) => ({ ok: false as const, line: i + 1, message: `Line ${i + 1}: ${message}` });
    const parts = line.length > LONGEST_LINE ? null : POINT.exec(line);
    if (!parts) return fail(`“${line.slice(0, 24)}” is not seconds and a temperature, like “10 92.4”.`);
    const t = Number(parts[1]!.replace(",", "."));
    const parsed = parseQuantity(parts[2]!, "temperature", unitById(assumed));
    if (!parsed.ok) return fail(parsed.message);
    units.add(parsed.unit.id);
    if (units.size > 1) return fail("°C and °F are mixed in one series. Type all of it in one unit.");
    const before = points.at(-1);
    if (before && !(t > before.t)) return fail(`${t} s does not come after ${before.t} s.`);
    if (parsed.value < -5 || parsed.value > 160)
      return fail(`${parsed.value.toFixed(0)} °C can’t be water at a group.`);
    points.push({ t, celsius: parsed.value });
    if (points.length > MOST_POINTS) return fail(`More than ${MOST_POINTS} points: thin the trace out.`);
  }
  if (points.length < 3)
    return {
      ok: false,
      line: null,
      message: "A curve needs three points at least: seconds and temperature, a line each.",
    };
  return { ok: true, points, unit: units.has("F") ? "F" : "C" };
}

export interface CurveReading {
  peak: CurvePoint;
  /** The level it settles at: mean, and the spread of the points that make it; null when it never settles. */
  plateau: { from: number; to: number; celsius: number; sd: number; points: number } | null;
  /** What is compared with the set point: the plateau, or the peak of a flush too short to have one. */
  value: number;
  by: "plateau" | "peak";
  /** Seconds from the lowest point after the peak back to within a degree of it; null where it never falls that far. */
  recovery: number | null;
}

/** A plateau stays inside this, °C, for at least this long, s. Common practice, from memory. */
const PLATEAU_WIDTH = 1;
const PLATEAU_SECONDS = 5;
/** Under the plateau by this, °C, the water has fallen off. Our choice: the width again. */
const FALLEN = 1;

/**
 * Reads a curve: the longest stretch that stays inside a degree for five seconds is the plateau; of equal ones the hotter.
 * @throws RangeError with fewer than 3 points
 */
export function readCurve(points: readonly CurvePoint[]): CurveReading {
  if (points.length < 3) throw new RangeError("A curve needs three points at least.");
  const peak = points.reduce((a, b) => (b.celsius > a.celsius ? b : a));
  const plateau = plateauOf(points);
  return {
    peak,
    plateau,
    value: plateau ? plateau.celsius : peak.celsius,
    by: plateau ? "plateau" : "peak",
    recovery: recoveryOf(points, peak),
  };
}

function plateauOf(points: readonly CurvePoint[]): CurveReading["plateau"] {
  let best: { from: number; to: number } | null = null;
  let start = 0;
  for (let end = 0; end < points.length; end++) {
    while (spreadOf(points, start, end) > PLATEAU_WIDTH) start++;
    const seconds = points[end]!.t - points[start]!.t;
    const longest = best ? points[best.to]!.t - points[best.from]!.t : 0;
    if (end - start >= 2 && seconds >= PLATEAU_SECONDS && seconds > longest + 1e-9) best = { from: start, to: end };
  }
  if (!best) return null;
  const part = points.slice(best.from, best.to + 1).map((p) => p.celsius);
  const mean = meanOf(part)!;
  const sd = deviation(part) ?? Number.NaN;
  return { from: points[best.from]!.t, to: points[best.to]!.t, celsius: mean, sd, points: part.length };
}

function spreadOf(points: readonly CurvePoint[], from: number, to: number): number {
  let low = Infinity;
  let high = -Infinity;
  for (let i = from; i <= to; i++) {
    low = Math.min(low, points[i]!.celsius);
    high = Math.max(high, points[i]!.celsius);
  }
  return high - low;
}

function recoveryOf(points: readonly CurvePoint[], peak: CurvePoint): number | null {
  const after = points.filter((p) => p.t > peak.t);
  if (after.length === 0) return null;
  const lowest = after.reduce((a, b) => (b.celsius < a.celsius ? b : a));
  if (peak.celsius - lowest.celsius < FALLEN) return null;
  const back = after.find((p) => p.t > lowest.t && p.celsius >= peak.celsius - FALLEN);
  return back ? back.t - lowest.t : null;
}
