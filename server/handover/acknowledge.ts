import { and, eq } from "drizzle-orm";
import sharp from "sharp";
import type { Transaction } from "../../db/client";
import { ownerLinkOf } from "../../db/queries/owner-card";
import { acknowledgement, job, ownerLink } from "../../db/schema";
import { inTurnOfPictures } from "../aside/pictures";
import type { Outcome } from "../command";
import { database } from "../database";
import { moment } from "../moment";
import { sealJob } from "../proof/seal";
import { Refused } from "../refused";
import { inTransaction, oneByOne } from "../transaction";

/** An owner’s own word, by link: a name and a drawn signature, beside what was signed. */

/** px and bytes as it is kept. */
const BOX = { width: 600, height: 220 };
const KEPT = 60_000;
/** Those of one job: an owner and a partner or two. */
const MOST = 5;

export interface Acknowledging {
  id: string;
  name: string;
  drawing: Uint8Array;
}

/** What was drawn, read by content and encoded anew. @throws Refused when it is no picture, or nothing was drawn */
export async function asDrawing(bytes: Uint8Array): Promise<Buffer> {
  const picture = sharp(bytes, { limitInputPixels: 4_000_000, failOn: "error" }).flatten({ background: "#fff" });
  const made = await picture
    .clone()
    .resize({ ...BOX, fit: "inside", withoutEnlargement: true })
    .greyscale()
    .png({ palette: true, colours: 16 })
    .toBuffer()
    .catch(() => null);
  if (!made || made.length > KEPT)
    throw new Refused("That is not a signature that can be read. Draw it again.", "drawing");
  const { channels } = await picture.stats();
  if (channels.every((c) => c.max - c.min < 32)) throw new Refused("Sign in the box first.", "drawing");
  return made;
}

type Reads = Pick<Transaction, "select">;

async function behind(db: Reads, token: string) {
  const [of] = await db
    .select({ workshopId: job.workshopId, jobId: job.id, machineId: job.machineId })
    .from(ownerLink)
    .innerJoin(job, and(eq(job.workshopId, ownerLink.workshopId), eq(job.id, ownerLink.jobId)))
    .where(ownerLinkOf(token));
  if (!of) throw new Refused("This link was withdrawn. Ask the workshop for a new one.");
  return of;
}

/** The same one, where it was sent before. @throws Refused where there is no room for another */
async function room(db: Reads, { workshopId, jobId }: Awaited<ReturnType<typeof behind>>, id: string) {
  const before = await db
    .select({ id: acknowledgement.id, name: acknowledgement.name })
    .from(acknowledgement)
    .where(and(eq(acknowledgement.workshopId, workshopId), eq(acknowledgement.jobId, jobId)));
  const same = before.find((a) => a.id === id);
  if (!same && before.length >= MOST) throw new Refused("It was acknowledged by enough people already.");
  return same;
}

/** Within the workshop that made the link. Sent twice it is one. @throws Refused in words */
export async function acknowledge(token: string, { id, name, drawing }: Acknowledging): Promise<Outcome> {
  // Nothing is drawn for a link that takes no more: pictures cost more than a look.
  await room(database(), await behind(database(), token), id);
  const picture = await inTurnOfPictures("drawing", () => asDrawing(drawing));
  return inTransaction(async (tx) => {
    const of = await behind(tx, token);
    const { workshopId, jobId, machineId } = of;
    await oneByOne(tx, `acknowledgements of ${jobId}`);
    const same = await room(tx, of, id);
    if (same) return same.name === name ? "repeated" : "clash";
    const at = moment();
    await tx.insert(acknowledgement).values({ id, workshopId, jobId, name, drawing: picture, at });
    await sealJob(tx, { workshopId, jobId, machineId, at, amends: { table: "acknowledgement", id } });
    return "done";
  });
}
