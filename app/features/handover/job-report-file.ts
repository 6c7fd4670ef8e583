import type { Route } from "./+types/job-report-file";
import { notThere, pdfResponse } from "./paper.server";
import { reportPaper } from "~server/papers/of-job";
import { asItself, id, notFound, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** ms: whoever asks for the file itself waits for it. */
const LONG = 60_000;

export async function loader({ params, request, context }: Route.LoaderArgs) {
  asItself(request);
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  const { id: workshopId } = who(context).workshop;
  const paper = await reading(() => reportPaper(workshopId, jobId.data, { wait: LONG }));
  if (!paper) throw await reading(() => notThere(workshopId, jobId.data));
  return pdfResponse(paper);
}
