export { type Grinder, SHOT_NOISE, USUAL_GRINDER } from "./belief";
export * from "./dial-in";
export * from "./log";
export * from "./recipe";
