export {
  DECISIONS,
  DECISION_IDS,
  type Decision,
  type FaultLeft,
  HOWS,
  HOW_IDS,
  type How,
  LONGEST,
  OUTCOMES,
  OUTCOME_IDS,
  type Outcome,
  type WorkLine,
  sayFault,
  sayWork,
} from "./line";
export {
  CRITICAL_ACTS,
  CRITICAL_PARTS,
  type CriticalAct,
  type CriticalPartId,
  type Named,
  criticalPartsOf,
  namedIn,
} from "./critical";
export { type Ruling, rulingOn } from "./rules";
export { type TypedFault, type TypedWork, faultFrom, workFrom } from "./typed";
export { type UsualLine, usualWork } from "./usual";
