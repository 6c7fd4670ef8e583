import { and, eq, isNull, sql } from "drizzle-orm";
import { ownerLink, seal, signature, workshopKey } from "../../db/schema";
import { database } from "../database";
import { isSignedBy, sha256 } from "./keys";
import type { Statement } from "./seal";

/** What an owner can take away and check: the document’s text, the statement under it, its signature, and the public key. */
export interface OwnerRecord {
  /** JSON text, exactly as it was signed. */
  document: string;
  statement: string;
  signature: string;
  publicKey: string;
  keyId: string;
}

/** Of a link that is good; null where there is none, or the job was signed by a version that made no statement. */
export async function recordOf(token: string): Promise<OwnerRecord | null> {
  const [row] = await database()
    .select({
      document: sql<string>`${signature.document}::text`,
      statement: seal.content,
      signature: seal.signature,
      publicKey: workshopKey.publicKey,
      keyId: workshopKey.id,
    })
    .from(ownerLink)
    .innerJoin(signature, and(eq(signature.workshopId, ownerLink.workshopId), eq(signature.jobId, ownerLink.jobId)))
    .innerJoin(seal, and(eq(seal.workshopId, ownerLink.workshopId), eq(seal.jobId, ownerLink.jobId)))
    .innerJoin(workshopKey, and(eq(workshopKey.workshopId, seal.workshopId), eq(workshopKey.id, seal.keyId)))
    .where(and(eq(ownerLink.token, token), isNull(ownerLink.revokedAt)));
  return row ?? null;
}

/** Whether what is shown is what was signed. */
export function isAsSigned({ document, statement, signature, publicKey }: OwnerRecord): boolean {
  if (!isSignedBy(statement, signature, publicKey)) return false;
  return (JSON.parse(statement) as Statement).document === sha256(document);
}
