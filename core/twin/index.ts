export * from "./valve";
