export { isEarly, isEarlyEntry, reachedAt, warmTask } from "./early";
export { type Analysed, type AnalyseQuestion, analyse, keptFrom, metersOf, planOf } from "./analyse";
export {
  type AnalysisId,
  type ChoiceOption,
  type Column,
  type HardStop,
  type PlanId,
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
  type Cell,
  type LoopRecord,
  type SheetRecords,
  type TaskValue,
  type TimerRecord,
  chosen,
  figure,
  latest,
  loopRecord,
  rowsOf,
} from "./records";
export { sheetFor } from "./sheet-for";
export { accessoriesOf, areasOf, toolsFor } from "./stations/arrive";
