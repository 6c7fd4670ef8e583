export { type Care, WHENS, type When, normalOn, routineOf } from "./routine";
