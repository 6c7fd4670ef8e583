export { BUTTONS, BUTTON_WORDS, type ButtonId, buttonOf, buttonTitle } from "./coffee-loops";
export * from "./loop";
export * from "./loops-of";
export * from "./faults";
export * from "./reads";
