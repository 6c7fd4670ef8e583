import { and, desc, eq, inArray, sql } from "drizzle-orm";
import type { Database, Transaction } from "../../db/client";
import { job, machine, seal, signature, workshopKey } from "../../db/schema";
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

interface Signed {
  readonly workshopId: string;
  readonly jobId: string;
  readonly machineId: string;
  /** When it was signed. */
  readonly at: Date;
}

/** Seals a job that was just signed, as the last thing of its transaction. */
export async function sealJob(tx: Transaction, of: Signed): Promise<void> {
  // Statements of one machine are made one after the other: each names the one before.
  await tx.select({ id: machine.id }).from(machine).where(eq(machine.id, of.machineId)).for("no key update");
  await sealAll(tx, of.workshopId, [of]);
}

/** Statements of signed jobs of one workshop, in the order given. */
async function sealAll(tx: Transaction, workshopId: string, jobs: readonly Signed[]): Promise<void> {
  const ids = jobs.map((j) => j.jobId);
  const heads = await tx
    .selectDistinctOn([seal.machineId], { machineId: seal.machineId, no: seal.no, hash: seal.hash })
    .from(seal)
    .where(
      and(
        eq(seal.workshopId, workshopId),
        inArray(
          seal.machineId,
          jobs.map((j) => j.machineId),
        ),
      ),
    )
    .orderBy(seal.machineId, desc(seal.no));
  const last = new Map(heads.map((h) => [h.machineId, { no: h.no, hash: h.hash }]));
  const documents = await tx
    .select({ jobId: signature.jobId, text: sql<string>`${signature.document}::text` })
    .from(signature)
    .where(and(eq(signature.workshopId, workshopId), inArray(signature.jobId, ids)));
  const texts = new Map(documents.map((d) => [d.jobId, d.text]));
  const covered = await coveredNow(tx);
  const records = await hashedRows(tx, workshopId, ids, covered);
  const key = signingKey(workshopId);
  await publish(tx, workshopId, key);
  const rows = jobs.map(({ jobId, machineId, at }) => {
    const before = last.get(machineId);
    const statement: Statement = {
      version: 1,
      workshop: workshopId,
      job: jobId,
      machine: machineId,
      no: (before?.no ?? 0) + 1,
      before: before?.hash ?? null,
      signedAt: at.toISOString(),
      document: sha256(texts.get(jobId)!),
      covered,
      records: records.get(jobId)!,
    };
    const content = JSON.stringify(statement);
    const hash = sha256(content);
    last.set(machineId, { no: statement.no, hash });
    const of = { workshopId, jobId, machineId, no: statement.no, at };
    return { ...of, content, hash, keyId: key.id, signature: signText(content, key) };
  });
  await tx.insert(seal).values(rows);
}

const AT_A_TIME = 100;

/**
 * Jobs signed by a version that made no statements get theirs, some at a time: from there on a change is found, whatever was before it. Begun
 * again, it goes on where it was.
 *
 * @param onDone hears how many are done
 * @returns how many
 */
export async function sealEarlier(db: Database, onDone: (done: number) => void = () => {}): Promise<number> {
  const none = sql`not exists (select from seal s where s.workshop_id = ${job.workshopId} and s.job_id = ${job.id})`;
  let done = 0;
  for (;;) {
    const [first] = await db
      .select({ workshopId: job.workshopId })
      .from(job)
      .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
      .where(and(eq(job.state, "signed"), none))
      .limit(1);
    if (!first) return done;
    const { workshopId } = first;
    // Nobody waits for it, and each lot is a write of its own.
    // eslint-disable-next-line no-restricted-syntax
    await db.transaction(async (tx) => {
      const some = await tx
        .select({ workshopId: job.workshopId, jobId: job.id, machineId: job.machineId, at: job.signedAt })
        .from(job)
        .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
        .where(and(eq(job.workshopId, workshopId), eq(job.state, "signed"), none))
        .orderBy(job.signedAt, job.id)
        .limit(AT_A_TIME);
      const jobs = some.map((s) => ({ ...s, at: s.at! }));
      // What is signed meanwhile waits for its turn in the chain.
      await tx
        .select({ id: machine.id })
        .from(machine)
        .where(
          inArray(
            machine.id,
            jobs.map((j) => j.machineId),
          ),
        )
        .orderBy(machine.id)
        .for("no key update");
      await sealAll(tx, workshopId, jobs);
      done += jobs.length;
    });
    onDone(done);
  }
}

/** The public half, for whoever checks. */
async function publish(tx: Transaction, workshopId: string, { id, publicKey }: SigningKey): Promise<void> {
  await tx.insert(workshopKey).values({ workshopId, id, publicKey }).onConflictDoNothing();
}
