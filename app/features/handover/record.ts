import type { Route } from "./+types/record";
import { byLink } from "./by-link.server";
import { recordOf } from "~server/proof/owner-record";
import { asItself } from "~server/web";

/** The signed record as a file, for whoever holds the owner’s link: with what it takes to check it anywhere. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  asItself(request);
  const record = await byLink(params.token, context, () => recordOf(params.token));
  return new Response(JSON.stringify(record, null, 2), {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Content-Disposition": `attachment; filename="signed-record.json"`,
      "Cache-Control": "private, no-store",
      "X-Robots-Tag": "noindex",
      "X-Content-Type-Options": "nosniff",
    },
  });
}
