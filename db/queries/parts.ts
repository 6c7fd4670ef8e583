import { and, asc, desc, eq, sql } from "drizzle-orm";
import type { Database } from "../client";
import { account, part, partMove } from "../schema";
import type { Queries } from "./jobs";

/** Parts of a workshop. */

/** More than a small workshop keeps; the rest is found by its name. */
const LISTED = 500;

/** Those kept now, by name. @param modelId only those that fit it */
export function partsOf(db: Pick<Queries, "select">, workshopId: string, modelId?: string) {
  return db
    .select()
    .from(part)
    .where(
      and(
        eq(part.workshopId, workshopId),
        eq(part.active, true),
        modelId ? sql`(cardinality(${part.fits}) = 0 or ${modelId} = any(${part.fits}))` : undefined,
      ),
    )
    .orderBy(asc(part.name), asc(part.number))
    .limit(LISTED);
}

/** One of them, put away or not; undefined where it is not this workshop’s. */
export async function partRow(db: Pick<Queries, "select">, workshopId: string, id: string) {
  const [found] = await db
    .select()
    .from(part)
    .where(and(eq(part.workshopId, workshopId), eq(part.id, id)));
  return found;
}

/** What came and went, newest first. */
export function movesOf(db: Pick<Database, "select">, workshopId: string, partId: string) {
  return db
    .select({
      id: partMove.id,
      count: partMove.count,
      reason: partMove.reason,
      jobId: partMove.jobId,
      at: partMove.at,
      by: account.name,
    })
    .from(partMove)
    .innerJoin(account, and(eq(account.workshopId, partMove.workshopId), eq(account.id, partMove.by)))
    .where(and(eq(partMove.workshopId, workshopId), eq(partMove.partId, partId)))
    .orderBy(desc(partMove.at))
    .limit(50);
}
