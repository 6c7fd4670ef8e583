import { weightsFrom } from "../metrology";
import { type MachineShown, ODD as ODD_MACHINE, ODD_WIDTH, type Response } from "./pool";

/** What one machine has shown of a knob, visit by visit: the newest tells most. */

/** One visit: what it showed, and when, in years from any moment that all of them share. */
export interface VisitShown extends MachineShown {
  readonly years: number;
}

/**
 * How far the response of a knob wanders in a year, as a share of itself: a screw was serviced, a spring aged. About a tenth; some machines
 * stand still, some are worn, and their own visits tell which. From memory.
 */
export const USUAL_DRIFTS: readonly Drift[] = [
  { share: 0.01, weight: 0.25 },
  { share: 0.1, weight: 0.5 },
  { share: 0.3, weight: 0.25 },
];

/** A share of itself that a response wanders in a year, and how likely it is that. */
export interface Drift {
  readonly share: number;
  readonly weight: number;
}
/** Two visits on one day are two looks all the same: nothing wanders less than in a fortnight, years. Our choice. */
const LEAST_YEARS = 0.04;
/** A visit further off than this many standard deviations was an odd one: it weighs as little as makes it fit. Our choice. */
const ODD = 2;

/**
 * The response as it will be at a later moment, from the visits before: a random walk in time with noisy looks at it (Kalman), its drift one of
 * a few, weighed by how likely each made the visits. It begins where the other machines of the model put it, or, one machine in twenty, anywhere
 * about that: an odd machine is believed. What is old fades by the drift since; one visit that fits nothing counts for little (Huber, “Robust
 * Statistics”, 1981).
 *
 * @param shown oldest first, each with its standard deviation > 0
 * @param now years, from the same moment as those of the visits
 * @param others what the other machines of its model have shown, where they have; its own figure is no part of it
 * @param start response the knob has where nothing is known, > 0: what an odd machine lies about
 * @param drifts how far such knobs wander, as the machines of the model have shown
 * @returns null with no visit
 */
export function ownResponse(
  shown: readonly VisitShown[],
  now: number,
  { others, start, drifts = USUAL_DRIFTS }: { others?: Response; start?: Response; drifts?: readonly Drift[] } = {},
): Response | null {
  if (shown.length === 0) return null;
  const begins = others
    ? [
        { ...others, share: 1 - ODD_MACHINE },
        { mean: others.mean, sd: Math.max(others.sd, ODD_WIDTH * (start ?? others).sd), share: ODD_MACHINE },
      ]
    : [{ ...FLAT, share: 1 }];
  const walks = begins.flatMap((begin) =>
    drifts.map(({ share, weight }) => {
      const walk = walked(shown, now, { begin, drift: share });
      return { ...walk, log: Math.log(weight * begin.share) + walk.log };
    }),
  );
  const weights = weightsFrom(walks.map((w) => w.log));
  const mean = (of: (walk: (typeof walks)[number]) => number) =>
    walks.reduce((sum, walk, i) => sum + weights[i]! * of(walk), 0);
  const value = mean((w) => w.value);
  return { mean: value, sd: Math.sqrt(mean((w) => w.variance + (w.value - value) ** 2)) };
}

/**
 * How far the knobs of a model wander in a year, by all of its machines: each drift weighed by how likely it made their visits.
 *
 * @param machines visits of each machine, oldest first
 */
export function driftsOf(machines: readonly (readonly VisitShown[])[]): readonly Drift[] {
  const several = machines.filter((visits) => visits.length > 1);
  const logs = USUAL_DRIFTS.map(({ share, weight }) =>
    several.reduce(
      (sum, visits) => sum + walked(visits, visits.at(-1)!.years, { begin: FLAT, drift: share }).log,
      Math.log(weight),
    ),
  );
  const weights = weightsFrom(logs);
  return USUAL_DRIFTS.map(({ share }, i) => ({ share, weight: weights[i]! }));
}

/** Nothing is known before the first visit: it counts for all it says. */
const FLAT: Response = { mean: 0, sd: Infinity };

function walked(shown: readonly VisitShown[], now: number, { begin, drift }: { begin: Response; drift: number }) {
  const flat = begin.sd === Infinity;
  let [value, variance, at, log] = [begin.mean, begin.sd ** 2, shown[0]!.years, 0];
  const wander = (until: number) => (drift * value) ** 2 * Math.max(LEAST_YEARS, until - at);
  for (const [i, visit] of shown.entries()) {
    if (i === 0 && flat) {
      [value, variance] = [visit.value, visit.sd ** 2];
      continue;
    }
    const prior = variance + (i === 0 ? 0 : wander(visit.years));
    const miss = visit.value - value;
    const spread = prior + visit.sd ** 2;
    const z = Math.abs(miss) / Math.sqrt(spread);
    // Beyond what is odd the likelihood falls as slowly as the weight does: linearly.
    const off = i > 0 && z > ODD;
    log -= 0.5 * Math.log(spread) + (off ? ODD * z - 0.5 * ODD ** 2 : 0.5 * z * z);
    const noise = off ? visit.sd ** 2 * (z / ODD) ** 2 + prior * ((z / ODD) ** 2 - 1) : visit.sd ** 2;
    const gain = prior / (prior + noise);
    value += gain * miss;
    variance = prior * (1 - gain);
    at = visit.years;
  }
  return { value, variance: variance + wander(now), log };
}
