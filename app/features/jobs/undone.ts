import type { SheetView } from "~server/jobs/views/sheet";
import type { TaskView } from "~server/jobs/views/station";

/** What still has to be done in a step: where the page stands, the thumb’s bar and the focus all go by it. */

export const isUndone = (task: TaskView): boolean => !task.done && !task.optional;

/** It is read or set at the gauge, which has its knob in hand. */
export const isAtGauge = (task: TaskView, loop: SheetView["loop"]): boolean => "loop" in task && task.loop === loop?.id;
