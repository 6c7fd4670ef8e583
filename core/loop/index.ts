export * from "./loop";
export * from "./loops-of";
export * from "./faults";
export * from "./reads";
