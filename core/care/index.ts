export { type Care, WHENS, type When, descaleEvery, normalOn, routineOf } from "./routine";
export { type DemonstrationPart, type PartId, demonstrationOf } from "./demonstration";
