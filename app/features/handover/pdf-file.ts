import type { Route } from "./+types/pdf-file";
import { byLink } from "./by-link.server";
import { pdfResponse } from "./paper.server";
import { signedBehind } from "~db/queries/owner-card";
import { database } from "~server/database";
import { reportPaper } from "~server/papers/of-job";
import { asItself } from "~server/web";

/** ms: whoever asks for the file itself waits for it. */
const LONG = 60_000;

export async function loader({ params: { token }, request, context }: Route.LoaderArgs) {
  asItself(request);
  const paper = await byLink(token, context, async () => {
    const found = await signedBehind(database(), token);
    return found && reportPaper(found.workshopId, found.jobId, { wait: LONG });
  });
  return pdfResponse(paper);
}
