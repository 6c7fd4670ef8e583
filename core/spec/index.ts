export {
  SPEC_QUANTITIES,
  STARTING_CARDS,
  type SpecCard,
  type SpecLine,
  type SpecQuantity,
  toleranceFor,
} from "./spec-card";
