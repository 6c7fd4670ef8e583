export { isEarly, isEarlyEntry, reachedAt, warmTask } from "./early";
export {
  type ChoiceOption,
  type HardStop,
  JOB_TYPES,
  type JobType,
  type Requirement,
  type SheetQuestion,
  type Station,
  type StationId,
  type Task,
  type TaskKind,
} from "./plan";
export {
  READINGS_NEEDED,
  type StationProgress,
  type StationState,
  isDone,
  progress,
  readingRuns,
  remedyFor,
  stationInHand,
  tasksNow,
} from "./progress";
export {
  NOTHING_RECORDED,
  type SheetRecords,
  type TaskValue,
  type TimerRecord,
  chosen,
  figure,
  latest,
} from "./records";
export { sheetFor } from "./sheet-for";
export { accessoriesOf, areasOf, toolsFor } from "./stations/arrive";
