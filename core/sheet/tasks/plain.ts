import type { LoopId } from "../../knobs";
import { type SheetRecords, chosen, latest } from "../records";
import { type TaskModule, Unfit, sayAny } from "./task";

/** Tasks that take a tick, words, or one of several answers. */

export interface TickTask {
  readonly kind: "tick";
  /** Ticking it takes back that other tick: a tap is closed or open, never both. */
  readonly releases?: string;
  /** This knob is not moved before it is ticked. */
  readonly before?: LoopId;
  /** Between the sheet and the hand: no line of the report. */
  readonly quiet?: boolean;
  /** What is said beside it, by what was recorded so far. */
  readonly says?: (records: SheetRecords) => string;
}

export const tick: TaskModule<TickTask> = {
  done: (task, { records }) => latest(records, task.id) !== undefined,
  say: (_, value) => sayAny(value),
  remedy: ({ says }, records) => says?.(records) ?? "",
};

export interface TextTask {
  readonly kind: "text";
}

/** Longest text of one line. Our choice: a page of a report. */
const LONGEST = 2000;

export const text: TaskModule<TextTask> = {
  done: (task, { records }) => latest(records, task.id) !== undefined,
  read(_, { typed }) {
    const words = typed.trim();
    if (!words) throw new Unfit("Type something, even “nothing”.");
    if (words.length > LONGEST) throw new Unfit(`Keep it under ${LONGEST} characters.`);
    return { form: "text", text: words };
  },
  say: (_, value) => sayAny(value),
};

export interface ChoiceOption {
  readonly value: string;
  readonly label: string;
  /** What to do where it came out so. */
  readonly remedy?: string;
  /** Why it can’t be so by what was recorded; "" where nothing speaks against it. */
  readonly refused?: (records: SheetRecords) => string;
}

export interface ChoiceTask {
  readonly kind: "choice";
  readonly options: readonly ChoiceOption[];
  /** What to say and to show there, line by line. */
  readonly guide?: readonly { readonly act: string; readonly lines: readonly string[] }[];
}

export const choice: TaskModule<ChoiceTask> = {
  // What was recorded since may speak against the answer: then it is asked again.
  done: ({ id, options }, { records }) =>
    latest(records, id) !== undefined && !options.find((o) => o.value === chosen(records, id))?.refused?.(records),
  read({ options }, { typed, records }) {
    const choice = typed.trim();
    const option = options.find((o) => o.value === choice);
    if (!option) throw new Unfit("Choose one.");
    const why = option.refused?.(records);
    if (why) throw new Unfit(why);
    return { form: "choice", choice };
  },
  say: ({ options }, value) =>
    value.form === "choice"
      ? { text: options.find((o) => o.value === value.choice)?.label ?? value.choice }
      : sayAny(value),
  remedy({ id, options }, records) {
    const option = options.find((o) => o.value === chosen(records, id));
    return option?.refused?.(records) || option?.remedy || "";
  },
};
