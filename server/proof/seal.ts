import { and, desc, eq, inArray, sql } from "drizzle-orm";
import type { Database, Transaction } from "../../db/client";
import { workshopIds } from "../../db/queries/doors";
import { job, machine, seal, signature, workshopKey } from "../../db/schema";
import { type SigningKey, sha256, signText, signingKey } from "./keys";
import { isComplete, markComplete } from "./memory";
import { ADDED, type Covered, type Hashes, coveredByAddition, coveredNow, hashedRows, ofRecord } from "./records";

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
  /** Of what was added after the signature: which record. Its statement covers that one alone. */
  readonly amends?: { readonly table: string; readonly id: string };
  readonly covered: Covered;
  readonly records: Hashes;
}

interface Signed {
  readonly workshopId: string;
  readonly jobId: string;
  readonly machineId: string;
  /** When it was signed, or added. */
  readonly at: Date;
  readonly amends?: Statement["amends"];
}

/** Seals a job that was just signed, or something that was just added to one, as the last thing of its transaction. */
export async function sealJob(tx: Transaction, of: Signed): Promise<void> {
  // Statements of one machine are made one after the other: each names the one before.
  await tx.select({ id: machine.id }).from(machine).where(eq(machine.id, of.machineId)).for("no key update");
  await sealAll(tx, of.workshopId, [of]);
}

/** Statements of one workshop, in the order given: all of signed jobs, or all of what was added to some. */
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
  const isAdded = jobs[0]?.amends !== undefined;
  const covered = isAdded ? coveredByAddition(await coveredNow(tx)) : await coveredNow(tx);
  const records = await hashedRows(tx, workshopId, ids, covered, isAdded ? "added" : "signed");
  const key = signingKey(workshopId);
  await publish(tx, workshopId, key);
  const rows = jobs.map(({ jobId, machineId, at, amends }) => {
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
      ...(amends ? { amends } : {}),
      covered,
      records: amends ? ofRecord(records.get(jobId)!, amends.id) : records.get(jobId)!,
    };
    const content = JSON.stringify(statement);
    const hash = sha256(content);
    last.set(machineId, { no: statement.no, hash });
    const of = { workshopId, jobId, machineId, amends: amends?.id ?? null, no: statement.no, at };
    return { ...of, content, hash, keyId: key.id, signature: signText(content, key) };
  });
  await tx.insert(seal).values(rows);
}

/**
 * Statements of signed jobs that came from elsewhere, and of what was added to them: this workshop’s own, for what it was given. In the order in
 * which they were signed.
 */
export async function sealThese(tx: Transaction, workshopId: string, jobIds: readonly string[]): Promise<void> {
  for (let from = 0; from < jobIds.length; from += AT_A_TIME) {
    const ids = jobIds.slice(from, from + AT_A_TIME);
    for (const some of [signedWithout, addedWithout])
      for (let lot = await some(tx, workshopId, ids); lot.length > 0; lot = await some(tx, workshopId, ids))
        await sealAll(tx, workshopId, lot);
  }
}

const AT_A_TIME = 100;

/**
 * What was signed, or added to it, by a version that made no statements gets them, some at a time: from there on a change is found, whatever was
 * before it. Begun again, it goes on where it was. Workshops that once had all of theirs are left alone: what has none there was put in
 * behind the application.
 *
 * @param onDone hears how many are done
 * @param memory the folder beside the keys in which is kept which workshops have all
 * @returns how many
 */
export async function sealEarlier(
  db: Database,
  { onDone = () => {}, memory }: { onDone?: (done: number) => void; memory?: string } = {},
): Promise<number> {
  const shops = await workshopIds(db);
  let done = 0;
  for (const workshopId of shops) {
    if (memory && isComplete(memory, workshopId)) continue;
    for (const some of [signedWithout, addedWithout])
      for (;;) {
        // Nobody waits for it, and each lot is a write of its own.
        // eslint-disable-next-line no-restricted-syntax
        const count = await db.transaction(async (tx) => {
          const lot = await some(tx, workshopId);
          if (lot.length === 0) return 0;
          const machines = lot.map((l) => l.machineId);
          // What is signed meanwhile waits for its turn in the chain.
          await tx
            .select({ id: machine.id })
            .from(machine)
            .where(inArray(machine.id, machines))
            .orderBy(machine.id)
            .for("no key update");
          await sealAll(tx, workshopId, lot);
          return lot.length;
        });
        if (count === 0) break;
        onDone((done += count));
      }
  }
  if (memory) markComplete(memory, shops);
  return done;
}

/** @param jobIds of these alone */
async function signedWithout(tx: Transaction, workshopId: string, jobIds?: readonly string[]): Promise<Signed[]> {
  const none = sql`not exists (select from seal s where s.workshop_id = ${job.workshopId} and s.job_id = ${job.id} and s.amends is null)`;
  const some = await tx
    .select({ workshopId: job.workshopId, jobId: job.id, machineId: job.machineId, at: job.signedAt })
    .from(job)
    .innerJoin(signature, and(eq(signature.workshopId, job.workshopId), eq(signature.jobId, job.id)))
    .where(
      and(
        eq(job.workshopId, workshopId),
        eq(job.state, "signed"),
        none,
        jobIds ? inArray(job.id, [...jobIds]) : undefined,
      ),
    )
    .orderBy(job.signedAt, job.id)
    .limit(AT_A_TIME);
  return some.map((s) => ({ ...s, at: s.at! }));
}

/** In the order they were added; one table after the other. */
async function addedWithout(tx: Transaction, workshopId: string, jobIds?: readonly string[]): Promise<Signed[]> {
  for (const { table, unsealed } of ADDED) {
    const { rows } = await tx.execute<{ id: string; job: string; machine: string; at: string }>(sql`
      select t.id, t.job_id as job, j.machine_id as machine, t.at::text as at
      from ${sql.identifier(table)} t join job j on j.workshop_id = t.workshop_id and j.id = t.job_id
      where t.workshop_id = ${workshopId} and ${jobIds ? inArray(sql`t.job_id`, [...jobIds]) : sql`true`} and ${sql.raw(unsealed)} order by t.at, t.id limit ${AT_A_TIME}`);
    if (rows.length > 0)
      return rows.map(({ id, job: jobId, machine: machineId, at }) => {
        return { workshopId, jobId, machineId, at: new Date(at), amends: { table, id } };
      });
  }
  return [];
}

/** The public half, for whoever checks. */
async function publish(tx: Transaction, workshopId: string, { id, publicKey }: SigningKey): Promise<void> {
  await tx.insert(workshopKey).values({ workshopId, id, publicKey }).onConflictDoNothing();
}
