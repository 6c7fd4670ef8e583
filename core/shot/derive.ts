import { USUAL_KEPT, type Kept, keptAt } from "../volume";
import { extractionYield } from "./log";
import type { Pull } from "./pull";

/** What follows from the figures of a shot, with its uncertainty. */

export interface Figure {
  readonly value: number;
  /** Expanded uncertainty, k = 2. */
  readonly U: number;
}

export interface Derived {
  /** g in the cup per g of coffee */
  ratio: Figure | null;
  /** g/s from the first drop on; over the whole shot where nobody saw it */
  flow: (Figure & { readonly since: "first drop" | "start" }) | null;
  /** ml of water that stayed in puck and headspace; expected from the dose where no meter was read */
  kept: (Figure & { readonly measured: boolean }) | null;
  /** % of the coffee that is in the cup */
  extraction: Figure | null;
}

/** Standard uncertainties of the inputs. */
export interface Inputs {
  /** g */
  readonly dose: number;
  readonly yield: number;
  /** s: two taps of a finger */
  readonly seconds?: number;
  /** % */
  readonly tds?: number;
  /** ml */
  readonly water?: number;
}

/** A tap comes within about 0.3 s of what it marks. From memory. */
const TAP = 0.3;
/** A refractometer for coffee: about 0.1 %. From memory. */
const TDS = 0.1;

/**
 * Ratio, mean flow, kept water and extraction yield. First-order propagation (JCGM 100:2008, 5.1.2), inputs uncorrelated.
 * Extraction yield is a mass balance: TDS × beverage ÷ dose.
 */
export function deriveFrom(pull: Pull, u: Inputs, kept: Kept = USUAL_KEPT): Derived {
  const inCup = pull.yield;
  const rel = (x: number, ux: number) => (x > 0 ? ux / x : 0);
  const relCup = inCup === null ? 0 : rel(inCup, u.yield);
  const relDose = rel(pull.dose, u.dose);
  const figure = (value: number, relative: number): Figure => ({ value, U: 2 * Math.abs(value) * relative });

  return {
    ratio: inCup === null ? null : figure(inCup / pull.dose, Math.hypot(relCup, relDose)),
    flow: flowOf(pull, relCup, u.seconds ?? TAP),
    kept: keptOf(pull, u, kept),
    extraction:
      inCup === null || pull.tds === undefined
        ? null
        : figure(
            extractionYield({ dose: pull.dose, yield: inCup }, pull.tds),
            Math.hypot(relCup, relDose, rel(pull.tds, u.tds ?? TDS)),
          ),
  };
}

function flowOf(pull: Pull, relCup: number, uSeconds: number): Derived["flow"] {
  if (pull.yield === null) return null;
  const dropped = pull.from === "first-drop";
  const running = dropped ? pull.seconds : pull.seconds - (pull.firstDrop ?? 0);
  if (!(running > 0)) return null;
  // What dripped after the stop did not flow while it ran.
  const grams = pull.atStop ?? pull.yield;
  const value = grams / running;
  const U = 2 * value * Math.hypot(relCup, (Math.SQRT2 * uSeconds) / running);
  return { value, U, since: dropped || pull.firstDrop !== undefined ? "first drop" : "start" };
}

function keptOf(pull: Pull, u: Inputs, kept: Kept): Derived["kept"] {
  if (pull.waterIn !== undefined && pull.yield !== null) {
    const U = 2 * Math.hypot(u.water ?? 0.02 * pull.waterIn, u.yield);
    return { value: pull.waterIn - pull.yield, U, measured: true };
  }
  const expected = keptAt(kept, pull.dose);
  return { value: expected.value, U: 2 * Math.hypot(expected.u, kept.sd), measured: false };
}
