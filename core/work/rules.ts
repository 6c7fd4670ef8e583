import { type ModelCard, descalingRule } from "../kind";
import type { WorkLine } from "./line";

/** Work that a rule of the model, of safety or of the law speaks against, or asks something more of. */

const ACID = /\b(descal\w*|acid\w*|citric|sulfamic|vinegar|lime ?remover)/i;
/** Said of what was not done, or done with the machine apart. */
const NOT_DONE =
  /\b(declin\w*|refus\w*|not|never|without|instead|dismantl\w*|taken apart|parts? in a bath|removed and)\b|\bno (descal\w*|acid\w*|citric|vinegar)/i;
const SAFETY_VALVE = /\bsafety (relief )?valve\b/i;
const PATCHED = /\b(clean\w*|descal\w*|refit\w*|adjust\w*|block\w*|plug\w*|re-?seat\w*|lapp\w*|repair\w*|reset)\b/i;
const RENEWED = /\b(replac\w*|renew\w*|new|checked|tested|sound|ok|fine|declin\w*|not)\b/i;
const LICENSED =
  /\b(gas|burner|pilot light|safety (relief )?valve|pressure vessel|boiler (shell|seam|weld\w*|flange))\b/i;
const CRITICAL =
  /\b(safety (relief )?valve|heating element|element|wiring|mains|earth\w*|plug|fuse|thermal cut-?out|gas|burner|boiler cap|pressure vessel|shut-off|back-?flow)\b/i;

type Card = Pick<ModelCard, "descaling">;

export interface Ruling {
  /** The field of the line it concerns. */
  readonly field: "how" | "what" | "licence";
  readonly message: string;
}

/**
 * Why a line of work is refused; null where no rule speaks against it. Only a lead records it all the same, with words.
 * Common practice of the trade: safety valves are replaced by type, never cleaned and refitted into use; acid only where the model permits;
 * gas and pressure vessels by whoever is licensed, by local rules.
 */
export function rulingOn(line: WorkLine, card: Card | undefined): Ruling | null {
  if (line.outcome !== "done") return null;
  const words = `${line.what} ${line.reason} ${line.seen}`;
  const isValve = SAFETY_VALVE.test(line.what) || (SAFETY_VALVE.test(words) && line.how === "other");
  if (isValve && line.how !== "renewed" && line.how !== "tested" && line.how !== "fitted")
    return { field: "how", message: VALVE };
  if (forbiddenWork(words, undefined) && line.how !== "renewed" && line.how !== "tested")
    return { field: "what", message: VALVE };
  const acid = (line.how === "descaled" || ACID.test(words)) && !NOT_DONE.test(words);
  if (acid && card && !descalingRule(card.descaling).throughTank) return { field: "how", message: NO_ACID };
  if (LICENSED.test(line.what) && line.how !== "tested" && line.how !== "cleaned" && !line.licensed)
    return {
      field: "licence",
      message:
        "Gas, boilers under pressure and safety valves are licensed work where local rules say so. Record who did it, and the licence.",
    };
  return null;
}

const VALVE =
  "A safety valve is never cleaned, adjusted or blocked: it is replaced by type and tested to local rules. Write what was done instead.";
const NO_ACID =
  "This model takes no acid through the tank: it is dismantled and descaled in the workshop. Write what was done instead.";

/** Whether a part is one that people’s safety hangs on, by what it is called. */
export const isSafetyCritical = (what: string): boolean => CRITICAL.test(what);

/** Why a line in words alone is refused; null where no rule speaks against it. */
export function forbiddenWork(text: string, card: Card | undefined): string | null {
  if (SAFETY_VALVE.test(text) && PATCHED.test(text) && !RENEWED.test(text)) return VALVE;
  const rule = card && descalingRule(card.descaling);
  if (rule && !rule.throughTank && ACID.test(text) && !NOT_DONE.test(text)) return NO_ACID;
  return null;
}
