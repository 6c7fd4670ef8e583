import type { Route } from "./+types/news";
import { openJobs } from "~db/queries/jobs";
import { database } from "~server/database";
import { streamOf } from "~server/events";
import { reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** News of the jobs on this workshop's bench. */
export async function loader({ context, request }: Route.LoaderArgs) {
  const jobs = await reading(() => openJobs(database(), who(context).workshop.id));
  return streamOf(
    jobs.map((j) => j.id),
    request.signal,
  );
}
