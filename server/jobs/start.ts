import { KINDS } from "../../core/kind";
import { OPV_TOLERANCE, type OpvSchool, pressureCheck } from "../../core/pressure";
import { machineRow } from "../../db/queries/machines";
import { and, eq } from "drizzle-orm";
import { job, machine as machines } from "../../db/schema";
import type { SignedIn } from "../auth";
import { once } from "../command";
import { database } from "../database";
import { tell } from "../events";
import { Refused } from "./record";

/** Starts a service with a brew pressure check. The job's id is the command's. The tolerance is pinned now. */
export async function startJob(
  by: SignedIn,
  commandId: string,
  input: { machineId: string; complaint: string; school: OpvSchool },
) {
  const machine = await machineRow(database(), by.workshop.id, input.machineId);
  if (!machine) throw new Refused("There is no such machine in this workshop.");
  if (pressureCheck(KINDS[machine.model.kind]) === "not-applicable")
    throw new Refused("This kind has no pump: a brew pressure check does not apply to it.");
  return once(by, commandId, "start", input, async (tx) => {
    // Locks the machine, so that two people starting at once make one job.
    await tx.select({ id: machines.id }).from(machines).where(eq(machines.id, machine.id)).for("update");
    const [open] = await tx
      .select({ id: job.id })
      .from(job)
      .where(and(eq(job.machineId, machine.id), eq(job.state, "open")))
      .limit(1);
    if (open)
      throw new Refused("A service is open on this machine already. Load the page again and go on with that one.");
    await tx.insert(job).values({
      id: commandId,
      workshopId: by.workshop.id,
      machineId: machine.id,
      type: "service",
      complaint: input.complaint,
      opvSchool: input.school,
      decisionRule: by.workshop.decisionRule,
      tolerance: OPV_TOLERANCE[input.school],
      startedBy: by.id,
    });
    await tell(tx, by.workshop.id, commandId);
  });
}
