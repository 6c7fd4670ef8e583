export * from "./people";
export * from "./register";
export * from "./jobs";
export * from "./relations";
export * from "./specs";
export * from "./learnt";
export * from "./shots";
export * from "./proof";
