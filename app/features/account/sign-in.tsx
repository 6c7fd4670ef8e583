import { type SubmissionResult, getFormProps, useForm } from "@conform-to/react";
import { useEffect, useRef } from "react";
import { Form, data, redirect, useSubmit } from "react-router";
import { z } from "zod";
import type { Route } from "./+types/sign-in";
import { Door } from "./door";
import { useHasPasskeys, usePasskey } from "./use-passkey";
import { Button, ButtonLink } from "~app/ui/button";
import { FieldError, TextField } from "~app/ui/field";
import type { Unreachable } from "~app/ui/unreachable";
import { type SignInResult, signIn, whoIs } from "~server/auth";
import { formOf } from "~server/body";
import { isDatabaseDown } from "~server/database-error";
import { log, traceOf } from "~server/log";
import { addressContext } from "~server/context";
import { pathHere } from "~server/path-here";
import { isEmpty } from "~server/people/first-start";
import { MOST_ANSWER, signInByPasskey, siteOf } from "~server/people/passkeys";
import { tabletOf } from "~server/people/quick-switch";
import { fieldOf, reading, submissionOf } from "~server/web";

const schema = z.object({
  email: z.email("Type the email address of your account.").max(200, "That is longer than an address can be."),
  password: z.string("Type your password.").max(200, "That is longer than a password can be."),
  code: z.string().max(40, "That is no code.").optional(),
});

export async function loader({ request }: Route.LoaderArgs) {
  const url = new URL(request.url);
  if (await reading(() => whoIs(request))) throw redirect(pathHere(url.searchParams.get("to")));
  if (await reading(isEmpty)) throw redirect("/setup");
  const tablet = (await reading(() => tabletOf(request))) !== undefined;
  // On a tablet of the workshop the PIN is the usual way in.
  if (tablet && !url.searchParams.has("password") && !url.searchParams.has("kept")) throw redirect("/switch");
  return { kept: url.searchParams.has("kept"), tablet, passkeys: siteOf(request) !== null };
}

const passkeySchema = z.object({ intent: z.literal("passkey"), shown: z.string().max(MOST_ANSWER) });
type Given = z.output<typeof schema> | z.output<typeof passkeySchema>;

const comingIn = (request: Request, given: Given, address: string): Promise<SignInResult> =>
  "shown" in given ? signInByPasskey(request, given.shown, address) : signIn(request, { ...given, address });

export async function action({ request, context }: Route.ActionArgs) {
  const form = await formOf(request);
  const byPasskey = fieldOf(form, "intent") === "passkey";
  const { submission, refused, status } = submissionOf<z.ZodType<Given>>(form, byPasskey ? passkeySchema : schema);
  if (!submission) return data(refused, { status });
  if (submission.status !== "success") return data(submission.reply({ hideFields: ["password"] }), { status: 422 });
  const url = new URL(request.url);
  try {
    const done = await comingIn(request, submission.value, context.get(addressContext));
    if (done.ok) {
      const headers = new Headers(done.cookies.map((cookie): [string, string] => ["Set-Cookie", cookie]));
      throw redirect(pathHere(url.searchParams.get("to")), { headers });
    }
    const said = done.code ? { fieldErrors: { code: [done.message] } } : { formErrors: [done.message] };
    return data(submission.reply({ ...said, hideFields: ["password", "code"] }), {
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
  const lastResult = resultOf(actionData);
  const asksCode = Boolean(lastResult?.error?.code);
  // A wrong password is typed anew, not mended; a right one stays while the code is asked for.
  useEffect(() => {
    if (actionData && !asksCode && password.current) password.current.value = "";
  }, [actionData, asksCode]);
  const [form, fields] = useForm<{ email: string; password: string; code: string }>({ id: "sign-in", lastResult });
  return (
    <Door title="Nimble Gauge" under="Measure, turn, read again. For espresso machine technicians.">
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
        {asksCode && (
          <TextField
            field={fields.code}
            label="Code"
            inputMode="numeric"
            autoComplete="one-time-code"
            autoFocus
            hint="Of your phone’s app, or one of those on paper."
          />
        )}
        <FieldError field={{ id: form.id, errorId: form.errorId, name: "", errors: form.errors }} />
        <Button look="main">Sign in</Button>
      </Form>
      {loaderData.passkeys && <WithPasskey />}
      {loaderData.tablet && (
        <ButtonLink to="/switch" look="quiet" className="mt-4">
          Take over by PIN
        </ButtonLink>
      )}
    </Door>
  );
}

function WithPasskey() {
  const submit = useSubmit();
  const { ask, busy, wrong } = usePasskey("show", (shown) => {
    void submit({ intent: "passkey", shown }, { method: "post" });
  });
  const has = useHasPasskeys();
  return (
    <div className="mt-4">
      <Button type="button" disabled={!has || busy} onClick={() => void ask()}>
        Sign in with a passkey
      </Button>
      <FieldError
        field={{ id: "passkey", errorId: "passkey-error", name: "passkey", errors: wrong ? [wrong] : undefined }}
      />
    </div>
  );
}
