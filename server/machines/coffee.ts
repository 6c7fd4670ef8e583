import { buttonTitle } from "../../core/knobs";
import { driftOf } from "../../core/volume";
import type { Database } from "../../db/client";
import { programmesOf, lastShots } from "../../db/queries/shots";

/** What a machine’s buttons were left giving, what it holds for, and whether its own shots still agree. */

const LOOKED_AT = 40;

export async function programmesView(db: Database, workshopId: string, machineId: string, groups: number) {
  const [programmes, shots] = await Promise.all([
    programmesOf(db, workshopId, machineId),
    lastShots(db, workshopId, machineId, LOOKED_AT),
  ]);
  return programmes.flatMap((p) => {
    const since = shots.filter(
      (s) => s.at > p.at && s.pull.by === p.button && s.pull.group === p.group && s.pull.yield !== null,
    );
    const drift = driftOf(
      p,
      since.map((s) => s.pull.yield!),
    );
    return [
      {
        id: p.id,
        title: buttonTitle(p.button, p.group, groups),
        at: p.at.toISOString(),
        target: p.target,
        mean: p.mean,
        sd: p.sd,
        shots: p.shots,
        verdict: p.verdict,
        afterReset: p.afterReset,
        holdsFor: [
          p.coffee,
          p.grinder && `${p.grinder}${p.setting === null ? "" : ` at ${p.setting}`}`,
          p.dose === null ? "" : `${p.dose.toFixed(1)} g`,
        ]
          .filter(Boolean)
          .join(", "),
        contradiction: drift?.contradicts
          ? `The button says ${p.mean.toFixed(0)} g, its last ${drift.shots} shots gave ${(p.mean + drift.difference).toFixed(0)} g: ${Math.abs(drift.difference).toFixed(1)} ± ${drift.U.toFixed(1)} g ${drift.difference > 0 ? "more" : "less"}. Same coffee, grind and dose? If so, look at its flow meter, and teach it again.`
          : "",
      },
    ];
  });
}
