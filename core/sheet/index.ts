export { isEarly, isEarlyEntry, notWarm, reachedAt, warmTask } from "./early";
export {
  type Analysed,
  type AnalyseQuestion,
  type AnalysisId,
  type PlanId,
  analyse,
  basketOf,
  keptFrom,
  metersOf,
  planOf,
  usualFor,
} from "./analyse";
export {
  type Carried,
  type HardStop,
  type Requirement,
  SETTLED,
  type SheetQuestion,
  type Station,
  type StationId,
  carriedTask,
} from "./plan";
export { type StationProgress, type StationState, closedBefore, progress, stationInHand, tasksNow } from "./progress";
export {
  NOTHING_RECORDED,
  type Cell,
  type LoopRecord,
  type SheetRecords,
  type TaskValue,
  type TimerRecord,
  chosen,
  figure,
  instrumentsIn,
  latest,
  loopRecord,
  rowsOf,
} from "./records";
export { sheetFor } from "./sheet-for";
export { shownTaskId } from "./stations/after";
export { unsafeNow, workLines } from "./unsafe";
export { STOP_TASK } from "./stations/coffee";
export { accessoriesOf, areasOf, toolsFor } from "./stations/arrive";
export * from "./tasks";
export {
  PRESETS,
  PRESET_IDS,
  type Preset,
  SCOPES,
  SCOPE_IDS,
  type Scope,
  presetOf,
  presetScopes,
  scopesFor,
  visitTitle,
} from "./visit";
