import type { MiddlewareFunction, RouterContextProvider } from "react-router";
import type { OpenTable } from "../../db/open/table";
import { inWorkshop } from "../../db/wall";
import { addressContext, callerContext, programContext } from "../context";
import { isDatabaseDown } from "../database-error";
import { isOf } from "../fair";
import { keepRefusal } from "../people/refusals";
import { RIGHTS, type Right, may } from "../permissions";
import { takeGuess } from "../sign-in-limits";
import { takeAsk } from "./limits";
import { type Asked, hasVisits } from "./pages";
import { problem } from "./problem";
import { type Program, type TokenScope, programBehind } from "./tokens";

/** The gate of the addresses for programs: a token instead of a session, and the same table of rights behind it. */

const REALM = 'Bearer realm="gauge"';

/** Lets only programs with a token on, as often as they may ask. Everything behind it may call {@link program}. */
export const programsOnly: MiddlewareFunction<Response> = async ({ request, context }, next) => {
  if (new URL(request.url).pathname.endsWith(".data"))
    return problem({ status: 404, detail: "There is nothing here." });
  try {
    const found = await programBehind(request);
    if (!found) return await unknown(request, context.get(addressContext));
    const wait = await takeAsk(found.tokenId);
    if (wait > 0) return tooMany(wait);
    const refused = scopeProblem(found, request.method === "POST" ? "append" : "read");
    if (refused) return refused;
    context.set(programContext, found);
    isOf(context.get(callerContext), found.workshop.id);
    return await inWorkshop(found.workshop.id, next);
  } catch (error) {
    if (!isDatabaseDown(error)) throw error;
    return problem({ status: 503, detail: "The workshop’s records do not answer. Ask again in a moment." });
  }
};

/** Whoever tries tokens is slowed by where they ask from; a token that is good is never held up, and none at all is no try. */
async function unknown(request: Request, address: string): Promise<Response> {
  const tries = request.headers.has("Authorization");
  const wait = tries ? await takeGuess("programs", address) : 0;
  if (wait > 0) return tooMany(wait);
  return problem(
    { status: 401, detail: "Send a token that is neither withdrawn nor past its day: Authorization: Bearer gauge_…" },
    { "WWW-Authenticate": REALM },
  );
}

const tooMany = (wait: number) =>
  problem({ status: 429, detail: `Too many requests. Wait ${wait} s.` }, { "Retry-After": String(wait) });

function scopeProblem({ scopes }: Program, needed: TokenScope): Response | null {
  if (scopes.includes(needed)) return null;
  return problem(
    { status: 403, detail: needed === "append" ? "This token only reads." : "This token only appends." },
    { "WWW-Authenticate": `${REALM}, error="insufficient_scope", scope="${needed}"` },
  );
}

/** The program behind the request, and whom it speaks for. */
export function program(context: Readonly<RouterContextProvider>): Program {
  const found = context.get(programContext);
  if (!found) throw new Error("This address stands outside the gate.");
  return found;
}

/**
 * What reading of a table asks for, as the pages do: one machine or one visit, the register, the kit and the parts are everybody’s who works
 * here; all of the workshop at once is a lead’s.
 */
export function rightFor(table: OpenTable, { machineId, visitId }: Pick<Asked, "machineId" | "visitId">): Right {
  const wide = table.machine !== null && table.name !== "machine" && !machineId && !(visitId && hasVisits(table));
  return wide ? "records" : "work";
}

/** @returns why it may not, or null */
export async function rightProblem(person: Program, right: Right): Promise<Response | null> {
  if (may(person, right)) return null;
  await keepRefusal(person, right);
  const more = right === "records" ? " Ask for one machine (machine_id) or one visit (visit_id)." : "";
  return problem({ status: 403, detail: RIGHTS[right].no + more });
}
