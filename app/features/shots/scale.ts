import type { Route } from "./+types/scale";
import { standingOf } from "~core/job";
import { jobFrom } from "~db/queries/job-from";
import { sheetRow } from "~db/queries/jobs";
import { database } from "~server/database";
import { scaleStream } from "~server/instruments/scale";
import { asItself, id, notFound, reading, signedInOnly, who } from "~server/web";

/** What the bench scale shows, as it goes. */
export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

export async function loader({ params, context, request }: Route.LoaderArgs) {
  asItself(request);
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  const workshopId = who(context).workshop.id;
  const row = await reading(() => sheetRow(database(), workshopId, jobId.data));
  if (!row) throw notFound();
  return scaleStream(workshopId, jobId.data, standingOf(jobFrom(row)).recipe.yield.target, request.signal);
}
