export * from "./opv";
