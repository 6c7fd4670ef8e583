import { type SQL, and, eq, isNull } from "drizzle-orm";
import { job, ownerLink, signature } from "../../db/schema";
import { database } from "../database";

/** Whether there is a signed job whose signature is gone: whoever took it away does not end in a page that is not found. @param which of jobs, or links */
export async function isTorn(which: SQL | undefined): Promise<boolean> {
  const [row] = await database()
    .select({ id: job.id })
    .from(job)
    .leftJoin(ownerLink, and(eq(ownerLink.workshopId, job.workshopId), eq(ownerLink.jobId, job.id)))
    .leftJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .where(and(eq(job.state, "signed"), isNull(signature.id), which))
    .limit(1);
  return row !== undefined;
}
