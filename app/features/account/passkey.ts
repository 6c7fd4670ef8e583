import type { Route } from "./+types/passkey";
import { askForPasskey } from "~server/people/passkeys";
import { asItself, notFound } from "~server/web";

/** What a browser is asked with, to sign in with a passkey. */
export async function loader({ request }: Route.LoaderArgs) {
  asItself(request);
  const asked = await askForPasskey(request);
  if (!asked) throw notFound();
  return Response.json(asked, { headers: { "Cache-Control": "no-store" } });
}
