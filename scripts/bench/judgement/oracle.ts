import { randomLcg, randomNormal } from "d3-random";
import { phi } from "../../../core/metrology";

/**
 * What the best there is would need: a particle filter that knows the very population a machine was drawn from, and moves to where it most
 * likely comes to lie inside. It accepts at the same probability as the product, so that both run the same risk.
 */

interface Particle {
  /** Value at the first place, and what one unit of the knob is worth. */
  readonly value: number;
  readonly response: number;
  weight: number;
}

export interface OracleQuestion {
  readonly particles: number;
  readonly draw: (random: () => number, normal: () => number) => { value: number; response: number };
  /** Standard deviation of one reading, of what a move adds, and the limits. */
  readonly noise: number;
  readonly scatter: number;
  readonly lower: number;
  readonly upper: number;
  /** Units of the knob that may be moved at once. */
  readonly moves: readonly number[];
  readonly accept: number;
}

/** Moves and readings on the average of `n` machines, and how often what was accepted lay outside. */
export function runOracle(question: OracleQuestion, n: number, seed: number) {
  const random = randomLcg(seed);
  const normal = randomNormal.source(random)(0, 1);
  const { noise, scatter, lower, upper } = question;
  const tally = { moves: 0, readings: 0, wrong: 0 };
  for (let i = 0; i < n; i++) {
    const truth = question.draw(random, normal);
    const cloud: Particle[] = Array.from({ length: question.particles }, () => ({
      ...question.draw(random, normal),
      weight: 1,
    }));
    let at = 0;
    let strayed = 0;
    let spread = 0;
    for (let k = 0; k < 30; k++) {
      const now = truth.value + truth.response * at + strayed;
      const seen = now + noise * normal();
      tally.readings++;
      const sd = Math.hypot(noise, spread);
      let total = 0;
      for (const p of cloud) {
        p.weight *= Math.exp(-0.5 * ((seen - p.value - p.response * at) / sd) ** 2) + 1e-12;
        total += p.weight;
      }
      const inside = (place: number) => {
        const blur = Math.max(1e-6, spread);
        return (
          cloud.reduce((sum, p) => {
            const v = p.value + p.response * place;
            return sum + p.weight * (phi((upper - v) / blur) - phi((lower - v) / blur));
          }, 0) / total
        );
      };
      const here = inside(at);
      if (here >= question.accept) {
        if (now < lower || now > upper) tally.wrong++;
        break;
      }
      const best = question.moves.map((m) => ({ m, p: inside(at + m) })).reduce((a, b) => (b.p > a.p + 1e-9 ? b : a));
      // A reading tells as much where it stands: it moves only where that is clearly likelier.
      if (best.p <= 1.25 * here) continue;
      at += best.m;
      strayed += scatter * normal();
      spread = Math.hypot(spread, scatter);
      tally.moves++;
    }
  }
  return { moves: tally.moves / n, readings: tally.readings / n, wrong: tally.wrong / n };
}
