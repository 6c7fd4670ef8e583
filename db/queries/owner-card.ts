import { and, asc, eq, isNull } from "drizzle-orm";
import { readDocument } from "../../core/job";
import type { Database } from "../client";
import { acknowledgement, job, ownerLink, signature, workshop } from "../schema";

/** What an owner’s link leads to: what was signed, and who acknowledged it. */

/** @returns null where the link is none or was withdrawn */
export async function signedBehind(db: Pick<Database, "select">, token: string) {
  const [row] = await db
    .select({
      jobId: job.id,
      workshopId: job.workshopId,
      document: signature.document,
      hash: signature.hash,
      contact: workshop.contact,
      town: workshop.town,
      paper: workshop.paper,
      logo: workshop.logo,
      timeZone: workshop.timeZone,
    })
    .from(ownerLink)
    .innerJoin(job, and(eq(job.workshopId, ownerLink.workshopId), eq(job.id, ownerLink.jobId)))
    .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .innerJoin(workshop, eq(workshop.id, job.workshopId))
    .where(and(eq(ownerLink.token, token), isNull(ownerLink.revokedAt)));
  return row ? { ...row, document: readDocument(row.document) } : null;
}

/** Who acknowledged what was handed over, in that order. */
export function acknowledgementsOf(db: Pick<Database, "select">, workshopId: string, jobId: string) {
  return db
    .select({
      id: acknowledgement.id,
      name: acknowledgement.name,
      at: acknowledgement.at,
      drawing: acknowledgement.drawing,
    })
    .from(acknowledgement)
    .where(and(eq(acknowledgement.workshopId, workshopId), eq(acknowledgement.jobId, jobId)))
    .orderBy(asc(acknowledgement.at))
    .limit(10);
}
