import type { Route } from "./+types/table";
import { answerPage } from "./answer-page";
import { BEGIN, answerAppend } from "./appends";
import { pageQuery } from "./table-query";
import { openTable } from "~db/open/tables";
import { program, programsOnly, rightFor, rightProblem } from "~server/api/gate";
import { hasVisits, pageOf } from "~server/api/pages";
import { problem } from "~server/api/problem";

/** One page of an open table; and where visits begin. */

export const middleware = [programsOnly];

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const table = openTable(params.table);
  if (!table) return problem({ status: 404, detail: `There is no table “${params.table.slice(0, 60)}”.` });
  const asked = new URL(request.url).searchParams;
  const twice = [...asked.keys()].find((name) => asked.getAll(name).length > 1);
  if (twice) return refuse([{ field: twice.slice(0, 60), message: "Once, please." }]);
  const query = pageQuery.safeParse(Object.fromEntries(asked));
  if (!query.success)
    return refuse(
      query.error.issues.map(({ path, message, ...issue }) => ({
        field: path.join(".") || ("keys" in issue ? issue.keys.join(", ").slice(0, 60) : ""),
        message: "keys" in issue ? "There is no such filter." : message,
      })),
    );
  const { machine_id: machineId, visit_id: visitId, after, limit } = query.data;
  if (machineId && !table.machine) return refuse([{ field: "machine_id", message: "These rows are of no machine." }]);
  if (visitId && !hasVisits(table)) return refuse([{ field: "visit_id", message: "These rows are of no visit." }]);
  const by = program(context);
  const refused = await rightProblem(by, rightFor(table, { machineId, visitId }));
  if (refused) return refused;
  const page = await pageOf(by.workshop.id, table, { machineId, visitId, after, limit });
  if (!page) return refuse([{ field: "after", message: "This is no mark of this table." }]);
  return answerPage(request, page);
}

const refuse = (errors: { field: string; message: string }[]) =>
  problem({ status: 422, detail: "This can’t be asked.", errors });

export async function action({ request, params, context }: Route.ActionArgs) {
  if (params.table !== "visits")
    return problem(
      { status: 405, detail: "Lines are appended to a visit: /api/v1/visits/{visit_id}/…" },
      { Allow: "GET, HEAD" },
    );
  const by = program(context);
  return (await rightProblem(by, "work")) ?? answerAppend(request, BEGIN, by);
}
