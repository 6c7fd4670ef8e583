import type { Tolerance } from "../metrology";
import { type Drift, pOutside, reachedOn } from "./drift";

/** When a machine should be seen again, and why: whichever limit is reached first. */

/** What sets a date. */
export type Limit =
  /** A setting that wanders. */
  | { readonly kind: "drift"; readonly what: string; readonly drift: Drift; readonly tolerance: Tolerance }
  /** A date that is fixed: the interval, a cartridge. */
  | { readonly kind: "date"; readonly what: string; readonly day: number; readonly why: string };

export interface ServiceForecast {
  /** At the latest, day. */
  readonly on: number;
  /** The limit that sets it. */
  readonly limit: Limit;
  /** From when to when it will likely be reached: one in ten, and one in two. The same day where the date is fixed; null: not within six years. */
  readonly window: { readonly from: number; readonly to: number | null };
  /** Chance that some setting is outside by then, 0 to 1: taken as independent; 0 where none wanders. */
  readonly pBefore: number;
}

/** Not waited for longer: one in five is outside. Our choice. */
const WAIT = 0.2;
const [EARLY, EVEN] = [0.1, 0.5];

/**
 * The first limit that will be reached.
 *
 * @param today no date is set before it
 * @param soonest no setting sets a day before it, same count
 * @returns null where nothing limits it
 */
export function forecastService(limits: readonly Limit[], today: number, soonest = today): ServiceForecast | null {
  const dated = limits.flatMap((limit): { limit: Limit; day: number }[] => {
    if (limit.kind === "date") return [{ limit, day: Math.max(limit.day, today) }];
    const day = reachedOn(limit.drift, limit.tolerance, WAIT);
    return day === null ? [] : [{ limit, day: Math.max(day, soonest) }];
  });
  // Of two on one day the fixed date is the plainer reason.
  const first = dated.reduce<(typeof dated)[number] | null>(
    (a, b) => (a && (a.day < b.day || (a.day === b.day && a.limit.kind === "date")) ? a : b),
    null,
  );
  if (!first) return null;
  const { limit, day: on } = first;
  const inside = limits.reduce((p, l) => (l.kind === "drift" ? p * (1 - pOutside(l.drift, l.tolerance, on)) : p), 1);
  return { on, limit, window: windowOf(limit, on, today), pBefore: 1 - inside };
}

function windowOf(limit: Limit, on: number, today: number): ServiceForecast["window"] {
  if (limit.kind === "date") return { from: on, to: on };
  const from = reachedOn(limit.drift, limit.tolerance, EARLY) ?? on;
  const to = reachedOn(limit.drift, limit.tolerance, EVEN);
  return { from: Math.max(from, today), to: to === null ? null : Math.max(to, on) };
}
