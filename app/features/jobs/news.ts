import { and, eq } from "drizzle-orm";
import type { Route } from "./+types/news";
import { job } from "~db/schema";
import { database } from "~server/database";
import { streamOf } from "~server/events";
import { notFound, reading, signedInOnly, who } from "~server/web";
import { z } from "zod";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** News of one job, for the tabs that show it. */
export async function loader({ params, context, request }: Route.LoaderArgs) {
  const id = z.uuid().safeParse(params.jobId);
  if (!id.success) throw notFound();
  const [mine] = await reading(() =>
    database()
      .select({ id: job.id })
      .from(job)
      .where(and(eq(job.id, id.data), eq(job.workshopId, who(context).workshop.id))),
  );
  if (!mine) throw notFound();
  return streamOf(mine.id, request.signal);
}
