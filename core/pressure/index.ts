export * from "./opv";
export * from "./dial";
export * from "./needle";
export * from "./flowing";
export * from "./line-regulator";
