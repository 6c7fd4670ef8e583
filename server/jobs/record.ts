import { createHash, randomBytes } from "node:crypto";
import { and, eq, isNull, sql } from "drizzle-orm";
import type { Transaction } from "../../db/client";
import { type SheetRow, sheetRow } from "../../db/queries/jobs";
import { job, note, ownerLink, photo } from "../../db/schema";
import type { SignedIn } from "../auth";
import { type Outcome, once } from "../command";
import { tell } from "../events";
import { Refused } from "../refused";

export interface Target {
  by: Pick<SignedIn, "id"> & { workshop: Pick<SignedIn["workshop"], "id" | "name"> };
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
 * @param onSigned a signed job takes nothing more; or it takes an amendment, which stands beside what was signed and leaves the job’s
 * own row as it is
 */
export async function inJob(
  target: Target,
  kind: string,
  payload: unknown,
  write: (tx: Transaction, row: SheetRow) => Promise<void>,
  onSigned: "refuse" | "amend" = "refuse",
): Promise<Outcome> {
  const { by, jobId, commandId } = target;
  return once(by, commandId, kind, { jobId, ...(payload as object) }, async (tx) => {
    const mine = await lockJob(tx, target);
    const signed = mine.state === "signed";
    if (signed && onSigned === "refuse") throw new Refused("This job is signed. Nothing can be added to it any more.");
    const row = await sheetRow(tx, by.workshop.id, jobId);
    // Before the write: after signing, the job's row takes no more changes.
    const revision = mine.revision + 1;
    if (!signed) await tx.update(job).set({ revision }).where(eq(job.id, jobId));
    await write(tx, row!);
    await tell(tx, by.workshop.id, jobId, revision);
  });
}

export function keys({ commandId, jobId, by }: Target) {
  return { id: commandId, jobId, by: by.id };
}

export function addNote(target: Target, input: { station: string; area: string; text: string }) {
  return inJob(target, "note", input, async (tx) => {
    await tx.insert(note).values({ ...keys(target), ...input });
  });
}

export interface StoredPhoto {
  station: string;
  area: string;
  mime: string;
  width: number;
  height: number;
  data: Buffer;
}

export function addPhoto(target: Target, input: StoredPhoto) {
  const digest = createHash("sha256").update(input.data).digest("hex");
  return inJob(target, "photo", { station: input.station, digest }, async (tx) => {
    await tx.insert(photo).values({ ...keys(target), ...input, size: input.data.length });
  });
}

/** Owner's links of a signed job: withdrawn and made anew, by anyone of the workshop. */
export function changeLink(target: Target, input: { change: "new" | "revoke"; linkId: string | null }) {
  const { by, jobId, commandId } = target;
  return once(by, commandId, "link", { jobId, ...input }, async (tx) => {
    const [mine] = await tx
      .select({ state: job.state, revision: job.revision })
      .from(job)
      .where(and(eq(job.id, jobId), eq(job.workshopId, by.workshop.id)));
    if (mine?.state !== "signed") throw new Refused("Only a signed job of this workshop has an owner’s page.");
    const old = and(
      eq(ownerLink.jobId, jobId),
      isNull(ownerLink.revokedAt),
      input.linkId ? eq(ownerLink.id, input.linkId) : sql`true`,
    );
    if (input.change === "revoke") await tx.update(ownerLink).set({ revokedAt: new Date() }).where(old);
    else await tx.insert(ownerLink).values({ ...keys(target), token: newToken() });
    // A signed job's own row stands still: its links are news all the same.
    await tell(tx, by.workshop.id, jobId, mine.revision + 1);
  });
}

export function newToken(): string {
  return randomBytes(24).toString("base64url");
}
