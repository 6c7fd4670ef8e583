export * from "./valve";
export * from "./pour";
