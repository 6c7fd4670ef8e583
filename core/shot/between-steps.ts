import { type Tolerance, phiInverse } from "../metrology";
import { type Belief, DOSE_EFFECT, at, inWindow } from "./belief";
import { type DialIn, type DialInQuestion, expectedAt } from "./change";
import type { Shot } from "./log";

/** Most the dose is moved to land between two steps of the grinder, g. From memory. */
const FINE_DOSE = 0.5;

/**
 * Where one step jumps over the whole window, surely enough, no setting makes the recipe: the nearer of the two is kept and the dose
 * does the rest, inside its own tolerance.
 */
export function betweenSteps(
  belief: Belief,
  last: Shot,
  window: Required<Tolerance>,
  { recipe, grinder, ends }: DialInQuestion,
): DialIn | null {
  const settingAt = (finer: number) => last.setting + grinder.finer * finer * grinder.step;
  const [low, high, middle] = [Math.log(window.lower), Math.log(window.upper), Math.log(window.target)];
  const sure = phiInverse(0.9);
  for (let finer = -2; finer <= 1; finer++) {
    const [fast, slow] = [at(belief, settingAt(finer)), at(belief, settingAt(finer + 1))];
    if (fast.mean + sure * Math.sqrt(fast.variance) > low || slow.mean - sure * Math.sqrt(slow.variance) < high)
      continue;
    const nearer = middle - fast.mean <= slow.mean - middle ? finer : finer + 1;
    const setting = settingAt(nearer);
    if (ends && (setting < ends[0] || setting > ends[1])) return null;
    const why = `A step of this grinder is wider than the window: no setting makes it.`;
    if (nearer !== 0)
      return {
        change: { kind: "grind", finer: nearer, setting },
        expected: expectedAt(belief, setting),
        pInside: inWindow(belief, setting, window.lower, window.upper),
        why: `${why} Take the nearer one; the dose does the rest.`,
      };
    const wanted = last.dose * Math.expm1((middle - (nearer === finer ? fast.mean : slow.mean)) / DOSE_EFFECT.mean);
    const room = wanted > 0 ? recipe.dose.target + FINE_DOSE - last.dose : last.dose - recipe.dose.target + FINE_DOSE;
    const by = (Math.sign(wanted) * Math.round(10 * Math.min(Math.abs(wanted), Math.max(0, room)))) / 10;
    if (Math.abs(by) < 0.1) return null;
    return {
      change: { kind: "dose", by },
      expected: null,
      pInside: inWindow(belief, last.setting, window.lower, window.upper),
      why: `${why} Hold the grind; ${by > 0 ? "a little more coffee slows" : "a little less coffee speeds"} it between the steps.`,
    };
  }
  return null;
}
