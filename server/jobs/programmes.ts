import { buttonOf } from "../../core/loop";
import { aim } from "../../core/metrology";
import type { Transaction } from "../../db/client";
import type { SheetRow } from "../../db/queries/jobs";
import { programme } from "../../db/schema";
import { standingShots, takenShot } from "./dialling";
import { runOf, summarise } from "./events";
import { judged } from "./judged";
import type { Stand } from "./stand";

/** What each button is left giving, kept with the machine when the job is signed: with the coffee, grind and dose it holds for. */
export async function keepProgrammes(tx: Transaction, row: SheetRow, stand: Stand, at: Date): Promise<void> {
  const held = heldFor(row, stand);
  for (const { loop, entries, record } of stand.loops) {
    if (!buttonOf(loop.id) || record.faultTaken) continue;
    const summary = summarise(runOf(entries, "as-left"), loop, stand.kind.pump);
    const left = judged(summary, loop.tolerance, row.decisionRule);
    if (!summary || !left) continue;
    await tx.insert(programme).values({
      id: crypto.randomUUID(),
      jobId: row.id,
      machineId: row.machineId,
      loop: loop.id,
      at,
      target: aim(loop.tolerance),
      mean: left.value,
      sd: summary.sd,
      shots: summary.count,
      verdict: left.verdict,
      ...held,
      afterReset: stand.records.values.has("buttons.reset"),
    });
  }
}

/** The coffee, grinder, setting and dose of the shot taken as the recipe, else of the newest shot; else what the register says. */
function heldFor(row: SheetRow, stand: Stand) {
  const shot = takenShot(row, stand)?.shot ?? standingShots(row).findLast((s) => !s.amends);
  const weighed = stand.loops.find((l) => l.loop.id === "basket")?.record.last?.value ?? null;
  return shot
    ? {
        coffee: shot.pull.coffee.name,
        grinder: shot.pull.grinder.name,
        setting: shot.pull.setting,
        dose: shot.pull.dose,
      }
    : { coffee: row.machine.coffee, grinder: row.machine.grinder, setting: null, dose: weighed };
}
