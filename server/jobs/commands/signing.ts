import { createHash } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { type Standing, documentOf, keptResults } from "../../../core/job";
import type { Transaction } from "../../../db/client";
import { resultsBefore } from "../../../db/queries/results";
import { job, ownerLink, signature } from "../../../db/schema";
import { moment } from "../../moment";
import { sealJob } from "../../proof/seal";
import { Refused } from "../../refused";
import { type Target, inJob, keys } from "./in-job";
import { keepResponses } from "./learning";
import { newToken } from "./links";
import { keepProgrammes } from "./programmes";
import { briefOf, keepResults } from "./results";

/** Earlier visits that tell how a setting wanders. */
const VISITS = 12;

/** A signature freezes the job: all that was read and done, as one document. */

export function sign(target: Target, input: { name: string; remark: string }) {
  return inJob(target, "sign", input, async (tx, _, standing) => {
    const sign = standing()
      .at(moment().getTime())
      .find((p) => p.station.tasks.some((t) => t.kind === "sign"));
    if (sign?.state !== "ready") throw new Refused(sign?.why ?? "This job takes no more signatures.");
    await writeSignature(tx, standing(), target, input, moment());
  });
}

/** Freezes the job: the document, its hash, the state, and the owner's link, in the transaction given. */
export async function writeSignature(
  tx: Transaction,
  standing: Standing,
  target: Target,
  input: { name: string; remark: string },
  at: Date,
) {
  const past = await resultsBefore(tx, { workshopId: target.by.workshop.id, jobId: standing.job.id, visits: VISITS });
  const document = documentOf(standing, { ...input, workshop: target.by.workshop.name, at, past });
  const left = document.results.flatMap((r) => r.asLeft ?? []);
  if (left.some((point) => point.verdict !== "holds" && point.verdict !== "just holds") && !input.remark)
    throw new Refused("A reading left is not inside its tolerance. Say what the owner should know about it.", "remark");
  // What is hashed is what is stored, key for key: anyone can take the document and check it.
  const hash = createHash("sha256").update(JSON.stringify(document)).digest("hex");
  await tx.insert(signature).values({
    ...keys(target),
    at,
    name: input.name,
    remark: input.remark,
    document,
    hash,
    kept: true,
    ...briefOf(document),
  });
  await keepResults(tx, standing.job, target.by.workshop.id, keptResults(document, standing.job), at);
  await keepResponses(tx, standing, target.by.workshop.id, at);
  await keepProgrammes(tx, standing, target.by.workshop.id, at);
  // Last: a signed job takes nothing more, this transaction included.
  await tx
    .update(job)
    .set({ state: "signed", signedAt: at })
    .where(and(eq(job.workshopId, target.by.workshop.id), eq(job.id, standing.job.id)));
  await tx.insert(ownerLink).values({ ...keys(target), at, token: newToken() });
  const { id: jobId, machine } = standing.job;
  await sealJob(tx, { workshopId: target.by.workshop.id, jobId, machineId: machine.id, at });
}
