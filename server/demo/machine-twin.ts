import { randomNormal } from "d3-random";
import type { Loop, LoopId } from "../../core/knobs";
import { aim } from "../../core/metrology";

/** A made-up machine: what each of its knobs really does, how it drifts from visit to visit, and how its grinder runs. */

interface Truth {
  /** What is only read, or done by hand, is near where it should be, and stays so: somebody sees to it every day. */
  readonly byHand: boolean;
  value: number;
  /** Reading units per knob unit, signed in the engine’s sense. */
  readonly response: number;
  /** What the trade’s tolerance leaves to either side: how far it drifts in a season. */
  readonly width: number;
}

export class MachineTwin {
  private readonly knobs = new Map<LoopId, Truth>();
  /** Marks of the grinder’s scale at which a shot of the recipe runs its time. */
  private grind: number;
  private readonly normal: (sd: number) => number;

  /** @param random uniform in [0, 1), the only source of chance */
  constructor(private readonly random: () => number) {
    const one = randomNormal.source(random)(0, 1);
    this.normal = (sd) => sd * one();
    this.grind = 10 + 4 * random();
  }

  private of(loop: Loop): Truth {
    let truth = this.knobs.get(loop.id);
    if (!truth) {
      const { lower, upper } = loop.tolerance;
      const width =
        lower !== undefined && upper !== undefined ? (upper - lower) / 2 : 0.2 * Math.abs(aim(loop.tolerance));
      const { mean = 1, sd = 0.1 } = loop.knob?.response ?? {};
      truth = {
        byHand: loop.knob === null,
        value: aim(loop.tolerance) + this.normal((loop.knob ? 1.2 : 0.35) * width),
        response: (loop.knob?.direction ?? 1) * Math.max(0.4 * mean, mean + this.normal(0.4 * sd)),
        width,
      };
      this.knobs.set(loop.id, truth);
    }
    return truth;
  }

  /** What an instrument without error would show, scatter of the thing itself included. */
  read(loop: Loop): number {
    return this.of(loop).value + this.normal(loop.scatter);
  }

  /** @param amount in the engine’s sense, the knob’s unit */
  move(loop: Loop, amount: number): void {
    const truth = this.of(loop);
    truth.value += truth.response * amount;
  }

  /** Out of spec, as it is found before something of it is renewed. */
  wear(loop: Loop): void {
    const truth = this.of(loop);
    truth.value = aim(loop.tolerance) - 3 * truth.width;
  }

  /** Something of the knob was renewed: it begins anew. */
  renew(loop: Loop): void {
    this.knobs.delete(loop.id);
    this.of(loop);
  }

  /** A season of use: springs settle, seats wear, coffee and weather change. */
  rest(): void {
    for (const truth of this.knobs.values())
      truth.value += truth.byHand
        ? this.normal(0.15 * truth.width)
        : this.normal(0.7 * truth.width) - 0.25 * truth.width;
    this.grind += this.normal(1.5);
  }

  /**
   * A shot through the grinder.
   *
   * @param setting marks of its scale, a lower figure finer
   * @param target s the recipe wants
   * @returns s to the wanted weight in the cup
   */
  shot(setting: number, target: number): number {
    const seconds = target * Math.exp(-0.09 * (setting - this.grind)) + this.normal(0.6);
    return Math.max(6, seconds);
  }

  /** A figure near one, as the hand and the hour make it. */
  near(value: number, sd: number): number {
    return value + this.normal(sd);
  }

  chance(p: number): boolean {
    return this.random() < p;
  }
}
