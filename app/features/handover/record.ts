import type { Route } from "./+types/record";
import { byLink, privateFile } from "./by-link.server";
import { recordOf } from "~server/proof/owner-record";
import { asItself } from "~server/web";

/** The signed record as a file, for whoever holds the owner’s link: with what it takes to check it anywhere. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  asItself(request);
  const record = await byLink(params.token, context, () => recordOf(params.token));
  return privateFile(
    JSON.stringify(record, null, 2),
    "application/json; charset=utf-8",
    `attachment; filename="signed-record.json"`,
  );
}
