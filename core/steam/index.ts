export { type Liquid, densityOfWater, liquidWater } from "./region1";
export { saturationPressure, saturationTemperature } from "./saturation";
