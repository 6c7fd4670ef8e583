import type { Route } from "./+types/places";
import { placesLike } from "~db/queries/register";
import { database } from "~server/database";
import { asItself, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

export interface Place {
  owner: string;
  contact: string;
  site: string;
  town: string;
}

/** Owners and sites on record that begin as typed. */
export async function loader({ request, context }: Route.LoaderArgs): Promise<Response> {
  asItself(request);
  const asked = new URL(request.url).searchParams;
  const typed = (name: string) => (asked.get(name) ?? "").slice(0, 100);
  const { id } = who(context).workshop;
  const found: Place[] = await reading(() =>
    placesLike(database(), id, { owner: typed("owner"), site: typed("site") }),
  );
  return Response.json(found);
}
