export { airPressure } from "./atmosphere";
