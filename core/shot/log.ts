/** One shot as it was recorded, as far as dialling in depends on it. */
export interface Shot {
  /** On the grinder’s own scale; a larger figure is coarser unless the grinder says otherwise. */
  readonly setting: number;
  /** g */
  readonly dose: number;
  /** g in the cup; null for a shot that choked before any figure was worth weighing */
  readonly yield: number | null;
  /** s, from the event the recipe counts from */
  readonly seconds: number;
  /** s to the first drop, from the same event; null if nobody looked */
  readonly firstDrop?: number | null;
  /** It ran past this many seconds with next to nothing in the cup: all that is known is “longer”. */
  readonly choked?: boolean;
  readonly taste?: Taste | null;
  readonly flow?: "gush" | "even" | "drip" | "spray" | "died" | null;
  /** Ended by a button that measures, not by hand. */
  readonly byButton?: boolean;
  /** °C on the display, and how the coffee was roasted, where they are known. */
  readonly setPoint?: number | null;
  readonly roast?: "light" | "medium" | "dark" | null;
  /** Days since roasting, where it is known. */
  readonly age?: number | null;
  /** bar, highest seen */
  readonly peak?: number | null;
  /** Taken not warmed up, or with a cold portafilter. */
  readonly cold?: boolean;
}

export type Taste = "sour" | "balanced" | "bitter";

/** Where nobody saw the first drop: about a quarter of the shot. From memory. */
const FIRST_DROP_SHARE = 0.25;
/** Under this share of the target a shot that was stopped says too little to be drawn out. */
const LEAST_SHARE = 0.25;

/**
 * Seconds the shot would have taken to the target yield: flow is about steady after the first drop, so a shot stopped early, or run
 * long, is drawn out or cut along it.
 *
 * @param target yield, g, > 0
 * @returns null when it choked, or too little was in the cup to say
 */
export function secondsAt(
  shot: Pick<Shot, "seconds" | "yield" | "firstDrop" | "choked">,
  target: number,
): number | null {
  if (shot.choked || shot.yield === null || shot.yield < LEAST_SHARE * target) return null;
  const first = shot.firstDrop ?? FIRST_DROP_SHARE * shot.seconds;
  return first + (shot.seconds - first) * (target / shot.yield);
}

/**
 * Extraction yield: TDS × beverage ÷ dose. Mass balance.
 *
 * @param tds in %
 * @returns %
 * @throws RangeError outside 0 to 100 %
 */
export function extractionYield(shot: { dose: number; yield: number }, tds: number): number {
  if (!(tds > 0 && tds < 100)) throw new RangeError("TDS lies between 0 and 100 %.");
  return (tds * shot.yield) / shot.dose;
}
