import type { Route } from "./+types/contact";
import { ownerWithMachines } from "~db/queries/owners";
import { database } from "~server/database";
import { vcardOf } from "~server/machines/contact";
import { asItself, attachment, id, notFound, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** An owner as a contact for the phone. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  asItself(request);
  const ownerId = id.safeParse(params.ownerId);
  const found = ownerId.success
    ? await reading(() => ownerWithMachines(database(), who(context).workshop.id, ownerId.data))
    : null;
  if (!found) throw notFound();
  return attachment(vcardOf(found), "text/vcard; charset=utf-8", "contact.vcf");
}
