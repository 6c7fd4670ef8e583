import { type ModelCard, descalingRule } from "../kind";
import type { WorkLine } from "./line";

/** Work that a rule of the model speaks against. What safety hangs on is chosen from a list of its own, see `critical.ts`. */

export interface Ruling {
  /** The field of the line it concerns. */
  readonly field: "how";
  readonly message: string;
}

const NO_ACID =
  "This model takes no acid through the tank: it is dismantled and descaled in the workshop. Choose what was done instead.";

/**
 * Why a line of work is refused; null where no rule speaks against it. Only a lead records it all the same, with words.
 * Common practice of the trade: acid only where the model permits.
 */
export function rulingOn(
  { how, outcome }: Pick<WorkLine, "how" | "outcome">,
  card: Pick<ModelCard, "descaling"> | undefined,
): Ruling | null {
  const acid = how === "descaled" && outcome === "done";
  return acid && card && !descalingRule(card.descaling).throughTank ? { field: "how", message: NO_ACID } : null;
}
