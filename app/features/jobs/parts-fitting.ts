import type { Route } from "./+types/parts-fitting";
import { partsOf } from "~db/queries/parts";
import { database } from "~server/database";
import { workshopOf } from "~server/workshop";
import { id, notFound, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

export interface FittingParts {
  parts: { id: string; name: string; number: string; stock: number }[];
  /** "" where the workshop names no prices. */
  currency: string;
}

/** What lies on the shelf: for a model, or all of it. */
export async function loader({ request, context }: Route.LoaderArgs): Promise<Response> {
  const person = who(context);
  const model = id.optional().safeParse(new URL(request.url).searchParams.get("model") ?? undefined);
  if (!model.success) throw notFound();
  const [rows, { currency }] = await reading(() =>
    Promise.all([partsOf(database(), person.workshop.id, model.data), workshopOf(person)]),
  );
  const fitting: FittingParts = {
    parts: rows.map(({ id, name, number, stock }) => ({ id, name, number, stock })),
    currency,
  };
  return Response.json(fitting);
}
