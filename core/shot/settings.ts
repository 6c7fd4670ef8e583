import type { Tolerance } from "../metrology";
import { type Belief, inWindow, isOnScale, settingAt } from "./belief";
import type { Shot } from "./log";

/** Settings of a grinder, scored by how likely each is the right one. */

/** Steps looked at, either way. Our choice: far past what any usual grinder is off. */
const REACH = 40;
/**
 * Staying is as good as moving while it is nearly as likely to be right. Our choice: the next shot tells as much of either, and the one
 * costs no coffee that is lost in the chute.
 */
const STAY = 0.8;
/** Share of the likely settings that a range to try takes in. Our choice. */
const CENTRAL = 0.8;

export interface Scored {
  /** Steps finer than the last. */
  readonly finer: number;
  readonly setting: number;
  /** That its own time lies in the window. */
  readonly p: number;
}

/**
 * Every setting in reach of the last with its probability, the finest last.
 *
 * @param ends lowest and highest setting: none outside is ever named
 */
export function scored(
  belief: Belief,
  last: Shot,
  window: Required<Tolerance>,
  ends: readonly [number, number] | undefined,
): Scored[] {
  const all: Scored[] = [];
  for (let finer = -REACH; finer <= REACH; finer++) {
    const setting = settingAt(last.setting, finer, belief.grinder);
    if (isOnScale(setting, ends)) all.push({ finer, setting, p: inWindow(belief, setting, window) });
  }
  return all;
}

/** Steps finer to the setting that most likely makes the window; 0 where staying is nearly as likely. */
export function likeliest(all: readonly Scored[]): number {
  const best = all.reduce<Scored | null>((a, b) => {
    if (!a || b.p > a.p + 1e-9) return b;
    // Ties go to the smaller move.
    return b.p > a.p - 1e-9 && Math.abs(b.finer) < Math.abs(a.finer) ? b : a;
  }, null);
  const here = all.find((s) => s.finer === 0);
  if (!best || (here && here.p >= STAY * best.p)) return 0;
  return best.finer;
}

/** Lowest and highest of the settings that are likely the right one; at least one was scored. */
export function rangeToTry(all: readonly Scored[]): [number, number] {
  const sorted = [...all].sort((a, b) => a.setting - b.setting);
  const total = sorted.reduce((sum, s) => sum + s.p, 0);
  let sum = 0;
  let [from, to] = [sorted[0]!.setting, sorted.at(-1)!.setting];
  for (const { setting, p } of sorted) {
    if (sum < ((1 - CENTRAL) / 2) * total) from = setting;
    if (sum < ((1 + CENTRAL) / 2) * total) to = setting;
    sum += p;
  }
  return [from, to];
}
