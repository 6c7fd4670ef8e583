export * from "./pressurestat";
export * from "./steam-check";
export * from "./steam-power";
