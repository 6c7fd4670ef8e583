export * from "./types";
export * from "./explain";
