import { BUTTONS, type ButtonTargets } from "../knobs";
import { type Recipe, recipeOf } from "../shot";
import { type SheetRecords, basketOf, figure } from "../sheet";
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
    range: { ...job.particulars.wanted, ...job.wanted }.dose,
    yield: figure(records, "grinder.yield"),
  });
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
