import { and, desc, eq, sql } from "drizzle-orm";
import type { Transaction } from "../../db/client";
import { machine, seal, signature, workshopKey } from "../../db/schema";
import { type SigningKey, sha256, signText, signingKey } from "./keys";
import { type Covered, type Hashes, coveredNow, hashedRows } from "./records";

/**
 * The statement under a signature: the hash of the document, of every row and photo it rests on, and of the machine’s statement before. Signed
 * with the workshop’s key, it can be neither changed, nor taken out of the middle, by whoever has the database alone.
 */

export interface Statement {
  readonly version: 1;
  readonly workshop: string;
  readonly job: string;
  readonly machine: string;
  /** Which of its machine, from 1, and the hash of the one before; null of the first. */
  readonly no: number;
  readonly before: string | null;
  readonly signedAt: string;
  /** SHA-256 of the document’s text. */
  readonly document: string;
  readonly covered: Covered;
  readonly records: Hashes;
}

/**
 * Seals a job that was just signed, as the last thing of its transaction.
 *
 * @param at when it was signed
 */
export async function sealJob(
  tx: Transaction,
  of: { workshopId: string; jobId: string; machineId: string; at: Date },
): Promise<void> {
  const { workshopId, jobId, machineId, at } = of;
  // Statements of one machine are made one after the other: each names the one before.
  await tx.select({ id: machine.id }).from(machine).where(eq(machine.id, machineId)).for("no key update");
  const [last] = await tx
    .select({ no: seal.no, hash: seal.hash })
    .from(seal)
    .where(and(eq(seal.workshopId, workshopId), eq(seal.machineId, machineId)))
    .orderBy(desc(seal.no))
    .limit(1);
  const [signed] = await tx
    .select({ text: sql<string>`${signature.document}::text` })
    .from(signature)
    .where(and(eq(signature.workshopId, workshopId), eq(signature.jobId, jobId)));
  const covered = await coveredNow(tx);
  const statement: Statement = {
    version: 1,
    workshop: workshopId,
    job: jobId,
    machine: machineId,
    no: (last?.no ?? 0) + 1,
    before: last?.hash ?? null,
    signedAt: at.toISOString(),
    document: sha256(signed!.text),
    covered,
    records: (await hashedRows(tx, workshopId, [jobId], covered)).get(jobId)!,
  };
  const content = JSON.stringify(statement);
  const key = signingKey(workshopId);
  await publish(tx, workshopId, key);
  await tx.insert(seal).values({
    workshopId,
    jobId,
    machineId,
    no: statement.no,
    content,
    hash: sha256(content),
    keyId: key.id,
    signature: signText(content, key),
    at,
  });
}

/** The public half, for whoever checks. */
async function publish(tx: Transaction, workshopId: string, { id, publicKey }: SigningKey): Promise<void> {
  await tx.insert(workshopKey).values({ workshopId, id, publicKey }).onConflictDoNothing();
}
