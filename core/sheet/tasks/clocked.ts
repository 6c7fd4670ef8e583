import { type BurstRule, burstState } from "../../startup";
import type { WarmLevel } from "../../warmup";
import { latest } from "../records";
import { type Moment, type TaskModule, sayAny } from "./task";

/** Tasks with a clock: bursts, runs of so many seconds, heat, and the levels of the warm-up. */

const timersOf = (id: string, { records }: Moment) => records.timers.get(id) ?? [];

export interface BurstsTask {
  readonly kind: "bursts";
  readonly rule: BurstRule;
  readonly running: string;
  readonly ended: string;
}

/** Shorter waits keep the hands at the machine, s. Our choice: nobody walks away for less. */
const HANDS_FREE = 30;

export const bursts: TaskModule<BurstsTask> = {
  done: (task, at) => burstState(timersOf(task.id, at), at.now, task.rule).phase === "done",
  waits(task, at) {
    const state = burstState(timersOf(task.id, at), at.now, task.rule);
    if (state.phase === "resting") return state.until;
    return state.phase === "pause" && task.rule.pause >= HANDS_FREE ? state.until : undefined;
  },
  say: (_, value) => sayAny(value),
};

export interface TimerTask {
  readonly kind: "timer";
  readonly seconds: number;
}

export const timer: TaskModule<TimerTask> = {
  // It runs seconds, with a hand on the switch: nothing waits for it.
  done: (task, at) => timersOf(task.id, at).some((t) => t.outcome === "done"),
  say: (_, value) => sayAny(value),
};

/** Switching on: starts the clocks of the warm-up levels named. */
export interface HeatTask {
  readonly kind: "heat";
  readonly levels: readonly WarmLevel[];
}

export const heat: TaskModule<HeatTask> = {
  done: (task, { records }) => latest(records, task.id) !== undefined,
  say: (_, value) => sayAny(value),
};

export interface WarmTask {
  readonly kind: "warm";
  readonly level: WarmLevel;
}

export const warm: TaskModule<WarmTask> = {
  done: (task, at) => timersOf(task.id, at).some((t) => t.outcome === "done"),
  waits(task, at) {
    const last = timersOf(task.id, at).at(-1);
    return last && last.endedAt === null && last.dueAt > at.now ? last.dueAt : undefined;
  },
  say: (_, value) => sayAny(value),
};
