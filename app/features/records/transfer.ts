import type { Route } from "./+types/transfer";
import { stopTransfer, transferFor, viewOf } from "~server/open/transfers";
import { asItself, id, notFound, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** How far a file is. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  asItself(request);
  const transferId = id.safeParse(params.transferId);
  const row = transferId.success ? await reading(() => transferFor(who(context), transferId.data)) : null;
  if (!row) throw notFound();
  return Response.json(viewOf(row));
}

/** Stops it. Twice is the same. */
export async function action({ params, request, context }: Route.ActionArgs) {
  asItself(request);
  const transferId = id.safeParse(params.transferId);
  if (!transferId.success) throw notFound();
  if (!(await reading(() => stopTransfer(who(context), transferId.data)))) throw notFound();
  return new Response(null, { status: 204 });
}
