import type { Route } from "./+types/news";
import { streamOf } from "~server/events";
import { asItself, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** News of the jobs on this workshop's bench, new ones too. */
export function loader({ context, request }: Route.LoaderArgs) {
  asItself(request);
  return streamOf(who(context), request.signal);
}
