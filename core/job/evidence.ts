import { type Check, type Diagnosis, type Evidence, PATTERNS, type PatternId, diagnose } from "../diagnose";
import { type Advice, percent } from "../adjust";
import type { MachineKind } from "../kind";
import { type Loop, type Stop, causeWords, moduleOf } from "../knobs";
import type { Verdict } from "../metrology";
import { pressureCheck } from "../pressure";
import { figureOf } from "./figure";
import type { Reading } from "./job";
import type { Result } from "./judged";
import { type LogLine, flowing } from "./log";

/** The last flowing readings, as many as are read for a test. Common practice. */
const FLOWING = 2;

/** What is known towards a cause, from the readings and from what somebody looked at: one for sheet, advice, report and parts. */
export interface CauseFound extends Diagnosis {
  /** What can be looked at here. */
  readonly checks: readonly Check[];
  /** What the readings say by themselves: nobody types twice what was read. */
  readonly derived: readonly Evidence[];
  readonly typed: readonly Evidence[];
  /** Probability, 0 to 1, of all causes that no setting mends. */
  readonly beyond: number;
}

/**
 * The causes of a complaint by all that is known. What a person saw stands over what the readings say by themselves.
 *
 * @param typed outcomes of checks, in order
 * @param derived what the readings say
 */
export function causeFound(
  pattern: PatternId,
  kind: MachineKind,
  { typed, derived }: { typed: readonly Evidence[]; derived: readonly Evidence[] },
): CauseFound {
  const evidence = [...derived, ...typed];
  const screw = pressureCheck(kind) === "adjustable";
  const checks = PATTERNS[pattern].checks.filter(
    (c) => !c.needsScrew || screw || evidence.some((e) => e.check === c.id),
  );
  const found = diagnose({ ...PATTERNS[pattern], checks }, evidence);
  const beyond = found.ranked.reduce(
    (sum, { cause, probability }) => sum + (cause.mend === "set" ? 0 : probability),
    0,
  );
  return { ...found, checks, derived, typed, beyond };
}

/** The pattern of a knob’s own, as a task of the sheet asks for it: with flow control in the way there is one more cause. */
export const isPatternOf = ({ at }: Loop, pattern: PatternId): boolean => {
  const { evidence } = moduleOf(at.knob);
  return evidence !== undefined && PATTERNS[evidence.pattern].id === PATTERNS[pattern].id;
};

/** What the readings of a knob say by themselves towards a cause. @param run the readings as found */
export function seenInReadings(
  loop: Loop,
  {
    log,
    run,
    result,
    pump,
  }: {
    log: readonly LogLine[];
    run: readonly Reading[];
    result: Result | null;
    pump: MachineKind["pump"];
  },
): Evidence[] {
  const { evidence } = moduleOf(loop.at.knob);
  if (!evidence || !result) return [];
  const { value, u, verdict } = result;
  const returned = run.findLast((r) => r.detail.returned !== undefined)?.detail.returned;
  const under = figureOf(flowing(log).slice(-FLOWING), loop, pump);
  return evidence.of({ value, u, verdict, returned, flowing: under }, loop);
}

/** Likelier than not is a cause that no setting mends: nothing is moved before it is looked for. Our choice: even. */
const LIKELIER = 0.5;
/** The reading alone says nothing of a cause: most machines that read low are set low. */
const LEAST = 2;
/** Looked at so many things, somebody may end with the cause that is likeliest; sure or not, its chance stands beside it. Our choice. */
const ENOUGH = 3;

/** Somebody, or a reading beside the pressure, has begun to look for a cause. */
export const isSought = (cause: CauseFound): boolean => looked(cause) >= LEAST;

const looked = ({ typed, derived }: CauseFound) => new Set([...typed, ...derived].map((e) => e.check)).size;

/**
 * A cause that is found is the advice: the test is over, and ends with it. Null while none is likely, where it is in spec, and where setting
 * it, or the hand that looked, mends it.
 *
 * @param verdict what the readings since the last change show; null where nothing was read
 */
export function stopFor(verdict: Verdict | null, cause: CauseFound | null): Stop | null {
  if (!cause || verdict === null || verdict === "holds" || verdict === "just holds") return null;
  const { ranked, named, next, typed } = cause;
  const [{ cause: first, probability } = { cause: null, probability: 0 }] = ranked;
  if (!first || first.mend || typed.length === 0 || looked(cause) < ENOUGH || probability <= LIKELIER) return null;
  const chance = `${percent(probability)} by the checks so far.`;
  const words = { ...causeWords(first), means: chance, chance };
  if (named) return { ...words, headline: `${first.label}.` };
  const further = next ? [`To be surer, ${next.check.label.toLowerCase()}: ${next.check.how}`] : [];
  return { ...words, headline: `Likeliest: ${first.label}.`, checks: [...further, ...words.checks] };
}

/** The advice, held against what somebody found: nothing is turned for a cause that turning does not mend. */
export function heldToCause(advice: Advice, cause: CauseFound | null): Advice {
  if (advice.action.kind !== "move" || !cause || !isSought(cause) || cause.beyond <= LIKELIER) return advice;
  return { ...advice, action: { kind: "fault", fault: "look-first", causes: [] } };
}
