import { z } from "zod";
import type { Route } from "./+types/news";
import { streamOf } from "~server/events";
import { asItself, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** From when on; what is none counts as not said. ms since 1970 */
const since = z.coerce.number().int().min(0).max(8.64e15).nullable().catch(null);

/** News of the jobs on this workshop's bench, new ones too; with `since`, or a last event's id, what came from that moment on first. */
export function loader({ context, request }: Route.LoaderArgs) {
  asItself(request);
  const asked = request.headers.get("Last-Event-ID") || new URL(request.url).searchParams.get("since");
  return streamOf(who(context), request.signal, since.parse(asked || null));
}
