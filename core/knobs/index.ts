export { BUTTONS, BUTTON_WORDS, type ButtonId, buttonTitle } from "../volume";
export { BREW_PRESSURE_TITLE, OPV_HELD } from "./brew-pressure";
export * from "./loop";
export * from "./registry";
export * from "./wording";
export { endedWords, isLeftAsIs } from "./words";
export { basketFor } from "./basket";
