import { and, eq, lt } from "drizzle-orm";
import sharp from "sharp";
import { datesOf } from "../../core/day/said";
import { printedOf } from "../../core/job";
import { acknowledgementsOf, additionsOf } from "../../db/queries/owner-card";
import { paperMade, photosOf, pictureOf, signedJob } from "../../db/queries/papers";
import { paper } from "../../db/schema";
import { database } from "../database";
import { fromUnderMac, underMac } from "../keys";
import { moment } from "../moment";
import { proofOf } from "../proof/verify";
import { sha256 } from "../proof/keys";
import { inTransaction } from "../transaction";
import { type Progress, make, progressOf, stopMaking } from "./make";
import type { PaperOf } from "./report";

/** The service report of a signed job as PDF: kept by what it is made of, made where nothing of it is kept. */

/** Counts on when the look of the paper changes: what was kept of the old look is made anew. */
const LOOK = 3;
/** A kept paper that nobody made anew for so long goes, days. */
const KEPT_DAYS = 60;
/** px of a photo’s longer side: 48 % of a page at 200 dots an inch. */
const PHOTO_EDGE = 700;

/** All that is on the paper but the pictures. */
async function contentOf(workshopId: string, jobId: string) {
  const db = database();
  const signed = await signedJob(db, workshopId, jobId);
  if (!signed) return null;
  const { document, timeZone, paper: size, hash, contact, town, logo } = signed;
  const [added, acknowledged, photos, { holds, sound, keyId }] = await Promise.all([
    additionsOf(db, workshopId, jobId),
    acknowledgementsOf(db, workshopId, jobId),
    photosOf(db, workshopId, jobId),
    proofOf(db, workshopId, jobId),
  ]);
  const { day } = datesOf(document.timeZone || timeZone);
  const on = (at: Date) => day(at.toISOString());
  return {
    ...{ hash, contact, town, logo },
    report: printedOf(document, timeZone),
    paper: size === "A4" ? ("A4" as const) : ("Letter" as const),
    photos: photos.map((p) => {
      const lines = (document.work ?? []).filter((w) => w.photos?.includes(p.id)).map((w) => w.what);
      return { id: p.id, said: [p.area, ...lines, on(p.at)].filter(Boolean).join(", ") };
    }),
    added: added.map((a) => ({ on: on(a.at), about: a.about, said: a.said, by: a.by, holds: sound.has(a.id) })),
    acknowledged: acknowledged.map((a) => ({
      ...{ name: a.name, on: on(a.at), drawing: a.drawing, holds: sound.has(a.id) },
    })),
    signature: { id: keyId, holds },
  };
}

type Content = NonNullable<Awaited<ReturnType<typeof contentOf>>>;

/** The same content is the same key. */
function keyOf(jobId: string, { logo, acknowledged, ...rest }: Content): string {
  const drawings = acknowledged.map(({ drawing, ...a }) => ({ ...a, drawing: sha256(drawing.toString("base64")) }));
  return sha256(JSON.stringify({ LOOK, jobId, rest, drawings, logo: logo ? sha256(logo.toString("base64")) : null }));
}

export type PaperState =
  | { readonly state: "made"; readonly data: Uint8Array }
  | { readonly state: "making"; readonly progress: Progress }
  | { readonly state: "stopped" };

/**
 * The report as it is now: made already, or begun by this and waited for a moment.
 *
 * @param wait ms at most
 * @returns null where no such job is signed in this workshop
 */
export async function reportPaper(
  workshopId: string,
  jobId: string,
  { wait, begin = true }: { wait: number; begin?: boolean },
): Promise<PaperState | null> {
  const content = await contentOf(workshopId, jobId);
  if (!content) return null;
  const key = keyOf(jobId, content);
  const kept = await paperMade(database(), workshopId, key);
  // One that was put in its place by somebody else is none: it is made anew.
  const own = kept && fromUnderMac(paperName(workshopId, key), kept);
  if (own) return { state: "made", data: own };
  if (!begin && !progressOf(key)) return { state: "stopped" };
  const made = make(key, {
    gather: (tell, stop) => gather(workshopId, jobId, content, tell, stop),
    keep: (pdf) => keep(workshopId, key, pdf),
  });
  const late = new Promise<"late">((resolve) => setTimeout(() => resolve("late"), wait));
  const first = await Promise.race([made, late]);
  if (first === "late") return { state: "making", progress: progressOf(key) ?? { done: 1, of: 1, what: "Ready" } };
  return first ? { state: "made", data: first } : { state: "stopped" };
}

/** Stops what is being made of a job’s report; false where there is no such job in this workshop. */
export async function stopReport(workshopId: string, jobId: string): Promise<boolean> {
  const content = await contentOf(workshopId, jobId);
  if (content) stopMaking(keyOf(jobId, content));
  return content !== null;
}

async function gather(
  workshopId: string,
  jobId: string,
  content: Content,
  tell: (progress: Progress) => void,
  stop: AbortSignal,
): Promise<PaperOf> {
  const of = content.photos.length + 1;
  const photos: PaperOf["photos"][number][] = [];
  for (const [done, { id, said }] of content.photos.entries()) {
    stop.throwIfAborted();
    tell({ done, of, what: `Photo ${done + 1} of ${content.photos.length}` });
    const picture = await pictureOf(database(), workshopId, jobId, id);
    if (!picture) continue;
    const data = await sharp(picture)
      .resize({ width: PHOTO_EDGE, height: PHOTO_EDGE, fit: "inside", withoutEnlargement: true })
      .jpeg({ quality: 78 })
      .toBuffer();
    photos.push({ data, said });
  }
  tell({ done: of - 1, of, what: "Laying out the pages" });
  return { ...content, photos };
}

const paperName = (workshopId: string, key: string) => `paper ${workshopId} ${key}`;

/** Of two that were made at once one is kept. Old ones go. */
async function keep(workshopId: string, key: string, pdf: Uint8Array): Promise<void> {
  const at = moment();
  const data = underMac(paperName(workshopId, key), pdf);
  await inTransaction(async (tx) => {
    await tx.delete(paper).where(and(eq(paper.workshopId, workshopId), eq(paper.key, key)));
    await tx.insert(paper).values({ workshopId, key, data, at }).onConflictDoNothing();
    const old = new Date(at.getTime() - KEPT_DAYS * 86_400_000);
    await tx.delete(paper).where(and(eq(paper.workshopId, workshopId), lt(paper.at, old)));
  });
}
