/** From evidence to ranked causes, and the check that would separate them best next. No cause is named on one check alone. */

export interface Cause {
  readonly id: string;
  readonly label: string;
  /** Share among the machines that show the complaint, before anything is checked. */
  readonly prior: number;
  /** Mended by setting what is set here, or by the hand that looks: nothing is broken. Left out: a part is. */
  readonly mend?: "set" | "hand";
  /** What is done about it. */
  readonly remedy: string;
  /** The line for work and parts; "" where none is needed. */
  readonly part: string;
}

export interface Outcome {
  readonly id: string;
  readonly label: string;
}

export interface Check {
  readonly id: string;
  readonly label: string;
  /** How it is done. */
  readonly how: string;
  /** The handle is turned for it: where pressure stays behind the basket, it is let out first. */
  readonly opensGroup?: boolean;
  /** Only where there is a screw to have been turned. */
  readonly needsScrew?: boolean;
  /** Minutes it takes about: cheap checks go first when they tell as much. */
  readonly minutes: number;
  readonly outcomes: readonly Outcome[];
  /** P(outcome | cause), by cause, in the order of the outcomes; each row sums to 1. */
  readonly chances: Readonly<Record<string, readonly number[]>>;
}

/** A complaint the trade knows: its causes and checks. Probabilities are stated, from common practice and memory. */
export interface Pattern {
  readonly id: string;
  readonly title: string;
  readonly causes: readonly Cause[];
  readonly checks: readonly Check[];
}

export interface Evidence {
  readonly check: string;
  readonly outcome: string;
}

export interface Diagnosis {
  ranked: { cause: Cause; probability: number }[];
  /** The check that tells most for its time; null when nothing more would tell. */
  next: { check: Check; /** Bits expected. */ tells: number } | null;
  /** Set only once at least two different checks say so. */
  named: Cause | null;
}

/** A cause is named at this probability, and never on one check alone. Our choice: naming it wrongly costs a part, one more check a minute. */
const SURE = 0.9;
const LEAST_CHECKS = 2;
/** Checks that promise less than this, in bits, are not worth asking for. Our choice. */
const LEAST_TELLS = 0.02;

/**
 * Posterior over the causes by Bayes’ rule, checks taken as independent given the cause; the next check by expected information
 * per minute (Lindley 1956). A check done twice counts once, with its last outcome.
 *
 * @throws RangeError on a check or an outcome that the pattern does not know
 */
export function diagnose(pattern: Pattern, evidence: readonly Evidence[]): Diagnosis {
  const seen = new Map(evidence.map((e) => [e.check, e.outcome]));
  let weights = pattern.causes.map((c) => c.prior);
  for (const [id, outcome] of seen) {
    const check = pattern.checks.find((c) => c.id === id);
    const at = check?.outcomes.findIndex((o) => o.id === outcome) ?? -1;
    if (!check || at < 0)
      throw new RangeError(`“${pattern.title}” knows no check “${id}” with the outcome “${outcome}”.`);
    weights = weights.map((w, i) => w * chanceOf(check, pattern.causes[i]!, at));
  }
  const p = normalised(weights);
  const ranked = pattern.causes
    .map((cause, i) => ({ cause, probability: p[i]! }))
    .sort((a, b) => b.probability - a.probability);
  const first = ranked[0]!;
  const named = seen.size >= LEAST_CHECKS && first.probability >= SURE ? first.cause : null;
  return { ranked, next: nextCheck(pattern, p, seen), named };
}

function nextCheck(pattern: Pattern, p: readonly number[], seen: ReadonlyMap<string, string>): Diagnosis["next"] {
  let best: { check: Check; tells: number; rate: number } | null = null;
  for (const check of pattern.checks) {
    if (seen.has(check.id)) continue;
    const tells = entropy(p) - expectedEntropy(pattern, check, p);
    const rate = tells / (1 + check.minutes);
    if (tells >= LEAST_TELLS && (!best || rate > best.rate)) best = { check, tells, rate };
  }
  return best && { check: best.check, tells: best.tells };
}

function expectedEntropy(pattern: Pattern, check: Check, p: readonly number[]): number {
  return check.outcomes.reduce((sum, _, at) => {
    const joint = p.map((w, i) => w * chanceOf(check, pattern.causes[i]!, at));
    const total = joint.reduce((a, b) => a + b, 0);
    return total > 0 ? sum + total * entropy(joint.map((w) => w / total)) : sum;
  }, 0);
}

function chanceOf(check: Check, cause: Cause, at: number): number {
  const chances = check.chances[cause.id];
  if (!chances) throw new RangeError(`“${check.label}” says nothing of “${cause.label}”.`);
  return chances[at]!;
}

function entropy(p: readonly number[]): number {
  return p.reduce((sum, w) => (w > 0 ? sum - w * Math.log2(w) : sum), 0);
}

function normalised(weights: readonly number[]): number[] {
  const total = weights.reduce((a, b) => a + b, 0);
  return weights.map((w) => w / total);
}
