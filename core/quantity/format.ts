import { type Unit, fromBase } from "./units";

const EIGHTHS = ["", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"];

/**
 * Decimals that show a resolution and no more. 0.1 → 1, 0.25 → 2, 0.02 → 2, 1.45 → 0, 5 → 0.
 *
 * @param resolution smallest readable step in the unit shown, > 0
 * @throws RangeError when the resolution is not a positive number
 */
export function decimalsFor(resolution: number): number {
  if (!(resolution > 0) || !Number.isFinite(resolution)) throw new RangeError("A resolution is a positive number.");
  const first = Math.max(0, -Math.floor(Math.log10(resolution) + 1e-9));
  // A step like 0.25 needs its second digit; a converted one like 0.18 must not gain a digit it hasn’t.
  const isWhole = (x: number) => Math.abs(x - Math.round(x)) < 1e-6;
  return !isWhole(resolution * 10 ** first) && isWhole((resolution * 10 ** (first + 1)) / 5) ? first + 1 : first;
}

/**
 * A stored value as a figure in `unit`, with the digits of the instrument's resolution and never more.
 *
 * @param value in the stored unit
 * @param resolution in the stored unit, > 0
 * @example formatFigure(8.9632, 0.1, unitById("psi")) // "130"
 */
export function formatFigure(value: number, resolution: number, unit: Unit): string {
  const shown = fromBase(value, unit).toFixed(decimalsFor(resolution / unit.factor));
  return minus(/^-0(\.0*)?$/.test(shown) ? shown.slice(1) : shown);
}

/**
 * Like {@link formatFigure}, with the unit behind.
 *
 * @param value in the stored unit
 * @param resolution in the stored unit, > 0
 */
export function formatQuantity(value: number, resolution: number, unit: Unit): string {
  return `${formatFigure(value, resolution, unit)} ${unit.symbol}`.trimEnd();
}

/**
 * An uncertainty: two significant digits, never fewer decimals than the reading it belongs to and one more at most,
 * rounded up so that it is not understated (GUM 7.2.6).
 *
 * @param resolution in the stored unit, > 0
 * @param U in the stored unit, ≥ 0
 */
export function formatUncertainty(U: number, resolution: number, unit: Unit): string {
  const least = decimalsFor(resolution / unit.factor);
  const shown = U / unit.factor;
  const two = shown > 0 ? 1 - Math.floor(Math.log10(shown) + 1e-9) : least;
  const decimals = Math.min(least + 1, Math.max(least, two));
  const said = (Math.ceil(shown * 10 ** decimals - 1e-6) / 10 ** decimals).toFixed(decimals);
  // A nought more than the reading has says nothing.
  return decimals > least && said.endsWith("0") ? Number(said).toFixed(least) : said;
}

/**
 * Turns as the trade writes them: ⅜, 1¼; anything that is not an eighth falls back to two decimals. No sign.
 *
 * @param turns signed or not
 */
export function formatTurns(turns: number): string {
  const size = Math.abs(turns);
  const eighths = Math.round(size * 8);
  if (Math.abs(size * 8 - eighths) > 0.02) return size.toFixed(2);
  const whole = Math.floor(eighths / 8);
  const part = EIGHTHS[eighths % 8]!;
  return eighths === 0 ? "0" : `${whole || ""}${part}`;
}

/**
 * "⅜ turn", "1 turn", "1¼ turns".
 *
 * @param turns signed or not
 */
export function formatTurnsLong(turns: number): string {
  return `${formatTurns(turns)} ${Math.abs(turns) > 1.001 ? "turns" : "turn"}`;
}

function minus(text: string): string {
  return text.replace(/^-/, "−");
}
