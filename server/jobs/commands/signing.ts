import { createHash } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { type Signing, type Standing, documentOf, keptResults } from "../../../core/job";
import { unsafeNow } from "../../../core/sheet";
import type { Transaction } from "../../../db/client";
import { resultsBefore } from "../../../db/queries/results";
import { job, ownerLink, signature } from "../../../db/schema";
import { moment } from "../../moment";
import { sealJob } from "../../proof/seal";
import { may } from "../../permissions";
import { Refused } from "../../refused";
import { type Target, inJob, keys } from "./in-job";
import { keepResponses } from "./learning";
import { ownerHash } from "./links";
import { keepProgrammes } from "./programmes";
import { briefOf, keepResults } from "./results";

/** Earlier visits that tell how a setting wanders. */
const VISITS = 12;

/** A signature freezes the job: all that was read and done, as one document. */

export interface SignInput {
  name: string;
  remark: string;
  /** What is done about something unsafe: the machine is marked out of use, or a lead signs all the same, with the reason. */
  release?: "" | "out-of-use" | "exception";
  exception?: string;
}

export function sign(target: Target, input: SignInput) {
  return inJob(target, "sign", input, async (tx, _, standing) => {
    const sign = standing()
      .at(moment().getTime())
      .find((p) => p.station.tasks.some((t) => t.kind === "sign"));
    if (sign?.state !== "ready") throw new Refused(sign?.why ?? "This job takes no more signatures.");
    const release = releaseFrom(unsafeNow(standing().records), input, target);
    const { name, remark } = input;
    await writeSignature(tx, standing(), target, { name, remark, ...(release ? { release } : {}) }, moment());
  });
}

/** Shorter than this is no reason. Our choice, as of any exception. */
const LEAST_REASON = 10;

/** Nothing unsafe is handed over without a word: mended, marked on every paper, or an exception that a lead answers for. */
function releaseFrom(
  unsafe: readonly string[],
  { release = "", exception = "", name }: SignInput,
  { by }: Target,
): Signing["release"] {
  if (unsafe.length === 0) return undefined;
  if (release === "out-of-use") return { way: "out-of-use" };
  const stands = `${unsafe.join(" ")} Mend it, or mark the machine out of use.`;
  if (release === "") throw new Refused(stands, "release");
  if (!may(by, "exception")) throw new Refused(`${stands} Only a lead can sign an exception.`, "release");
  if (exception.trim().length < LEAST_REASON)
    throw new Refused("As a lead, give the reason for the exception: it stands on the report.", "exception");
  return { way: "exception", by: name, why: exception.trim() };
}

/** Freezes the job: the document, its hash, the state, and the owner's link, in the transaction given. */
export async function writeSignature(
  tx: Transaction,
  standing: Standing,
  target: Target,
  input: Pick<Signing, "name" | "remark" | "release">,
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
  await tx.insert(ownerLink).values({ ...keys(target), at, tokenHash: ownerHash(target) });
  const { id: jobId, machine } = standing.job;
  await sealJob(tx, { workshopId: target.by.workshop.id, jobId, machineId: machine.id, at });
}
