export { type DescalingRule, descalingRule } from "./descaling";
export { CAUTIONS, type CautionId } from "./cautions";
export {
  KINDS,
  KIND_IDS,
  type KindId,
  type KindKnob,
  type MachineKind,
  type ModelCard,
  type OpvAccess,
  USUAL_DIAL,
  USUAL_SPRINGS,
  usualCard,
} from "./kinds";
