import { redirect } from "react-router";
import { signedJob } from "~db/queries/papers";
import { job } from "~db/schema";
import { database } from "~server/database";
import { and, eq } from "drizzle-orm";
import { privateFile, torn } from "./by-link.server";
import { type PaperState, reportPaper, stopReport } from "~server/papers/of-job";
import { isTorn } from "~server/proof/torn";
import { notFound } from "~server/web";

/** Shared by the report’s two addresses: the owner’s, by link, and the workshop’s. */

/** A short report is there before anybody sees a page about it, ms. */
const SOON = 2500;

export interface PaperAsked {
  readonly workshopId: string;
  readonly jobId: string;
  readonly request: Request;
}

const wasStopped = (request: Request) => new URL(request.url).searchParams.has("stopped");

/** How far it is; a browser that asks for the page itself is sent on to the file once it is there. @throws 404, or the way on */
export async function paperLoader({ workshopId, jobId, request }: PaperAsked) {
  const url = new URL(request.url);
  const asPage = !url.pathname.endsWith(".data");
  const paper = await reportPaper(workshopId, jobId, {
    wait: asPage ? SOON : 0,
    begin: !wasStopped(request),
  });
  if (!paper) throw await notThere(workshopId, jobId);
  const file = `${url.pathname.replace(/\.data$/, "")}/file`;
  if (paper.state === "made" && asPage) throw redirect(file);
  return { progress: paper.state === "making" ? paper.progress : null, file: paper.state === "made" ? file : null };
}

export async function paperAction({ workshopId, jobId, request }: PaperAsked, intent: string) {
  // To make it anew is to load the page again: only a stop is a thing to do here.
  const there =
    intent === "stop" ? await stopReport(workshopId, jobId) : await signedJob(database(), workshopId, jobId);
  if (!there) throw notFound();
  const { pathname } = new URL(request.url);
  return redirect(pathname.replace(/\.data$/, "") + (intent === "stop" ? "?stopped" : ""));
}

/** Why there is no paper. */
export const notThere = async (workshopId: string, jobId: string) =>
  (await isTorn(and(eq(job.workshopId, workshopId), eq(job.id, jobId)))) ? torn() : notFound();

export function pdfResponse(paper: PaperState | null): Response {
  if (paper?.state !== "made") throw notFound();
  return privateFile(new Uint8Array(paper.data), "application/pdf", `inline; filename="service-report.pdf"`);
}
