import { and, eq, isNull, sql } from "drizzle-orm";
import { job, ownerLink } from "../../../db/schema";
import { once } from "../../command";
import { tell } from "../../events";
import { moment } from "../../moment";
import { hashFor } from "../../open-links";
import { Refused } from "../../refused";
import { type Target, keys } from "./in-job";

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
      eq(ownerLink.workshopId, by.workshop.id),
      eq(ownerLink.jobId, jobId),
      isNull(ownerLink.revokedAt),
      input.linkId ? eq(ownerLink.id, input.linkId) : sql`true`,
    );
    if (input.change === "revoke") await tx.update(ownerLink).set({ revokedAt: moment() }).where(old);
    else await tx.insert(ownerLink).values({ ...keys(target), tokenHash: ownerHash(target) });
    // A signed job's own row stands still: its links are news all the same.
    await tell(tx, by.workshop.id, jobId, mine.revision + 1);
  });
}

/** What is kept of an owner’s link that a command makes. */
export const ownerHash = ({ by, commandId }: Target) => hashFor("owner", { workshopId: by.workshop.id, id: commandId });
