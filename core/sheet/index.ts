export * from "./stations";
export * from "./progress";
