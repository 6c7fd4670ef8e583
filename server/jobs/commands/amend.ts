import { ABOUTS, type About } from "../../../core/job";
import { amendment } from "../../../db/schema";
import { sealJob } from "../../proof/seal";
import { Refused } from "../../refused";
import { type Target, inJob, keys } from "./in-job";

/** Words added to a signed job: they stand beside what was signed, under a statement of their own. */
export function amend(target: Target, input: { about: About; text: string }) {
  return inJob(
    target,
    "amend",
    input,
    async (tx, job) => {
      if (job.state !== "signed")
        throw new Refused(`This job is still open: put it down at its step. (${ABOUTS[input.about]})`, "text");
      const row = { ...keys(target), ...input };
      await tx.insert(amendment).values(row);
      const { id: jobId, machine } = job;
      await sealJob(tx, {
        workshopId: row.workshopId,
        jobId,
        machineId: machine.id,
        at: row.at,
        amends: { table: "amendment", id: row.id },
      });
    },
    "amend",
  );
}
