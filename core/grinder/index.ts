export * from "./amount";
export * from "./basket";
export * from "./timed";
