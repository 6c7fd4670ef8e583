import type { SheetRecords, TaskValue } from "../records";
import { type BurstsTask, type HeatTask, type TimerTask, type WarmTask, bursts, heat, timer, warm } from "./clocked";
import { type FigureTask, figure } from "./figure";
import { type AdjustTask, type LoopTask, type ReadingsTask, adjust, loop, readings } from "./knob";
import { type ChoiceTask, type TextTask, type TickTask, choice, text, tick } from "./plain";
import { type TableTask, table } from "./table";
import { type About, type Moment, type Said, type TaskBase, type TaskModule, type Typed, Unfit } from "./task";
import { type LeftTask, type WorkTask, left, work } from "./work";
import { type CartridgeTask, type HardnessTask, type PurgeTask, cartridge, hardness, purge } from "./water";
import {
  type ConditionTask,
  type DiagnosisTask,
  type PlanTask,
  type ShotsTask,
  type SignTask,
  condition,
  diagnosis,
  plan,
  shots,
  sign,
} from "./whole";

/** A task under which a cause is looked for. */
export type Seek = TaskBase & DiagnosisTask;

/** Every kind of task a sheet can have. */
export type Task = TaskBase &
  (
    | TickTask
    | TextTask
    | ChoiceTask
    | FigureTask
    | HardnessTask
    | PurgeTask
    | CartridgeTask
    | BurstsTask
    | TimerTask
    | HeatTask
    | WarmTask
    | ConditionTask
    | ReadingsTask
    | AdjustTask
    | LoopTask
    | TableTask
    | PlanTask
    | DiagnosisTask
    | ShotsTask
    | SignTask
    | WorkTask
    | LeftTask
  );

export type TaskKind = Task["kind"];
export type TaskOf<K extends TaskKind> = Extract<Task, { readonly kind: K }>;

/** One module a kind: the compiler names the one that is missing. */
const TASKS: { readonly [K in TaskKind]: TaskModule<TaskOf<K>> } = {
  tick,
  text,
  choice,
  figure,
  hardness,
  purge,
  cartridge,
  bursts,
  timer,
  heat,
  warm,
  condition,
  readings,
  adjust,
  loop,
  table,
  plan,
  diagnosis,
  shots,
  sign,
  work,
  left,
};

// The kind picks the module that takes just this task; the compiler can't follow that by itself.
const moduleFor = (task: Task) => TASKS[task.kind] as TaskModule<Task>;

/** Whether nothing more is asked of a task at this moment. */
export function isDone(task: Task, at: Moment): boolean {
  return moduleFor(task).done(task, at);
}

/** When a task that waits by itself is due, ms; undefined while hands are needed. */
export function waitsUntil(task: Task, at: Moment): number | undefined {
  return moduleFor(task).waits?.(task, at);
}

/**
 * What was typed for a task, understood.
 *
 * @throws Unfit when what was typed can’t be taken, or nothing is typed for this task
 */
export function readTask(task: Task, typed: Typed): TaskValue {
  const { read } = moduleFor(task);
  if (!read) throw new Unfit("Nothing is typed for that.", "");
  return read(task, typed);
}

/** What was recorded for a task, in words, with its verdict where there are limits. */
export function sayTask(task: Task, value: TaskValue, about: About): Said {
  return moduleFor(task).say(task, value, about);
}

/** What to do about what was recorded last; "" when nothing. */
export function remedyOf(task: Task, records: SheetRecords): string {
  return moduleFor(task).remedy?.(task, records) ?? "";
}

export { remedyFor } from "./figure";
export { NOTHING } from "./work";
export { readingRuns, standsOf } from "./knob";
export type { ChoiceOption } from "./plain";
export { type Column, type TypedRow, rowOf, sayCell } from "./table";
export { type About, type Moment, type Said, type TaskBase, type Typed, Unfit, sayAny } from "./task";
