import type { Route } from "./+types/passkey-new";
import { askForNewPasskey } from "~server/people/passkeys";
import { asItself, notFound, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** What a browser is asked with, to make a passkey for whoever is signed in. */
export async function loader({ request, context }: Route.LoaderArgs) {
  asItself(request);
  const asked = await reading(() => askForNewPasskey(request, who(context)));
  if (!asked) throw notFound();
  return Response.json(asked);
}
