export * from "./response";
export * from "./pool";
export * from "./own";
