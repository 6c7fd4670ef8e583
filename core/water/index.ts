export { PURGE_LITRES, type PurgeStep, cartridgeDue, purgeStep } from "./cartridge";
export { HARDNESS_LIMIT, judgeHardness } from "./hardness";
export {
  FITTED_UP_TO,
  type IndexRange,
  type KnownOfWater,
  type WaterAnalysis,
  indexRange,
  langelier,
  saturationPh,
  scaleWord,
} from "./saturation-index";
export { SERVICE_MONTHS, serviceMonths } from "./service";
