export * from "./day";
export * from "./targets";
export * from "./plan";
export * from "./row";
export * from "./shape";
export * from "./register";
export * from "./serial";
