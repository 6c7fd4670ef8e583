import { type Job, type KeptResult, type SignedDocument, keptResults } from "../../../core/job";
import type { Database, Transaction } from "../../../db/client";
import { jobFrom } from "../../../db/queries/job-from";
import { sheetRow } from "../../../db/queries/jobs";
import { earlierSignatures } from "../../../db/queries/results";
import { result, resultInstrument, signature } from "../../../db/schema";
import { and, eq } from "drizzle-orm";

/** What a signed job came to, as rows: written with the signature, from the document that is signed, so that both say the same. */
export async function keepResults(
  tx: Transaction,
  job: Job,
  workshopId: string,
  kept: readonly KeptResult[],
  at: Date,
): Promise<void> {
  if (kept.length === 0) return;
  const rows = kept.map(({ knob, group, button, phase, dimension, tolerance, rule, point, readAt, outOfDate }, i) => ({
    no: i + 1,
    workshopId,
    jobId: job.id,
    machineId: job.machine.id,
    modelId: job.machine.modelId,
    knob,
    group,
    button,
    phase,
    at,
    readAt: readAt ?? at,
    dimension,
    value: point.value,
    u: point.u,
    dof: point.dof,
    k: point.k,
    expanded: point.U,
    n: point.readings.length,
    resolution: point.resolution,
    lower: tolerance.lower ?? null,
    upper: tolerance.upper ?? null,
    verdict: point.verdict,
    pInside: point.pInside,
    rule,
    method: point.method,
    notWarm: point.early ?? 0,
    outOfDate,
  }));
  await tx.insert(result).values(rows);
  const used = kept.flatMap(({ point }, i) =>
    (point.instruments ?? []).map((instrumentId) => ({ workshopId, jobId: job.id, no: i + 1, instrumentId })),
  );
  if (used.length > 0) await tx.insert(resultInstrument).values(used);
}

/** What a list of visits says of a signature without opening it. */
export function briefOf(document: SignedDocument) {
  return {
    finding: document.results.flatMap((r) => r.finding ?? []).join(" "),
    skipped: document.steps.filter((s) => s.skipped !== undefined).length,
  };
}

const AT_A_TIME = 200;

/**
 * Jobs signed by a version that kept no results get their rows, from what was signed: begun again, it goes on where it was.
 *
 * @param onDone hears how many are done
 * @returns how many
 */
export async function keepEarlier(db: Database, onDone: (done: number) => void = () => {}): Promise<number> {
  let done = 0;
  for (;;) {
    const some = await earlierSignatures(db, AT_A_TIME);
    if (some.length === 0) return done;
    for (const { jobId, workshopId } of some) {
      const job = jobFrom((await sheetRow(db, workshopId, jobId))!);
      const { document, at } = job.signature!;
      // Nobody waits for it, and each job is a write of its own.
      // eslint-disable-next-line no-restricted-syntax
      await db.transaction(async (tx) => {
        const [mine] = await tx
          .update(signature)
          .set({ kept: true, ...briefOf(document) })
          .where(and(eq(signature.workshopId, workshopId), eq(signature.jobId, jobId), eq(signature.kept, false)))
          .returning({ id: signature.id });
        if (mine) await keepResults(tx, job, workshopId, keptResults(document, job), at);
      });
    }
    onDone((done += some.length));
  }
}
