import type { Route } from "./+types/pdf";
import { byLink, ownersHeaders } from "./by-link.server";
import { Making } from "./making";
import { paperAction, paperLoader } from "./paper.server";
import { signedBehind } from "~db/queries/owner-card";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { fieldOf } from "~server/web";

/** The service report as PDF, by the owner’s link: opened once it is made. */
export function loader({ params: { token }, request, context }: Route.LoaderArgs) {
  return byLink(token, context, async () => {
    const found = await signedBehind(database(), token);
    return found && paperLoader({ ...found, request });
  });
}

export async function action({ params: { token }, request, context }: Route.ActionArgs) {
  const intent = fieldOf(await formOf(request), "intent");
  return byLink(token, context, async () => {
    const found = await signedBehind(database(), token);
    return found && paperAction({ ...found, request }, intent);
  });
}

export const headers = ownersHeaders;

export const meta: Route.MetaFunction = () => [{ title: "Service report as PDF" }];

export default function Pdf({ loaderData }: Route.ComponentProps) {
  return <Making {...loaderData} />;
}
