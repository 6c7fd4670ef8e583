/** A dial without figures, read as a clock face. */

/** Points of a model's dial: [hour on the clock face, bar], ascending. Hours before 6 count on: 1 o’clock is 13. */
export type DialScale = readonly (readonly [hour: number, bar: number])[];

/** A needle on a clock face is read to a quarter of an hour. */
export const DIAL_STEP = 0.25;

const HOURS = ["twelve", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven"];

export type ClockRead = { ok: true; low: number; high: number } | { ok: false; message: string };

/**
 * A needle position as people say it: "half past twelve", "12:30", "quarter to one", "12 o’clock", "between 12 and 1".
 *
 * @returns hours on the face, from 6 up to 18, so that they run on over the top; low = high for one position
 * @example parseClock("half past twelve") // { ok: true, low: 12.5, high: 12.5 }
 */
export function parseClock(typed: string): ClockRead {
  const text = typed.trim().toLowerCase().replace(/[’']/g, "'").replace(/\s+/g, " ");
  if (!text) return { ok: false, message: "Say where the needle points, like “half past twelve”." };
  const between = /^(between )?(.+?) (and|to|-|–) (.+)$/.exec(text);
  // "quarter to one" and "5 to 12" have a "to" of their own.
  const minutes =
    between &&
    !between[1] &&
    between[3] === "to" &&
    /^(?:a )?(?:quarter|\d+)$/.test(between[2]!) &&
    !areNeighbours(between[2]!, between[4]!);
  if (between && !minutes) {
    const low = oneClock(between[2]!);
    const high = oneClock(between[4]!);
    if (low !== null && high !== null && low <= high) return { ok: true, low, high };
  }
  const one = oneClock(text);
  return one === null
    ? {
        ok: false,
        message: `“${typed.slice(0, 30)}” is not a place on a clock face. Say it like “half past twelve” or 12:30.`,
      }
    : { ok: true, low: one, high: one };
}

/** “12 to 1” on a dial lies between the two: nobody reads a needle to twelve minutes. */
function areNeighbours(low: string, high: string): boolean {
  const [a, b] = [oneClock(low), oneClock(high)];
  return /^\d+$/.test(low) && a !== null && b !== null && Math.abs(((b - a + 12) % 12) - 1) < 1e-9;
}

function oneClock(text: string): number | null {
  const digits = /^(\d{1,2})[:.](\d{2})$/.exec(text);
  if (digits) return face(Number(digits[1]), Number(digits[2]));
  const said = /^(?:(?:a )?(half|quarter|\d{1,2})(?: minutes?)? (past|to) )?([a-z]+|\d{1,2})(?: ?o'?clock)?$/.exec(
    text,
  );
  if (!said) return null;
  const hour = HOURS.includes(said[3]!) ? HOURS.indexOf(said[3]!) || 12 : Number(said[3]);
  const minutes = said[1] === "half" ? 30 : said[1] === "quarter" ? 15 : Number(said[1] ?? 0);
  return said[2] === "to" ? face(hour, 0, -minutes) : face(hour, minutes);
}

function face(hour: number, minutes: number, before = 0): number | null {
  if (!Number.isInteger(hour) || hour < 1 || hour > 12 || minutes < 0 || minutes > 59 || before < -59) return null;
  const at = hour + (minutes + before) / 60;
  return at < 6 ? at + 12 : at;
}

/**
 * Bar for a needle position, straight between the scale's points.
 *
 * @param hour on the clock face, 6 up to 18: past twelve it counts on
 * @throws RangeError outside the scale
 */
export function dialPressure(scale: DialScale, hour: number): number {
  const first = scale[0]!;
  const last = scale[scale.length - 1]!;
  if (hour < first[0] || hour > last[0])
    throw new RangeError(`This dial runs from ${clockWords(first[0])} to ${clockWords(last[0])}.`);
  const after = Math.max(
    1,
    scale.findIndex(([h]) => h >= hour),
  );
  const [h0, p0] = scale[after - 1]!;
  const [h1, p1] = scale[after]!;
  return p0 + ((p1 - p0) * (hour - h0)) / (h1 - h0);
}

/**
 * Bar that one step of reading (a quarter of an hour) is worth at a position.
 *
 * @param hour on the clock face, 6 up to 18
 */
export function dialResolution(scale: DialScale, hour: number): number {
  const lowest = scale[0]![0];
  const highest = scale[scale.length - 1]![0];
  const at = Math.min(highest - DIAL_STEP / 2, Math.max(lowest + DIAL_STEP / 2, hour));
  return dialPressure(scale, at + DIAL_STEP / 2) - dialPressure(scale, at - DIAL_STEP / 2);
}

/**
 * An hour on a clock face as people write it.
 *
 * @param hour on the clock face, 6 up to 18
 * @example clockWords(12.5) // "12:30"
 */
export function clockWords(hour: number): string {
  const minutes = Math.round(hour * 60);
  const h = Math.floor(minutes / 60);
  return `${h > 12 ? h - 12 : h}:${String(minutes % 60).padStart(2, "0")}`;
}
