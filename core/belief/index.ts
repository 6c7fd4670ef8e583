export { nextAction } from "./next";
