import type { Figure } from "./derive";
import { type CountsFrom, type Pull, secondsFrom } from "./pull";

/** From try to try: what was changed, and two shots side by side. */

export interface Changed {
  readonly what: "grind" | "dose" | "yield" | "coffee" | "temperature" | "basket" | "grinder" | "pre-infusion";
  readonly words: string;
}

/** A scale shows tenths, a hand pours within half a gram: less is the same. g */
export const SAME_DOSE = 0.35;

/** What differs from the shot before, as it was set by hand. */
export function changedBetween(before: Pull, after: Pull): Changed[] {
  const changes: Changed[] = [];
  const add = (what: Changed["what"], words: string) => changes.push({ what, words });
  if (before.coffee.name !== after.coffee.name) add("coffee", `other coffee: ${after.coffee.name}`);
  if (before.grinder.name !== after.grinder.name) add("grinder", `other grinder: ${after.grinder.name}`);
  else if (before.setting !== after.setting) {
    const { finer, step } = after.grinder;
    const steps = (finer * (after.setting - before.setting)) / step;
    const size = Number(Math.abs(steps).toFixed(2));
    add("grind", `${size} ${size === 1 ? "step" : "steps"} ${steps > 0 ? "finer" : "coarser"}`);
  }
  const dose = after.dose - before.dose;
  if (Math.abs(dose) > SAME_DOSE) add("dose", `${Math.abs(dose).toFixed(1)} g ${dose > 0 ? "more" : "less"} coffee`);
  if (before.basket !== after.basket) add("basket", `${after.basket} basket`);
  const degrees = (after.setPoint ?? 0) - (before.setPoint ?? 0);
  if (before.setPoint !== undefined && after.setPoint !== undefined && degrees !== 0)
    add("temperature", `${Math.abs(degrees).toFixed(1)} °C ${degrees > 0 ? "hotter" : "cooler"}`);
  const soak = (p: Pull) => (p.preInfusion ?? 0) + (p.pause ?? 0);
  if (soak(before) !== soak(after))
    add("pre-infusion", `pre-infusion and pause ${soak(after)} s, were ${soak(before)}`);
  return changes;
}

/** More than one thing at once: what each did can’t be told. */
export function tooMany(changes: readonly Changed[]): string | null {
  return changes.length > 1 ? `${changes.length} things at once: what each of them did can’t be told.` : null;
}

export interface Comparison {
  /** Same coffee, grinder, setting and dose: what differs is not the grind. */
  readonly fair: boolean;
  readonly different: readonly Changed[];
  readonly lines: readonly {
    readonly what: string;
    readonly a: number;
    readonly b: number;
    readonly by: Figure;
    readonly unit: string;
    readonly tells: boolean;
  }[];
  readonly says: string;
}

/** Shots of one setting scatter by about 6 % of their time, their yield by about a gram, pressure by what a dial lets one read. From memory. */
const SECONDS_SCATTER = 0.06;
const YIELD_SD = 1.2;
const BAR_SD = 0.3;

/**
 * Two shots side by side, before and after something: does it show over what two shots of one setting differ by anyway?
 * @param a the earlier one
 */
export function compareShots(a: Pull, b: Pull, school: "button" | "first-drop"): Comparison {
  const different = changedBetween(a, b);
  const lines: Comparison["lines"][number][] = [];
  const line = (what: string, x: number | null | undefined, y: number | null | undefined, sd: number, unit: string) => {
    if (x == null || y == null) return;
    const U = 2 * Math.SQRT2 * sd;
    lines.push({ what, a: x, b: y, by: { value: y - x, U }, unit, tells: Math.abs(y - x) > U });
  };
  const [ta, tb] = [secondsFrom(a, school), secondsFrom(b, school)];
  line("Seconds", ta, tb, SECONDS_SCATTER * ((ta ?? 0) + (tb ?? 0)) * 0.5, "s");
  line("In the cup", a.yield, b.yield, YIELD_SD, "g");
  line("First drop", a.firstDrop, b.firstDrop, 0.6, "s");
  line("Highest pressure", a.peak, b.peak, BAR_SD, "bar");
  line("Steady pressure", a.plateau, b.plateau, BAR_SD, "bar");
  const shown = lines.filter((l) => l.tells).map((l) => l.what.toLowerCase());
  const fair = different.length === 0;
  const says = !fair
    ? `Not the same shot twice: ${different.map((d) => d.words).join(", ")}.`
    : shown.length === 0
      ? "Same grind, same dose: no more apart than two shots of one setting are anyway."
      : `Same grind, same dose: ${shown.join(" and ")} differ by more than two shots of one setting do.`;
  return { fair, different, lines, says };
}

/** Which event, in words that follow a figure. */
export function fromWords(from: CountsFrom): string {
  return { button: "from the button", pump: "from the pump", "first-drop": "from the first drop" }[from];
}
