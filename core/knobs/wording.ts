import type { Wording } from "../adjust";
import { formatFigure, formatQuantity, formatTurns, formatUncertainty, unitById, unitsOf } from "../quantity";
import { amountWords } from "../grinder";
import { type Hand, type LearntKnob, moveSentence } from "./loop";
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
  now: number | null = null,
): Wording {
  const unit = unitById(unitOf(loop, pressureUnit));
  const { hand } = loop;
  return {
    value: (x) =>
      loop.judged === "temperatureDifference" && x > 0
        ? `+${formatQuantity(x, resolution, unit)}`
        : formatQuantity(x, resolution, unit),
    spread: (x) => `${formatUncertainty(x, resolution, unit)} ${unit.symbol}`,
    range: (a, b) => {
      const sign = (x: number) => (loop.judged === "temperatureDifference" && x > 0 ? "+" : "");
      return `${sign(a)}${formatFigure(a, resolution, unit)} to ${sign(b)}${formatQuantity(b, resolution, unit)}`;
    },
    move: (a) => {
      if (!hand) return "";
      const said = moveSentence(hand, a * hand.sign, amountFigure(hand));
      const { amount } = loop.with;
      return amount && now !== null ? `${said}, to ${amountWords(amount.kind, now + a)}` : said;
    },
    subject: hand?.subject ?? "it",
    step: hand?.unit.one ?? "step",
    after: loop.settle > 0 ? `Restart or wait ${loop.settle} min, then read again.` : "Read again.",
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
  return `from ${learntFrom(learnt)}:`;
}
