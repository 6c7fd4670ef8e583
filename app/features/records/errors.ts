import { createReadStream } from "node:fs";
import { stat } from "node:fs/promises";
import { createReadableStreamFromReadable } from "@react-router/node";
import type { Route } from "./+types/errors";
import { errorsOf } from "~server/intake/files";
import { transferFor } from "~server/open/transfers";
import { asItself, attachment, id, notFound, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** Everything that is wrong with a file, line by line, as a table. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  asItself(request);
  const transferId = id.safeParse(params.transferId);
  const row = transferId.success ? await reading(() => transferFor(who(context), transferId.data)) : null;
  const path = row && errorsOf(row.id);
  if (!path || !(await stat(path).catch(() => null))) throw notFound();
  return attachment(createReadableStreamFromReadable(createReadStream(path)), "text/csv; charset=utf-8", "errors.csv");
}
