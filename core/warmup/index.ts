export {
  type Heating,
  type Prediction,
  WARM_LEVELS,
  WARM_WORDS,
  type WarmLevel,
  heatUpBound,
  predictWarmUp,
  shortestHeatUp,
  tooFast,
} from "./predict";
export { usualLevel } from "./level";
