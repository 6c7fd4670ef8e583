export * from "./valve";
export * from "./pour";
export * from "./grinder";
