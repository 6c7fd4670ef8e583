import { type KnobAt, type LoopId, keyOf, moduleOf } from "../knobs";
import type { Dimension } from "../quantity";

/** What a column of a spreadsheet of visits can be. */

export type Phase = "as-found" | "as-left";

export interface FigureTarget extends KnobAt {
  readonly form: "figure";
  readonly title: string;
  readonly phase: Phase;
  readonly dimension: Dimension;
  /** Stored unit: beyond these no such figure is one. */
  readonly possible: readonly [number, number];
}

interface Plain<Form extends string> {
  readonly form: Form;
  readonly title: string;
}

export type Target = FigureTarget | Plain<"day"> | Plain<"serial"> | Plain<"words">;

const PHASES: readonly [Phase, string][] = [
  ["as-found", "as found"],
  ["as-left", "as left"],
];

/** An offset is a difference of two readings; our bounds: wider than any controller’s. */
const OFFSETS = [-30, 30] as const;

const FIGURES: readonly [id: LoopId, at: KnobAt, title: string, dimension: Dimension][] = [
  ["opv", { knob: "opv", group: null, button: null }, "Brew pressure", "pressure"],
  ["line-regulator", { knob: "line-regulator", group: null, button: null }, "Line pressure", "pressure"],
  ["pre-infusion", { knob: "pre-infusion", group: null, button: null }, "Pre-infusion pressure", "pressure"],
  ["pressurestat", { knob: "pressurestat", group: null, button: null }, "Boiler pressure", "pressure"],
  ["offset", { knob: "offset", group: null, button: null }, "Group temperature error", "temperatureDifference"],
  ["temperature", { knob: "temperature", group: null, button: null }, "Group temperature", "temperature"],
  ["basket", { knob: "basket", group: null, button: null }, "Coffee dose", "mass"],
  ["dose-1", { knob: "button", group: 1, button: "double" }, "Double button, group 1", "mass"],
  ["dose-2", { knob: "button", group: 2, button: "double" }, "Double button, group 2", "mass"],
];

/** Every target there is, by the name it goes by in a plan. */
export const TARGETS: Readonly<Record<string, Target>> = {
  day: { form: "day", title: "Day of the visit" },
  serial: { form: "serial", title: "Serial of the machine" },
  doneBy: { form: "words", title: "Who was there" },
  work: { form: "words", title: "Work done" },
  note: { form: "words", title: "Note" },
  ...Object.fromEntries(
    FIGURES.flatMap(([id, at, title, dimension]) =>
      PHASES.map(([phase, words]): [string, FigureTarget] => [
        `${id}.${phase}`,
        {
          ...at,
          form: "figure",
          title: `${title}, ${words}`,
          phase,
          dimension,
          possible: dimension === "temperatureDifference" ? OFFSETS : moduleOf(at.knob).reads.possible,
        },
      ]),
    ),
  ),
};

/** Those that a visit can’t be without. */
export const NEEDED = ["day", "serial"] as const;

/** Words in the head of a column that say what it is: the first that fits. Common words of the trade, in four languages. */
const GUESSES: readonly [RegExp, string][] = [
  [/^(date|datum|day|tag|visit(ed)?|dato|fecha|data)\b/, "day"],
  [/serial|serien|s\/n|^sn$|machine (no|nr|number)|matricola|n[úu]mero de serie/, "serial"],
  [/technician|techniker|engineer|^by$|done by|who|tecnico|t[ée]cnico/, "doneBy"],
  [/work|arbeit|done|action|repair|parts|lavoro|trabajo/, "work"],
  [/note|remark|comment|bemerk|notiz|osserv|observ/, "note"],
];

const KNOB_GUESSES: readonly [RegExp, LoopId][] = [
  [/pre-?infusion/, "pre-infusion"],
  [/boiler|steam|kessel|dampf|p-?stat|pressostat|caldaia/, "pressurestat"],
  [/mains|line|water press|netz/, "line-regulator"],
  [/offset|temp\w* error|difference|delta/, "offset"],
  [/temp|°c|°f|grad/, "temperature"],
  [/dose|coffee in|basket/, "basket"],
  [/button.*2|group 2.*(double|volume)/, "dose-2"],
  [/button|double|volume|yield/, "dose-1"],
  [/brew|opv|pump|press|druck|bar\b|psi\b|pressione|presi[óo]n/, "opv"],
];

const FOUND = /found|before|vorher|prima|antes|\bin\b|initial|ist\b/;
const LEFT = /left|after|nachher|dopo|despu[ée]s|\bout\b|final|set to|soll\b/;

/**
 * What a column most likely is, by its head; null where nothing says so.
 *
 * @example guessTarget("Pressure before (bar)") // "opv.as-found"
 */
export function guessTarget(head: string): string | null {
  const text = head.toLowerCase().trim();
  if (text === "") return null;
  const word = GUESSES.find(([is]) => is.test(text));
  // “Work pressure” is a pressure.
  const knob = KNOB_GUESSES.find(([is]) => is.test(text));
  if (knob && (!word || word[1] === "work"))
    return `${knob[1]}.${FOUND.test(text) && !LEFT.test(text.replace(FOUND, "")) ? "as-found" : "as-left"}`;
  return word?.[1] ?? null;
}

/** The name of the target that a figure was read for. */
export const targetOf = (of: KnobAt & { readonly phase: Phase }): string => `${keyOf(of)}.${of.phase}`;
