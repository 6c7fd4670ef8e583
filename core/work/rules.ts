import { type ModelCard, descalingRule } from "../../kind";

/** Lines of work that a rule of the model or of safety forbids, told by their words. */

const ACID = /\b(descal\w*|acid\w*|citric|sulfamic|vinegar|lime ?remover)/i;
/** Said of what was not done, or done with the machine apart. */
const NOT_DONE =
  /\b(declin\w*|refus\w*|not|never|without|instead|dismantl\w*|taken apart|parts? in a bath|removed and)\b|\bno (descal\w*|acid\w*|citric|vinegar)/i;
const SAFETY_VALVE = /\bsafety (relief )?valve\b/i;
const PATCHED = /\b(clean\w*|descal\w*|refit\w*|adjust\w*|block\w*|plug\w*|re-?seat\w*|lapp\w*|repair\w*|reset)\b/i;
const RENEWED = /\b(replac\w*|renew\w*|new|checked|tested|sound|ok|fine|declin\w*|not)\b/i;

/**
 * Why a line of work is refused; null where no rule speaks against it. Only a lead records it all the same, with words.
 * Common practice of the trade: safety valves are replaced by type, never cleaned and refitted into use; acid only where the model permits.
 */
export function forbiddenWork(text: string, card: Pick<ModelCard, "descaling"> | undefined): string | null {
  if (SAFETY_VALVE.test(text) && PATCHED.test(text) && !RENEWED.test(text))
    return "A safety valve is never cleaned, adjusted or blocked: it is replaced by type and tested to local rules. Write what was done instead.";
  const rule = card && descalingRule(card.descaling);
  if (rule && !rule.throughTank && ACID.test(text) && !NOT_DONE.test(text))
    return "This model takes no acid through the tank: it is dismantled and descaled in the workshop. Write what was done instead.";
  return null;
}
