export * from "./response";
export * from "./pool";
