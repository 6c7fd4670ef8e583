import type { Submission, SubmissionResult } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { type MiddlewareFunction, type RouterContextProvider, data, redirect } from "react-router";
import { z } from "zod";
import { inWorkshop } from "../db/wall";
import { type SignedIn, whoIs } from "./auth";
import { type Posted, Unread } from "./body";
import { callerContext, signedInContext } from "./context";
import { isDatabaseDown } from "./database-error";
import { isOf } from "./fair";
import { misfitOf } from "./form-fields";
import { keepRefusal } from "./people/refusals";
import { Denied, RIGHTS, type Right, may } from "./permissions";
import { Refused } from "./refused";
import { ROUTES } from "./routes";
import type { Outcome } from "./command";

/** What loaders and actions share: who is asking, and how a form's answer looks. */

/** Lets only signed-in people on. Everything behind it may call {@link who}. */
export const signedInOnly: MiddlewareFunction<Response> = async ({ request, context, pattern }, next) => {
  let person: SignedIn | null = null;
  try {
    person = await whoIs(request);
    if (!person) {
      const { pathname } = new URL(request.url);
      const here = pathname.replace(/\.data$/, "").replace(/^\/_(root)?$/, "/");
      throw redirect(
        `/sign-in?${new URLSearchParams({ to: here, ...(request.method === "GET" ? {} : { kept: "1" }) })}`,
      );
    }
    if (request.method !== "POST") await mustSee(person, pattern);
    // Until the second factor that the workshop asks for is there, nothing else is.
    if (person.needsFactor && !/^\/(access|passkey\/new|sign-out)(\.data)?$/.test(new URL(request.url).pathname))
      throw redirect("/access");
    context.set(signedInContext, person);
    isOf(context.get(callerContext), person.workshop.id);
  } catch (error) {
    if (!isDatabaseDown(error)) throw error;
    // A write answers in its own form, so that the entry stays on the screen; a page can only say it.
    if (request.method === "GET") throw data(null, { status: 503 });
  }
  const response = await (person ? inWorkshop(person.workshop.id, next) : next());
  // What a signed-in person sees stays in no cache: not the browser’s, and none on the way.
  if (!response.headers.has("Cache-Control")) response.headers.set("Cache-Control", "no-store");
  return response;
};

/** What somebody may not see is not there for them. A form of it is answered in words, by its action. */
async function mustSee(person: SignedIn, pattern: string): Promise<void> {
  // The router says “register” for one, and “/” or nothing for the first page.
  const needs = ROUTES[`/${pattern.replace(/^\//, "")}`]?.see;
  if (!needs || needs === "none" || needs === "token") throw notFound();
  if (needs === "open" || may(person, needs)) return;
  await inWorkshop(person.workshop.id, () => keepRefusal(person, needs));
  throw notFound();
}

/** The person behind the request. @throws 503 when it could not be looked up */
export function who(context: Readonly<RouterContextProvider>): SignedIn {
  const person = context.get(signedInContext);
  if (!person) throw data(null, { status: 503 });
  return person;
}

/** For streams and files: the router’s way of asking for a page’s data is no way to ask for these. @throws 404 when it is used */
export function asItself(request: Request): void {
  if (new URL(request.url).pathname.endsWith(".data")) throw notFound();
}

/** A file to keep, of nobody’s cache. */
export function attachment(body: BodyInit, type: string, name: string): Response {
  return new Response(body, {
    headers: {
      "Content-Type": type,
      "Content-Disposition": `attachment; filename="${name}"`,
      "Cache-Control": "private, no-store",
      "X-Content-Type-Options": "nosniff",
    },
  });
}

export function notFound(): Response {
  return new Response(null, { status: 404 });
}

/** Runs a loader's queries; a database that is gone becomes a 503 page, and bad ids a 404. */
export async function reading<T>(query: () => Promise<T>): Promise<T> {
  try {
    return await query();
  } catch (error) {
    if (isDatabaseDown(error)) throw data(null, { status: 503 });
    throw error;
  }
}

export const commandId = z.uuid("This form has lost its number. Load the page again.");
export const id = z.uuid();

export type FormOutcome = "saved" | "invalid" | "refused" | "clash" | "down";

/** A form that was done, with something to hand back the once: a link, codes, a cookie. */
export interface Beside<More extends object> {
  readonly more?: More;
  readonly headers?: HeadersInit;
}

/** One field of what was posted, when it is text. */
export function fieldOf(posted: Posted, name: string): string {
  const value = posted instanceof Unread ? null : posted.get(name);
  return typeof value === "string" ? value : "";
}

/**
 * What a form says, understood by its schema; or why not. Nothing but what the schema knows gets as far as the form library.
 */
export function submissionOf<S extends z.ZodType>(posted: Posted, schema: S): Understood<z.output<S>> {
  if (posted instanceof Unread) return { refused: refusal(posted.message), status: posted.status };
  const misfit = misfitOf(posted, schema);
  if (misfit) return { refused: refusal(misfit.message, misfit.field), status: misfit.field ? 422 : 400 };
  return { submission: parseWithZod(posted, { schema }) as Submission<z.output<S>, string[]> };
}

type Understood<T> =
  | { submission: Submission<T, string[]>; refused?: undefined; status?: undefined }
  | { submission?: undefined; refused: SubmissionResult<string[]>; status: number };

/** An answer in the form library’s own shape that echoes nothing. */
function refusal(message: string, field = ""): SubmissionResult<string[]> {
  return { status: "error", error: { [field]: [message] } };
}

function isUnknown(person: () => SignedIn): boolean {
  try {
    person();
    return false;
  } catch {
    return true;
  }
}

/** Answers one form of somebody who needs a right for it: asked before anything of it is looked at. */
export async function answerFor<S extends z.ZodType, More extends object = object>(
  { person, right }: { person: () => SignedIn; right: Right },
  posted: Posted,
  schema: S,
  write: (value: z.output<S>, by: SignedIn) => Promise<Outcome | Response | Beside<More>>,
) {
  // Who cannot be looked up now is told so as with any write: in the form’s own answer.
  if (!isUnknown(person) && !may(person(), right)) {
    await keepRefusal(person(), right);
    const [commandId, intent] = [fieldOf(posted, "commandId"), fieldOf(posted, "intent")];
    return data({ outcome: "refused" as const, commandId, intent, result: refusal(RIGHTS[right].no) }, { status: 403 });
  }
  return answer<S, More>(posted, schema, async (value) => {
    try {
      return await write(value, person());
    } catch (error) {
      if (error instanceof Denied) await keepRefusal(person(), error.right);
      throw error;
    }
  });
}

/**
 * Answers one form: validates it, runs the write, and says what came of it next to the field it concerns.
 * Nothing is half-saved: the write is one transaction, and a repeat of the same command changes nothing.
 */
export async function answer<S extends z.ZodType, More extends object = object>(
  posted: Posted,
  schema: S,
  write: (value: z.output<S>) => Promise<Outcome | Response | Beside<More>>,
) {
  const said = (
    outcome: FormOutcome,
    status: number,
    result: SubmissionResult<string[]>,
    { more, headers = {} }: Partial<Beside<More>> = {},
  ) =>
    data(
      { ...more, outcome, commandId: fieldOf(posted, "commandId"), intent: fieldOf(posted, "intent"), result },
      { status, headers },
    );
  const { submission, refused, status } = submissionOf(posted, schema);
  if (!submission) return said("invalid", status, refused);
  if (submission.status !== "success") return said("invalid", 422, submission.reply());
  const reply = (outcome: FormOutcome, code: number, errors: Record<string, string[]> = {}) =>
    said(outcome, code, submission.reply({ formErrors: errors[""] ?? [], fieldErrors: errors }));
  try {
    const outcome = await write(submission.value);
    if (outcome instanceof Response) return outcome;
    if (typeof outcome === "object") return said("saved", 200, submission.reply(), outcome);
    if (outcome === "clash")
      return reply("clash", 409, {
        "": [
          "An earlier version of this entry was saved already, and this one was not. Look at the sheet, then send it again if it is still needed.",
        ],
      });
    return reply("saved", 200);
  } catch (error) {
    if (error instanceof Refused)
      return reply("refused", error.status, {
        [error.field ?? ""]: [error.message],
        ...(error.about ? { [`about.${error.about}`]: [error.message] } : {}),
      });
    if (isDatabaseDown(error) || (error as { init?: ResponseInit }).init?.status === 503)
      return reply("down", 503, {
        "": [
          "Not saved: the workshop’s records do not answer. What you typed is kept here. Send it again in a moment.",
        ],
      });
    throw error;
  }
}
