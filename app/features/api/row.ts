import type { Route } from "./+types/row";
import { answerPage } from "./answer-page";
import { openTable } from "~db/open/tables";
import { program, programsOnly, rightProblem } from "~server/api/gate";
import { isById, rowOf } from "~server/api/pages";
import { problem } from "~server/api/problem";
import { database } from "~server/database";
import { proofOf } from "~server/proof/verify";
import { id } from "~server/web";

/** One row of a table whose rows go by their id. */

export const middleware = [programsOnly];

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const nothing = () => problem({ status: 404, detail: "There is no such row." });
  const table = openTable(params.table);
  const rowId = id.safeParse(params.rowId);
  if (!table || !isById(table) || !rowId.success) return nothing();
  const by = program(context);
  const refused = await rightProblem(by, "work");
  if (refused) return refused;
  const row = await rowOf(by.workshop.id, table, rowId.data);
  if (!row) return nothing();
  const answer = answerPage(request, row);
  // Beside the row, which is told as it stands: whether it is what was signed.
  if (params.table === "visits" && (JSON.parse(row.text) as { state?: string }).state === "signed") {
    const { holds } = await proofOf(database(), by.workshop.id, rowId.data);
    answer.headers.set("Record-State", holds ? "as-signed" : "changed");
  }
  return answer;
}
