import { type Standing, knobNamed, resultOf, standingShots, takenShot } from "../../../core/job";
import { aim } from "../../../core/metrology";
import type { Transaction } from "../../../db/client";
import { programme } from "../../../db/schema";

/** What each button is left giving, kept with the machine when the job is signed: with the coffee, grind and dose it holds for. */
export async function keepProgrammes(tx: Transaction, standing: Standing, workshopId: string, at: Date): Promise<void> {
  const { job, records } = standing;
  const held = heldFor(standing);
  for (const knob of standing.loops) {
    const { group, button } = knob.loop.at;
    if (group === null || button === null || knob.record.faultTaken) continue;
    const left = resultOf(knob, "as-left", standing);
    if (!left) continue;
    await tx.insert(programme).values({
      id: crypto.randomUUID(),
      workshopId,
      jobId: job.id,
      machineId: job.machine.id,
      group,
      button,
      at,
      target: aim(knob.loop.tolerance),
      mean: left.value,
      sd: left.sd,
      shots: left.count,
      verdict: left.verdict,
      ...held,
      afterReset: records.values.has("buttons.reset"),
    });
  }
}

/** The coffee, grinder, setting and dose of the shot used as the recipe, else of the newest shot; else what the register says. */
function heldFor(standing: Standing) {
  const { job } = standing;
  const shot = takenShot(standing)?.shot ?? standingShots(job).findLast((s) => !s.amends);
  const weighed = knobNamed(standing, "basket")?.record.last?.value ?? null;
  return shot
    ? {
        coffee: shot.pull.coffee.name,
        grinder: shot.pull.grinder.name,
        setting: shot.pull.setting,
        dose: shot.pull.dose,
      }
    : { coffee: job.machine.coffee, grinder: job.machine.grinder, setting: null, dose: weighed };
}
