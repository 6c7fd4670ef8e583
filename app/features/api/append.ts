import type { Route } from "./+types/append";
import { LINES, answerAppend } from "./appends";
import { program, programsOnly, rightProblem } from "~server/api/gate";
import { problem } from "~server/api/problem";
import { id } from "~server/web";

/** Where lines are appended to a visit. */

export const middleware = [programsOnly];

export function loader() {
  return problem({ status: 405, detail: "Lines are read from their table, with visit_id." }, { Allow: "POST" });
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const lines = Object.hasOwn(LINES, params.lines) ? LINES[params.lines] : undefined;
  const visitId = id.safeParse(params.visitId);
  if (!lines || !visitId.success) return problem({ status: 404, detail: "There is nothing here to append to." });
  const by = program(context);
  return (await rightProblem(by, "work")) ?? answerAppend(request, lines, by, visitId.data.toLowerCase());
}
