import type { Route } from "./+types/tap";
import { writeTap } from "./shots.server";
import { formOf, writeOnly } from "~server/body";
import { id, notFound, signedInOnly, who } from "~server/web";

/** One tap of a shot’s clock. */
export const loader = writeOnly;
export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

export async function action({ params, context, request }: Route.ActionArgs) {
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  return writeTap(() => who(context), jobId.data, await formOf(request));
}
