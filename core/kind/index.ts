export { CAUTIONS, type CautionId } from "./cautions";
export {
  KINDS,
  KIND_IDS,
  type KindId,
  type KnobId,
  type MachineKind,
  type ModelCard,
  type OpvAccess,
  usualCard,
} from "./kinds";
