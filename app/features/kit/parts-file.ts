import type { Route } from "./+types/parts-file";
import { partsOf } from "~db/queries/parts";
import { modelsOf } from "~db/queries/register";
import { database } from "~server/database";
import { partsTable } from "~server/kit/parts-table";
import { asItself, attachment, reading, signedInOnly, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

/** The parts list as a table. */
export async function loader({ request, context }: Route.LoaderArgs) {
  asItself(request);
  const { id } = who(context).workshop;
  const [parts, models] = await reading(() => Promise.all([partsOf(database(), id), modelsOf(database(), id)]));
  const text = partsTable(
    parts,
    models.map((m) => ({ id: m.id, name: `${m.maker} ${m.name}` })),
  );
  return attachment(`\uFEFF${text}`, "text/csv; charset=utf-8", "parts.csv");
}
