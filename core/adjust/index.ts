export * from "./types";
export { nextAction } from "./decide";
export * from "./explain";
