import { BUTTONS, type ButtonTargets } from "../knobs";
import { type Recipe, recipeOf } from "../shot";
import type { Tolerance } from "../metrology";
import { type SheetRecords, basketOf, figure, latest } from "../sheet";
import type { Job } from "./job";

/** The recipe of a job: what was said on its sheet, else its card and schools. */
export function recipeFrom(
  job: Pick<Job, "schools" | "spec" | "particulars" | "wanted">,
  records: SheetRecords,
): Recipe {
  return recipeOf({
    schools: job.schools,
    spec: job.spec?.lines ?? [],
    basket: basketOf(records),
    dose: figure(records, "grinder.target"),
    ...limitsOf(records, "grinder.target", "doseLimits"),
    ...limitsOf(records, "grinder.yield", "yieldLimits"),
    range: { ...job.particulars.wanted, ...job.wanted }.dose,
    yield: figure(records, "grinder.yield"),
  });
}

/** The ends of what is wanted, where it was typed as a range. */
function limitsOf<K extends string>(records: SheetRecords, task: string, name: K) {
  const value = latest(records, task);
  if (value?.form !== "figure" || value.low === undefined || value.high === undefined) return {};
  return { [name]: { lower: value.low, target: value.value, upper: value.high } } as Record<K, Required<Tolerance>>;
}

/** g wanted of each button, where the job says so itself: the same for every group. */
export function targetsOf(records: SheetRecords): ButtonTargets {
  return Object.fromEntries(
    BUTTONS.flatMap((button) => {
      const target = figure(records, `target.${button}`);
      return target === undefined ? [] : [[button, target]];
    }),
  );
}
