export {
  SPEC_QUANTITIES,
  STARTING_CARDS,
  type SpecCard,
  type SpecLine,
  type SpecQuantity,
  toleranceFor,
} from "./spec-card";
export { WANTED, WANTED_IDS, type Wanted, type WantedId, type WantedRange, wantedTolerance } from "./wanted";
