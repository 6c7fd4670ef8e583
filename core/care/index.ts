export { type Care, GASKET_SHOTS, SHOT_ML, WHENS, type When, descaleEvery, normalOn, routineOf } from "./routine";
export { type DemonstrationPart, type PartId, demonstrationOf } from "./demonstration";
