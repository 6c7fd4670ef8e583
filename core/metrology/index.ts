export * from "./distributions";
export * from "./budget";
export * from "./instrument";
export * from "./reading";
export * from "./conformity";
export * from "./line";
export * from "./suitability";
export * from "./kit";
