import type { ComponentType } from "react";
import { CartridgeTask } from "./cartridge";
import { BurstTask, ClockTask } from "./clocked";
import { ConditionTask } from "./condition";
import { DiagnosisTask } from "./diagnosis";
import { FigureTask } from "./figure";
import { LeftTask } from "./left";
import { WorkTask } from "./work";
import { AdjustTask, LoopTask, ReadingsTask } from "./knob";
import { PlanTask } from "./plan";
import { ChoiceTask, TextTask, TickTask } from "./plain";
import type { TaskProps } from "./props";
import { ShotsTask } from "./shots";
import { SignTask } from "./sign";
import { TableTask } from "./table";
import type { TaskKind } from "~core/sheet";
import type { TaskView } from "~server/jobs/views/station";

/**
 * The form and view of each kind of task: the compiler names the one that is missing. None comes later than its page: what is typed into
 * it early must stay.
 */
const FORMS: { readonly [K in TaskKind]: ComponentType<TaskProps<K>> } = {
  tick: TickTask,
  heat: TickTask,
  text: TextTask,
  choice: ChoiceTask,
  figure: FigureTask,
  hardness: FigureTask,
  purge: FigureTask,
  cartridge: CartridgeTask,
  bursts: BurstTask,
  timer: ClockTask,
  warm: ClockTask,
  condition: ConditionTask,
  readings: ReadingsTask,
  adjust: AdjustTask,
  loop: LoopTask,
  table: TableTask,
  plan: PlanTask,
  shots: ShotsTask,
  diagnosis: DiagnosisTask,
  sign: SignTask,
  work: WorkTask,
  left: LeftTask,
};

export function TaskBody({ task, ...props }: Omit<TaskProps<TaskKind>, "task"> & { task: TaskView }) {
  // The kind picks the form that takes just this task; the compiler can't follow that by itself.
  const Form = FORMS[task.kind] as ComponentType<TaskProps<TaskKind>>;
  return <Form task={task} {...props} />;
}
