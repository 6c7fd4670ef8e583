export { nextAction } from "./next";
export { heldToRecord } from "./record";
