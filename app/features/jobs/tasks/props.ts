import type { SheetView } from "~server/jobs/views/sheet";
import type { TaskViewOf } from "~server/jobs/views/station";
import type { TaskKind } from "~core/sheet";

/** What every task of the station in hand is drawn from. */
export interface TaskProps<K extends TaskKind> {
  task: TaskViewOf<K>;
  sheet: SheetView;
  newId: string;
  /** The person’s own unit of pressure. */
  unit: string;
  person: string;
}
