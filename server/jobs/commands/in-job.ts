import { and, eq } from "drizzle-orm";
import { type Job, type Standing, standingOf } from "../../../core/job";
import { Unfit } from "../../../core/sheet";
import type { Transaction } from "../../../db/client";
import { jobFrom } from "../../../db/queries/job-from";
import { sheetRow } from "../../../db/queries/jobs";
import { job } from "../../../db/schema";
import type { SignedIn } from "../../auth";
import { type Outcome, once } from "../../command";
import { tell } from "../../events";
import { moment } from "../../moment";
import { Refused } from "../../refused";

/** One write to one job: locked, checked, and told to whoever looks at it. */

export interface Target {
  by: Pick<SignedIn, "id" | "role" | "way"> & { workshop: Pick<SignedIn["workshop"], "id" | "name"> };
  jobId: string;
  commandId: string;
}

/** Locks a job of the person’s own workshop. */
export async function lockJob(tx: Transaction, { by, jobId }: Target) {
  const [mine] = await tx
    .select({ state: job.state, revision: job.revision })
    .from(job)
    .where(and(eq(job.id, jobId), eq(job.workshopId, by.workshop.id)))
    .for("update");
  if (!mine) throw new Refused("There is no such job in this workshop.");
  return mine;
}

/**
 * Locks the job, checks that it is this workshop's and open, and hands over what stands in it.
 *
 * @param write takes the job, and where it stands: worked out when it is asked for, once
 * @param onSigned a signed job takes nothing more; or it takes an amendment, which stands beside what was signed and leaves the job’s
 * own row as it is; a withdrawn one is only reopened
 */
export async function inJob(
  target: Target,
  kind: string,
  payload: unknown,
  write: (tx: Transaction, job: Job, standing: () => Standing) => Promise<void>,
  onSigned: "refuse" | "amend" | "reopen" = "refuse",
): Promise<Outcome> {
  const { by, jobId, commandId } = target;
  return once(by, commandId, kind, { jobId, ...(payload as object) }, async (tx) => {
    const mine = await lockJob(tx, target);
    if (mine.state === "withdrawn" && onSigned !== "reopen")
      throw new Refused("This job was withdrawn. Reopen it to go on with it.");
    const signed = mine.state === "signed";
    if (signed && onSigned !== "amend") throw new Refused("This job is signed. Nothing can be added to it any more.");
    const row = await sheetRow(tx, by.workshop.id, jobId);
    // Before the write: after signing, the job's row takes no more changes.
    const revision = mine.revision + 1;
    if (!signed) await tx.update(job).set({ revision }).where(eq(job.id, jobId));
    const found = jobFrom(row!);
    let standing: Standing | undefined;
    await asRefused(() => write(tx, found, () => (standing ??= standingOf(found))));
    await tell(tx, by.workshop.id, jobId, revision);
  });
}

/** What the core can’t take is refused in its words, at its field. */
async function asRefused(write: () => Promise<void>): Promise<void> {
  try {
    await write();
  } catch (error) {
    if (error instanceof Unfit) throw new Refused(error.message, error.field || undefined);
    throw error;
  }
}

export function keys({ commandId, jobId, by }: Target) {
  return { id: commandId, workshopId: by.workshop.id, jobId, by: by.id, at: moment() };
}
