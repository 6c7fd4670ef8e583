export { BUTTONS, BUTTON_WORDS, type ButtonId, buttonTitle } from "../volume";
export * from "./loop";
export * from "./registry";
export * from "./wording";
