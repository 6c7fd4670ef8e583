export * from "./columns";
export * from "./facts";
export * from "./read";
