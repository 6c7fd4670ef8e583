import { and, eq, isNull, sql } from "drizzle-orm";
import { ownerLinkOf } from "../../db/queries/owner-card";
import { ownerLink, seal, signature, workshopKey } from "../../db/schema";
import { database } from "../database";

/** What an owner can take away and check: the document’s text, the statement under it, its signature, and the public key. */
export interface OwnerRecord {
  /** JSON text, exactly as it was signed. */
  document: string;
  statement: string;
  signature: string;
  publicKey: string;
  keyId: string;
  workshopId: string;
}

/** Of a link that is good; null where there is none, or the job has no statement. */
export async function recordOf(token: string): Promise<OwnerRecord | null> {
  const [row] = await database()
    .select({
      document: sql<string>`${signature.document}::text`,
      statement: seal.content,
      signature: seal.signature,
      publicKey: workshopKey.publicKey,
      keyId: workshopKey.id,
      workshopId: seal.workshopId,
    })
    .from(signature)
    .innerJoin(
      seal,
      and(eq(seal.workshopId, signature.workshopId), eq(seal.jobId, signature.jobId), isNull(seal.amends)),
    )
    .innerJoin(workshopKey, and(eq(workshopKey.workshopId, seal.workshopId), eq(workshopKey.id, seal.keyId)))
    .innerJoin(ownerLink, and(eq(ownerLink.workshopId, signature.workshopId), eq(ownerLink.jobId, signature.jobId)))
    .where(ownerLinkOf(token))
    .limit(1);
  return row ?? null;
}
