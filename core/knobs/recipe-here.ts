import { type Recipe, recipeOf } from "../shot";
import type { LoopQuestion } from "./loop";

/** The recipe of the job, or the one its schools and card make. */
export function recipeHere({ recipe, schools, spec }: LoopQuestion): Recipe {
  return recipe ?? recipeOf({ schools, spec, basket: "double" });
}
