import { and, eq } from "drizzle-orm";
import { z } from "zod";
import type { Route } from "./+types/photo";
import { photo } from "~db/schema";
import { database } from "~server/database";
import { asItself, notFound, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** One photo of a job of this workshop. It never changes, so the browser may keep it for a while; others may not. */
export async function loader({ params, context, request }: Route.LoaderArgs) {
  asItself(request);
  const ids = z.object({ jobId: z.uuid(), photoId: z.uuid() }).safeParse(params);
  if (!ids.success) throw notFound();
  const [found] = await reading(() =>
    database()
      .select({ mime: photo.mime, data: photo.data })
      .from(photo)
      .where(
        and(
          eq(photo.workshopId, who(context).workshop.id),
          eq(photo.jobId, ids.data.jobId),
          eq(photo.id, ids.data.photoId),
        ),
      ),
  );
  if (!found) throw notFound();
  return new Response(new Uint8Array(found.data), {
    headers: {
      "Content-Type": found.mime,
      "Cache-Control": "private, max-age=600",
      "X-Content-Type-Options": "nosniff",
    },
  });
}
