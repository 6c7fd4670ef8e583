export * from "./buttons";
export * from "./meter";
export * from "./kept";
export * from "./storage";
export * from "./programme";
export * from "./drifted";
export { type Teaching, teachWords } from "./teach";
