import type { Loop, LoopId } from "../../knobs";
import { type LoopRecord, loopRecord } from "../records";
import { type Moment, type TaskModule, sayAny } from "./task";

/** Readings and moves of one knob: spread over stations of their own (as found, next move, as left), or all of it in one. */

export interface ReadingsTask {
  readonly kind: "readings";
  readonly loop: LoopId;
  readonly run: "as-found" | "as-left";
  /** Read once, whatever it shows: it is adjusted only after something else was. */
  readonly once?: true;
}

export interface AdjustTask {
  readonly kind: "adjust";
  readonly loop: LoopId;
}

export interface LoopTask {
  readonly kind: "loop";
  readonly loop: LoopId;
}

export const readings: TaskModule<ReadingsTask> = {
  done: (task, at) => {
    const stands = runsOf(task.loop, at);
    return !stands || (task.run === "as-found" ? stands.found || (task.once && stands.read) : stands.left) === true;
  },
  say: (_, value) => sayAny(value),
};

export const adjust: TaskModule<AdjustTask> = {
  done: (task, at) => runsOf(task.loop, at)?.settled ?? true,
  say: (_, value) => sayAny(value),
};

export const loop: TaskModule<LoopTask> = {
  done: (task, at) => {
    const stands = runsOf(task.loop, at);
    return !stands || (stands.found && (stands.turned ? stands.left : stands.enough));
  },
  say: (_, value) => sayAny(value),
};

/** Null where this machine has no such knob: nothing is asked of it. */
function runsOf(id: LoopId, { records, loops }: Moment) {
  const here = loops.find((l) => l.id === id);
  return here ? standsOf(here, loopRecord(records, id)) : null;
}

/** What of a knob is read, settled and still asked for: the sheet and the gauge count by it. */
export function standsOf({ knob, verified = 1 }: Loop, record: LoopRecord) {
  const { asFound, asLeft, touched } = readingRuns(record.events);
  const read = asFound > 0;
  // One steady reading does, unless another would change what is done.
  const known = (read && !record.asks) || touched;
  const settled = record.faultTaken || record.accepted;
  const wanted = (touched ? verified : 1) - asLeft;
  const over = record.events.length === 0 || record.stopped || record.faultTaken;
  return {
    read,
    known,
    // Over the limit and no water back, or with a cause that was found, no reading would change anything.
    found: known || record.stopped || record.faultTaken,
    settled,
    // A fault taken ends it: nobody is held up for a figure that the fault explains.
    left: settled && (record.faultTaken || wanted <= 0),
    enough: record.faultTaken || asLeft > 0,
    turned: knob !== null,
    /** Readings still asked for where it stands. */
    more: over
      ? 0
      : record.asks || record.regrind === "asked"
        ? 1
        : touched && record.accepted
          ? Math.max(0, wanted)
          : 0,
  };
}

/** How many of the events are readings before the first move or repair, and after the last; and whether anything was touched. */
export function readingRuns(events: LoopRecord["events"]): {
  asFound: number;
  asLeft: number;
  moves: number;
  touched: boolean;
} {
  const first = events.findIndex((e) => e !== "reading");
  const last = events.findLastIndex((e) => e !== "reading");
  return {
    asFound: first === -1 ? events.length : first,
    // With nothing touched, what was found is what is left.
    asLeft: events.length - 1 - last,
    moves: events.filter((e) => e === "move").length,
    touched: first !== -1,
  };
}
