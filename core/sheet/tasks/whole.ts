import { PATTERNS, type PatternId } from "../../diagnose";
import type { PlanId } from "../analyse";
import { type TaskModule, sayAny } from "./task";

/** Tasks whose work is done elsewhere: condition notes, plans, causes, shots, the signature. */

export interface ConditionTask {
  readonly kind: "condition";
}

export const condition: TaskModule<ConditionTask> = {
  done: (_, { records }) => records.notes > 0,
  say: (_, value) => sayAny(value),
};

/** A timed plan to follow, made from what was recorded. */
export interface PlanTask {
  readonly kind: "plan";
  readonly plan: PlanId;
}

export const plan: TaskModule<PlanTask> = {
  done: () => true,
  say: (_, value) => sayAny(value),
};

/** Evidence → causes → the check that tells most. */
export interface DiagnosisTask {
  readonly kind: "diagnosis";
  readonly pattern: PatternId;
}

export const diagnosis: TaskModule<DiagnosisTask> = {
  done: () => true,
  say(task, value) {
    if (value.form !== "evidence") return sayAny(value);
    const found = PATTERNS[task.pattern].checks.find((c) => c.id === value.check);
    const outcome = found?.outcomes.find((o) => o.id === value.outcome)?.label ?? value.outcome;
    return { text: `${found?.label ?? value.check}: ${outcome}` };
  },
};

/** Calibration shots, until one is used as the recipe. */
export interface ShotsTask {
  readonly kind: "shots";
}

export const shots: TaskModule<ShotsTask> = {
  done: (_, { records }) => records.shotAccepted,
  say: (_, value) => sayAny(value),
};

export interface SignTask {
  readonly kind: "sign";
}

export const sign: TaskModule<SignTask> = {
  done: (_, { records }) => records.signed,
  say: (_, value) => sayAny(value),
};
