import { and, eq } from "drizzle-orm";
import { KINDS } from "../../core/kind";
import { pressureCheck } from "../../core/pressure";
import { type SchoolsOf } from "../../core/school";
import type { JobType } from "../../core/sheet";
import type { WarmLevel } from "../../core/warmup";
import { machineRow } from "../../db/queries/machines";
import { pinnedSpec } from "../../db/queries/specs";
import { job, machine as machines } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { database } from "../database";
import { tell } from "../events";
import { keepBoilerGauge } from "../machines/gauges";
import { learntFor } from "./learning";
import { Refused } from "../refused";
import { toleranceOf } from "./tolerance";

export interface StartInput {
  machineId: string;
  type: JobType;
  complaint: string;
  schools: Partial<SchoolsOf>;
  level: WarmLevel;
  specCardId: string | null;
}

/** Starts a job. Its id is the command's. Kind, schools, spec card and tolerance are pinned now. */
export async function startJob(by: SignedIn, commandId: string, input: StartInput) {
  const machine = await machineRow(database(), by.workshop.id, input.machineId);
  if (!machine) throw new Refused("There is no such machine in this workshop.");
  const kind = KINDS[machine.model.kind];
  if (input.type === "check" && pressureCheck(kind) === "not-applicable")
    throw new Refused("This kind has no pump: a brew pressure check does not apply to it.", "type");
  const level = kind.warmUp.heatSoaked === null && input.level === "heat-soaked" ? "machine-warm" : input.level;
  const schools = { ...by.workshop.schools, ...input.schools };
  return once(by, commandId, "start", input, async (tx) => {
    // Locks the machine, so that two people starting at once make one job.
    await tx.select({ id: machines.id }).from(machines).where(eq(machines.id, machine.id)).for("update");
    const [open] = await tx
      .select({ id: job.id })
      .from(job)
      .where(and(eq(job.machineId, machine.id), eq(job.state, "open")))
      .limit(1);
    if (open) throw new Refused("A job is open on this machine already. Load the page again and go on with that one.");
    const spec = await pinnedSpec(tx, by.workshop.id, input.specCardId ?? by.workshop.specCardId);
    if (kind.steamGauge) await keepBoilerGauge(tx, by.workshop.id, machine.id);
    await tx.insert(job).values({
      id: commandId,
      workshopId: by.workshop.id,
      machineId: machine.id,
      type: input.type,
      kind: machine.model.kind,
      complaint: input.complaint,
      schools,
      level,
      specVersionId: spec?.id ?? null,
      decisionRule: by.workshop.decisionRule,
      tolerance: toleranceOf(schools.opv, spec?.lines ?? []),
      learnt: await learntFor(tx, machine),
      startedBy: by.id,
    });
    await tell(tx, by.workshop.id, commandId, 0);
  });
}
