import { createHash } from "node:crypto";
import { and, asc, eq, isNull } from "drizzle-orm";
import { ABOUTS, readDocument, sayPull } from "../../core/job";
import type { Database } from "../client";
import type { Queries } from "./jobs";
import { account, acknowledgement, amendment, job, ownerLink, signature, workshop } from "../schema";
import { SIGNED } from "./papers";
import { amendmentsOf } from "./shots";

/** What an owner’s link leads to: what was signed, and who acknowledged it. */

/** The owner’s link with this token, unless it was withdrawn. */
export const ownerLinkOf = (token: string) =>
  and(eq(ownerLink.tokenHash, createHash("sha256").update(token).digest("hex")), isNull(ownerLink.revokedAt));

/** @returns null where the link is none or was withdrawn */
export async function signedBehind(db: Pick<Database, "select">, token: string) {
  const [row] = await db
    .select({ ...SIGNED, jobId: job.id, workshopId: job.workshopId })
    .from(ownerLink)
    .innerJoin(job, and(eq(job.workshopId, ownerLink.workshopId), eq(job.id, ownerLink.jobId)))
    .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .innerJoin(workshop, eq(workshop.id, job.workshopId))
    .where(ownerLinkOf(token));
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

/** What joined a job after its signature, in that order: words, and shots. */
export async function additionsOf(db: Queries, workshopId: string, jobId: string) {
  const [words, shots] = await Promise.all([
    db
      .select({ id: amendment.id, at: amendment.at, about: amendment.about, said: amendment.text, by: account.name })
      .from(amendment)
      .innerJoin(account, and(eq(account.workshopId, amendment.workshopId), eq(account.id, amendment.by)))
      .where(and(eq(amendment.workshopId, workshopId), eq(amendment.jobId, jobId)))
      .orderBy(asc(amendment.at))
      .limit(ADDED),
    amendmentsOf(db, workshopId, jobId),
  ]);
  return [
    ...words.map(({ about, ...w }) => ({ ...w, about: ABOUTS[about] })),
    ...shots.map(({ id, at, pull, reason }) => ({
      ...{ id, at, about: "A shot", by: "" },
      said: `${pull.coffee.name}: ${sayPull(pull)}. ${reason}`,
    })),
  ].sort((a, b) => a.at.getTime() - b.at.getTime());
}

const ADDED = 100;
