import { and, asc, eq } from "drizzle-orm";
import type { Database } from "../client";
import { job, paper, photo, signature, workshop } from "../schema";
import { readDocument } from "../../core/job";

/** What is printed of a signed job, and papers that were made already. */

/** A document with what its workshop prints around it. */
export const SIGNED = {
  document: signature.document,
  hash: signature.hash,
  contact: workshop.contact,
  town: workshop.town,
  paper: workshop.paper,
  logo: workshop.logo,
  timeZone: workshop.timeZone,
};

export async function signedJob(db: Pick<Database, "select">, workshopId: string, jobId: string) {
  const [row] = await db
    .select({ ...SIGNED, machineId: job.machineId })
    .from(job)
    .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .innerJoin(workshop, eq(workshop.id, job.workshopId))
    .where(and(eq(job.workshopId, workshopId), eq(job.id, jobId)));
  return row ? { ...row, document: readDocument(row.document) } : null;
}

/** Photos of a job in the order in which they were taken, without their pictures. */
export function photosOf(db: Pick<Database, "select">, workshopId: string, jobId: string) {
  return db
    .select({ id: photo.id, area: photo.area, at: photo.at })
    .from(photo)
    .where(and(eq(photo.workshopId, workshopId), eq(photo.jobId, jobId)))
    .orderBy(asc(photo.at), asc(photo.id));
}

export async function pictureOf(db: Pick<Database, "select">, workshopId: string, jobId: string, id: string) {
  const [row] = await db
    .select({ data: photo.data })
    .from(photo)
    .where(and(eq(photo.workshopId, workshopId), eq(photo.jobId, jobId), eq(photo.id, id)));
  return row?.data ?? null;
}

/** A paper that was made already; null where none of this key was. */
export async function paperMade(db: Pick<Database, "select">, workshopId: string, key: string) {
  const [row] = await db
    .select({ data: paper.data })
    .from(paper)
    .where(and(eq(paper.workshopId, workshopId), eq(paper.key, key)));
  return row?.data ?? null;
}
