export * from "./curve";
export * from "./offset";
export * from "./light-cycle";
export * from "./flush";
export * from "./steam-plan";
export * from "./plan-steps";
