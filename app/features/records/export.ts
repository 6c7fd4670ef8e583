import { z } from "zod";
import type { Route } from "./+types/export";
import { formOf, writeOnly } from "~server/body";
import { scopeIn, scopeText } from "~server/open/scope";
import { nameOfScope, sendOut } from "~server/open/transfers";
import { Refused } from "~server/refused";
import { asItself, attachment, commandId, notFound, reading, signedInOnly, submissionOf, who } from "~server/web";

export const middleware: Route.MiddlewareFunction[] = [signedInOnly];

const schema = z.object({ commandId, scope: z.string().max(60), shape: z.enum(["records", "tables"]) });

export const loader = writeOnly;

/** The file, made while it is sent. Asked for with a form: it is written down who took what. */
export async function action({ request, context }: Route.ActionArgs) {
  asItself(request);
  const by = who(context);
  const { submission } = submissionOf(await formOf(request), schema);
  if (submission?.status !== "success") return said("Nothing was exported: load the page again.", 422);
  const { commandId: id, shape } = submission.value;
  const scope = scopeIn(submission.value.scope);
  if (!scope) return said("Nothing was exported: load the page again.", 422);
  try {
    const name = await reading(() => nameOfScope(by, scope));
    if (name === null) throw notFound();
    const body = await sendOut(by, { id, scope, shape, signal: request.signal });
    const day = new Date().toISOString().slice(0, 10);
    return attachment(body, "application/zip", `${name || scopeText(scope)}-${shape}-${day}.zip`);
  } catch (error) {
    if (error instanceof Refused) return said(error.message, error.status);
    throw error;
  }
}

const said = (words: string, status: number) =>
  new Response(words, { status, headers: { "Content-Type": "text/plain; charset=utf-8" } });
