import type { Wording } from "../adjust";
import { formatFigure, formatQuantity, formatTurns, formatUncertainty, unitById, unitsOf } from "../quantity";
import { type Hand, type LearntKnob, moveWords } from "./loop";
import type { Loop } from "./registry";

/** The unit a loop's judged figures are shown in: the person's own for pressures, the stored one for all else. */
export function unitOf(loop: Pick<Loop, "judged">, pressureUnit: string): string {
  return loop.judged === "pressure" ? pressureUnit : unitsOf(loop.judged)[0]!.id;
}

/** An amount's size as its knob writes it: eighths of a turn, whole notches, pulses, half grams. */
export function amountFigure(hand: Hand): (size: number) => string {
  return hand.fractions ? formatTurns : (size) => String(Math.round(size * 100) / 100);
}

/**
 * How the engine's figures are worded for one person: their unit, the instrument's resolution, this knob's ways.
 *
 * @param resolution of the instrument, stored unit, > 0
 */
export function wordingFor(
  loop: Loop,
  pressureUnit: string,
  resolution: number,
  learnt: LearntKnob | undefined,
): Wording {
  const unit = unitById(unitOf(loop, pressureUnit));
  const { hand } = loop;
  return {
    value: (x) =>
      loop.judged === "temperatureDifference" && x > 0
        ? `+${formatQuantity(x, resolution, unit)}`
        : formatQuantity(x, resolution, unit),
    spread: (x) => formatUncertainty(x, resolution, unit),
    amount: (a) => (hand ? moveWords(hand, a * hand.sign, amountFigure(hand)) : formatFigure(a, resolution, unit)),
    act: hand?.act ?? "",
    ...(learnt ? { learnt: learntWords(learnt) } : {}),
  };
}

/** "from 11 machines of this model and 2 visits to this one". */
export function learntFrom({ machines, own }: Pick<LearntKnob, "machines" | "own">): string {
  const others = `${machines} ${machines === 1 ? "machine" : "machines"} of this model`;
  const visits = `${own} ${own === 1 ? "visit" : "visits"} to this one`;
  return machines > 0 && own > 0 ? `${others} and ${visits}` : machines > 0 ? others : visits;
}

function learntWords(learnt: LearntKnob): string {
  return `what was learnt from ${learntFrom(learnt)} gives`;
}
