import { isDeepStrictEqual } from "node:util";
import { type SQL, and, eq, isNotNull, isNull, sql } from "drizzle-orm";
import { transact } from "../../db/client";
import { ownerLink, seal, signature, workshopKey } from "../../db/schema";
import { database } from "../database";
import { isKeyOf, isSignedBy, keyId as nameOf, sha256 } from "./keys";
import { hashedRows, ofRecord } from "./records";
import type { Statement } from "./seal";

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

/** Of a link that is good; null where there is none, or the job was signed by a version that made no statement. */
export const recordOf = (token: string): Promise<OwnerRecord | null> =>
  recordWhere(and(eq(ownerLink.token, token), isNull(ownerLink.revokedAt)));

async function recordWhere(which: SQL | undefined): Promise<OwnerRecord | null> {
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
    .leftJoin(ownerLink, and(eq(ownerLink.workshopId, signature.workshopId), eq(ownerLink.jobId, signature.jobId)))
    .where(which)
    .limit(1);
  return row ?? null;
}

/** Of a job of one’s own workshop: under which key it was signed, and whether it still is what was signed; null where it has no statement. */
export async function isJobAsSigned(workshopId: string, jobId: string): Promise<{ id: string; holds: boolean } | null> {
  const record = await recordWhere(and(eq(signature.workshopId, workshopId), eq(signature.jobId, jobId)));
  return record && { id: record.keyId, holds: isAsSigned(record) };
}

/** Whether what is shown is what was signed. */
export function isAsSigned({ document, ...signed }: OwnerRecord): boolean {
  return statementOf(signed)?.document === sha256(document);
}

type Signed = Pick<OwnerRecord, "statement" | "signature" | "publicKey" | "keyId" | "workshopId">;

/** What a statement says; null where the workshop’s own key did not sign it. */
function statementOf({ statement, signature, publicKey, keyId, workshopId }: Signed): Statement | null {
  if (nameOf(publicKey) !== keyId || !isKeyOf(workshopId, keyId)) return null;
  return isSignedBy(statement, signature, publicKey) ? (JSON.parse(statement) as Statement) : null;
}

/** What was added to a job after its signature and stands as it was added: ids of the records whose statements hold. */
export async function soundAdditions(workshopId: string, jobId: string): Promise<ReadonlySet<string>> {
  const rows = await database()
    .select({
      id: seal.amends,
      statement: seal.content,
      signature: seal.signature,
      publicKey: workshopKey.publicKey,
      keyId: workshopKey.id,
      workshopId: seal.workshopId,
    })
    .from(seal)
    .innerJoin(workshopKey, and(eq(workshopKey.workshopId, seal.workshopId), eq(workshopKey.id, seal.keyId)))
    .where(and(eq(seal.workshopId, workshopId), eq(seal.jobId, jobId), isNotNull(seal.amends)));
  // Rows are spelt for their hashes inside a transaction.
  const held = await transact(database(), async (tx) => {
    const sound: string[] = [];
    for (const row of rows) {
      const says = statementOf(row);
      if (!says || says.amends?.id !== row.id) continue;
      const now = await hashedRows(tx, workshopId, [jobId], says.covered, "added");
      if (isDeepStrictEqual(says.records, ofRecord(now.get(jobId)!, row.id!))) sound.push(row.id!);
    }
    return sound;
  });
  return new Set(held);
}
