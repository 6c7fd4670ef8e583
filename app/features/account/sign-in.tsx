import { type SubmissionResult, getFormProps, useForm } from "@conform-to/react";
import { useEffect, useRef } from "react";
import { Form, data, redirect } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/sign-in";
import { Button } from "~app/ui/button";
import { FieldError, TextField } from "~app/ui/field";
import type { Unreachable } from "~app/ui/unreachable";
import { signIn, whoIs } from "~server/auth";
import { formOf } from "~server/body";
import { isDatabaseDown } from "~server/database-error";
import { log, traceOf } from "~server/log";
import { addressContext } from "~server/context";
import { pathHere } from "~server/path-here";
import { reading, submissionOf } from "~server/web";

const schema = z.object({
  email: z.email("Type the email address of your account.").max(200, "That is longer than an address can be."),
  password: z.string("Type your password.").max(200, "That is longer than a password can be."),
});

export async function loader({ request }: Route.LoaderArgs) {
  const url = new URL(request.url);
  if (await reading(() => whoIs(request))) throw redirect(pathHere(url.searchParams.get("to")));
  return { kept: url.searchParams.has("kept") };
}

export async function action({ request, context }: Route.ActionArgs) {
  const { submission, refused, status } = submissionOf(await formOf(request), schema);
  if (!submission) return data(refused, { status });
  if (submission.status !== "success") return data(submission.reply({ hideFields: ["password"] }), { status: 422 });
  const url = new URL(request.url);
  try {
    const done = await signIn(request, { ...submission.value, address: context.get(addressContext) });
    if (done.ok) {
      const headers = new Headers(done.cookies.map((cookie): [string, string] => ["Set-Cookie", cookie]));
      throw redirect(pathHere(url.searchParams.get("to")), { headers });
    }
    return data(submission.reply({ formErrors: [done.message], hideFields: ["password"] }), {
      status: done.retryAfter ? 429 : 401,
      headers: done.retryAfter ? { "Retry-After": String(done.retryAfter) } : {},
    });
  } catch (error) {
    if (error instanceof Response) throw error;
    // Whatever it was that failed, it was not a wrong password, and not too many tries.
    if (!isDatabaseDown(error)) log.error(traceOf(error), "signing in failed");
    return data(
      submission.reply({
        formErrors: ["The workshop’s records do not answer. Try again in a moment."],
        hideFields: ["password"],
      }),
      { status: 503 },
    );
  }
}

/** The form’s own answer; a lost connection has words of its own here. */
function resultOf(answer: SubmissionResult<string[]> | Unreachable | undefined): SubmissionResult<string[]> | null {
  if (!answer) return null;
  if (!("outcome" in answer)) return answer;
  return { status: "error", error: { "": ["No connection: you are not signed in yet. Try again when it is back."] } };
}

export const meta: Route.MetaFunction = () => [{ title: "Sign in · Nimble Gauge" }];

export default function SignIn({ actionData, loaderData }: Route.ComponentProps) {
  const password = useRef<HTMLInputElement>(null);
  // A wrong password is typed anew, not mended.
  useEffect(() => {
    if (actionData && password.current) password.current.value = "";
  }, [actionData]);
  const [form, fields] = useForm<{ email: string; password: string }>({
    id: "sign-in",
    lastResult: resultOf(actionData),
  });
  return (
    <main className="grid min-h-dvh content-center justify-items-center p-5">
      <div className="w-full max-w-md">
        <svg viewBox="0 0 400 90" className="mb-2 w-full" aria-hidden="true">
          <path
            d="M4 46 H150 V66 H250 V46 H396 V82 H4 Z"
            fill="var(--rule)"
            stroke="var(--ink)"
            strokeWidth="2"
            strokeLinejoin="round"
          />
          <path
            d="M92 22 C92 -2 194 -2 200 30"
            fill="none"
            stroke="var(--brass)"
            strokeWidth="2.5"
            strokeLinecap="round"
          />
          <circle cx="92" cy="35" r="9" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2.5" />
          <circle cx="200" cy="55" r="9" fill="var(--ink)" />
        </svg>
        <h1 className="text-3xl font-bold tracking-tight">Nimble Gauge</h1>
        <p className="mb-6 text-soft">Measure, turn, read again. For espresso machine technicians.</p>
        {loaderData.kept && (
          <p role="status" className="mb-4 border-l-4 border-brass pl-3">
            You were signed out before that was saved. What you typed is kept on this device: sign in and it is there
            again.
          </p>
        )}
        <Form method="post" {...getFormProps(form)} className="grid gap-4">
          <TextField
            field={fields.email}
            label="Email"
            type="email"
            autoComplete="username"
            autoFocus
            defaultValue={fields.email.initialValue}
          />
          <TextField
            ref={password}
            field={fields.password}
            label="Password"
            type="password"
            autoComplete="current-password"
          />
          <FieldError field={{ id: form.id, errorId: form.errorId, name: "", errors: form.errors }} />
          <Button look="main">Sign in</Button>
        </Form>
      </div>
    </main>
  );
}
