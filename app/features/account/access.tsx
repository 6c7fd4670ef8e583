import QRCode from "qrcode";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import { eq } from "drizzle-orm";
import type { Route } from "./+types/access";
import { NewPassword } from "./new-password";
import { Passkeys } from "./passkeys";
import { useHasPasskeys, usePasskey } from "./use-passkey";
import { tokenSchema } from "./token-schema";
import { OwnTokens } from "./tokens";
import { Button } from "~app/ui/button";
import { Clock, Day } from "~app/ui/dates";
import { FieldError, TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { account } from "~db/schema";
import { makeToken, tokensOf, withdrawToken } from "~server/api/tokens";
import type { SignedIn } from "~server/auth";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { said } from "~server/fields";
import { againOf, unlessGuessed } from "~server/people/guesses";
import { changePassword } from "~server/people/people";
import { LEAST_CHARACTERS } from "~server/people/passwords";
import { enrol, forget, setPin, tabletOf, tabletsOf } from "~server/people/quick-switch";
import { switchOff, switchOn } from "~server/people/factor-switch";
import { MOST_ANSWER, addPasskey, dropPasskey, passkeysOf, proveByPasskey, siteOf } from "~server/people/passkeys";
import { needProven, proveAgain } from "~server/people/proven";
import { codeHolds, newSecret } from "~server/people/second-factor";
import { may } from "~server/permissions";
import { Refused } from "~server/refused";
import { endSession, endSessions, sessionsOf } from "~server/sessions";
import { inTransaction } from "~server/transaction";
import { answerFor, commandId, fieldOf, id, reading, who } from "~server/web";

/** What opens the workshop to one person: password, second factor, PIN, and where they are signed in. */

const password = z.string("Type your password.").max(200, "That is longer than a password can be.");
const code = z.string("Type the code.").max(40, "That is no code.");
const schemas = {
  password: z.object({ now: password, next: password }),
  "factor-on": z.object({ secret: z.string().regex(/^[A-Z2-7]{32}$/), code }),
  "factor-off": z.object({ code }),
  again: z.object({ again: password }),
  end: z.object({ id }),
  "end-others": z.object({}),
  pin: z.object({ pin: z.string("Type 4 to 6 digits.").max(20, "A PIN is 4 to 6 digits.") }),
  "no-pin": z.object({}),
  passkey: z.object({
    commandId,
    name: said(40, 1, "What the device is called."),
    made: z.string().max(MOST_ANSWER),
  }),
  "no-passkey": z.object({ id }),
  "again-passkey": z.object({ shown: z.string().max(MOST_ANSWER) }),
  tablet: z.object({ name: said(40, 2, "What it is called on the bench.") }),
  "no-tablet": z.object({ id }),
  "no-token": z.object({ id }),
} as const;

export async function loader({ context, request }: Route.LoaderArgs) {
  const person = who(context);
  const full = may(person, "own");
  const [sessions, tablets, here, tokens, passkeys, [own]] = await reading(() =>
    Promise.all([
      sessionsOf(person.id, person.sessionId),
      tabletsOf(person.workshop.id),
      tabletOf(request),
      tokensOf(person.workshop.id, person.id),
      passkeysOf(person),
      database()
        .select({ email: account.email, totp: account.totpSecret, pin: account.pinHash, recovery: account.recovery })
        .from(account)
        .where(eq(account.id, person.id)),
    ]),
  );
  const factor = own?.totp ? { on: true as const, left: own.recovery.length } : await offered(own?.email ?? "");
  return {
    full,
    proven: person.proven,
    needsFactor: person.needsFactor,
    name: person.name,
    email: own?.email ?? "",
    least: LEAST_CHARACTERS,
    sessions,
    tablets,
    tokens,
    passkeys: passkeys.map(({ id, name, at, usedAt }) => ({
      ...{ id, name },
      ...{ at: at.toISOString(), usedAt: usedAt?.toISOString() ?? null },
    })),
    site: siteOf(request),
    newId: uuidv7(),
    tabletHere: here?.name ?? null,
    hasPin: Boolean(own?.pin),
    factor,
  };
}

async function offered(email: string) {
  const { secret, uri } = newSecret(email);
  return { on: false as const, secret, svg: await QRCode.toString(uri, { type: "svg", margin: 1 }) };
}

export async function action({ request, context }: Route.ActionArgs) {
  const form = await formOf(request);
  const intent = fieldOf(form, "intent");
  const mine = { person: () => who(context), right: "own" } as const;
  const own = <S extends z.ZodType>(schema: S, write: (value: z.output<S>, by: SignedIn) => Promise<void>) =>
    answerFor(mine, form, schema, async (value, by) => {
      await write(value, by);
      return "done";
    });
  switch (intent) {
    case "password":
      return own(schemas.password, (given, by) => changePassword(by, given));
    case "factor-on":
      return answerFor(mine, form, schemas["factor-on"], async (given, by) => {
        const codes = await switchOn(by, given.secret, given.code);
        if (!codes) throw new Refused("That code is not the one of now. Wait for the next one, and type that.", "code");
        return { more: { codes } };
      });
    case "factor-off":
      return own(schemas["factor-off"], async (given, by) => {
        needProven(by);
        const [row] = await database()
          .select({ sealed: account.totpSecret })
          .from(account)
          .where(eq(account.id, by.id));
        const sealed = row?.sealed;
        const wrong = {
          field: "code",
          wrong: "That code is not the one of now, or was used already.",
          meanwhile: ", then try again",
        };
        if (sealed) await unlessGuessed(againOf(by), wrong, () => codeHolds(by.id, sealed, given.code));
        await switchOff(by);
      });
    case "again":
      return own(schemas.again, (given, by) => proveAgain(by, given.again));
    case "end":
      return own(schemas.end, (given, by) => endSession(by.id, given.id));
    case "end-others":
      return own(schemas["end-others"], (_, by) => inTransaction((tx) => endSessions(tx, by.id, by.sessionId)));
    case "pin":
      return own(schemas.pin, (given, by) => setPin(by, given.pin.trim()));
    case "no-pin":
      return own(schemas["no-pin"], (_, by) => setPin(by, null));
    case "passkey":
      return own(schemas.passkey, ({ commandId, ...given }, by) =>
        addPasskey(request, by, { id: commandId, ...given }),
      );
    case "no-passkey":
      return own(schemas["no-passkey"], (given, by) => dropPasskey(by, given.id));
    case "again-passkey":
      return own(schemas["again-passkey"], (given, by) => proveByPasskey(request, by, given.shown));
    case "token":
      return answerFor(mine, form, tokenSchema, async ({ commandId, ...given }, by) => ({
        more: { token: await makeToken(by, commandId, given) },
      }));
    case "no-token":
      return own(schemas["no-token"], (given, by) => withdrawToken(by, given.id));
    case "no-tablet":
      return own(schemas["no-tablet"], (given, by) => forget(by, given.id));
    default:
      return answerFor(mine, form, schemas.tablet, async (given, by) => {
        return { headers: { "Set-Cookie": await enrol(request, by, given.name) } };
      });
  }
}

export const meta: Route.MetaFunction = () => [{ title: "Your access · Nimble Gauge" }];

export default function Access({ loaderData }: Route.ComponentProps) {
  const { full, name, email } = loaderData;
  return (
    <main id="main" className="mx-auto grid max-w-2xl gap-8 p-5 wide:py-10">
      <div>
        <h1 className="text-2xl font-bold">Your access</h1>
        <p className="text-soft">
          {name}, {email}
        </p>
      </div>
      {full ? (
        <>
          {loaderData.needsFactor && (
            <p role="alert" className="border-l-4 border-alarm bg-alarm-wash p-3 font-semibold">
              Your workshop asks everybody for a second factor. Switch one on below, or make a passkey and sign in with
              it: the rest of the pages open then.
            </p>
          )}
          {!loaderData.proven && <Again {...loaderData} />}
          <Sessions {...loaderData} />
          <Password {...loaderData} />
          <Passkeys {...loaderData} />
          <SecondFactor {...loaderData} />
          <Tablet {...loaderData} />
          <OwnTokens {...loaderData} />
        </>
      ) : (
        <p className="border-l-4 border-brass bg-brass-wash p-3">
          You are here by PIN, for the work. Sign in with your password to change what opens your account.
        </p>
      )}
    </main>
  );
}

type Shown = Route.ComponentProps["loaderData"];
const SECTION = "grid gap-3 border-t-2 border-rule pt-5";

function Sessions({ sessions }: Shown) {
  const others = usePlainForm("end-others");
  return (
    <section className={SECTION} aria-labelledby="sessions">
      <h2 id="sessions" className="text-xl font-bold">
        Where you are signed in
      </h2>
      <ul className="divide-y divide-rule bg-sheet">
        {sessions.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 px-3 py-2.5">
            <div>
              <p className="font-semibold">
                {s.about || "a browser"}
                {s.way === "pin" && ", by PIN"}
                {s.here && ", this one"}
              </p>
              <p className="text-sm text-soft">
                since <Day iso={s.since.toISOString()} />, last used <Day iso={s.seenAt.toISOString()} />{" "}
                <Clock iso={s.seenAt.toISOString()} />
              </p>
            </div>
            {!s.here && <EndThere id={s.id} about={s.about} />}
          </li>
        ))}
      </ul>
      {sessions.length > 1 && (
        <PlainForm form={others} done="Signed out everywhere but here.">
          <Button disabled={others.busy} className="justify-self-start">
            Sign out everywhere else
          </Button>
        </PlainForm>
      )}
    </section>
  );
}

function EndThere({ id, about }: { id: string; about: string }) {
  const form = usePlainForm("end", `end-${id}`);
  return (
    <PlainForm form={form}>
      <input type="hidden" name="id" value={id} />
      <Button disabled={form.busy}>
        Sign out there<span className="sr-only">: {about}</span>
      </Button>
    </PlainForm>
  );
}

/** A session alone changes nothing of what opens the account. */
function Again({ email, passkeys, site }: Shown) {
  const form = usePlainForm("again");
  return (
    <PlainForm form={form} className="grid gap-3 border-l-4 border-brass bg-brass-wash p-3 sm:max-w-md">
      <p>
        To change a PIN, a tablet, a token, a passkey or the second factor, type your password once more. It holds for
        ten minutes.
      </p>
      <input type="hidden" autoComplete="username" defaultValue={email} name="username" disabled />
      <TextField field={form.field("again")} label="Your password" type="password" autoComplete="current-password" />
      <Button disabled={form.busy} className="justify-self-start">
        It is me
      </Button>
      {passkeys.length > 0 && site !== null && <AgainByPasskey />}
    </PlainForm>
  );
}

/** Beside the password, with an answer of its own. */
function AgainByPasskey() {
  const form = usePlainForm("again-passkey");
  const { ask, busy, wrong } = usePasskey("show", (shown) => {
    void form.submit({ intent: "again-passkey", shown }, { method: "post" });
  });
  const has = useHasPasskeys();
  const said = wrong ?? form.field("").errors?.[0];
  return (
    <div>
      <Button type="button" disabled={!has || busy || form.busy} onClick={() => void ask()}>
        Show a passkey instead
      </Button>
      <FieldError field={{ ...form.field(""), errors: said ? [said] : undefined }} />
    </div>
  );
}

function Password({ least, email }: Shown) {
  const form = usePlainForm("password");
  return (
    <section className={SECTION} aria-labelledby="password">
      <h2 id="password" className="text-xl font-bold">
        Password
      </h2>
      <PlainForm
        form={form}
        done="Changed. Everything else that opened your account has ended: other sessions, passkeys, tokens, the PIN, your tablets."
        className="grid gap-3 sm:max-w-md"
      >
        <input type="hidden" autoComplete="username" defaultValue={email} name="username" disabled />
        <TextField field={form.field("now")} label="Password now" type="password" autoComplete="current-password" />
        <NewPassword field={form.field("next")} label="New password" least={least} />
        <Button disabled={form.busy} className="justify-self-start">
          Change password
        </Button>
      </PlainForm>
    </section>
  );
}

function SecondFactor({ factor: now }: Shown) {
  // A page that looks again makes another secret: the one that the phone has read stays until it is switched on.
  const [first] = useState(now);
  const factor = now.on || first.on ? now : first;
  const on = usePlainForm<{ codes: string[] }>("factor-on");
  const off = usePlainForm("factor-off");
  const codes = on.saved ? (on.answer?.codes ?? []) : [];
  return (
    <section className={SECTION} aria-labelledby="factor">
      <h2 id="factor" className="text-xl font-bold">
        Second factor
      </h2>
      {codes.length > 0 && (
        <div role="status" className="grid gap-2 border-l-4 border-brass bg-brass-wash p-3">
          <p className="font-semibold">
            Switched on. Write these down: each opens your account once, on the day the phone is lost. They are not
            shown again.
          </p>
          <ul className="figure grid gap-1 sm:grid-cols-2">
            {codes.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </div>
      )}
      {factor.on ? (
        <PlainForm form={off} done="Switched off." className="grid gap-3 sm:max-w-md">
          <p className="text-soft">
            On: signing in asks for a code of your phone’s app. {factor.left} codes on paper are left.
          </p>
          <TextField field={off.field("code")} label="Code" inputMode="numeric" autoComplete="one-time-code" />
          <Button disabled={off.busy} className="justify-self-start">
            Switch it off
          </Button>
        </PlainForm>
      ) : (
        <PlainForm form={on} className="grid gap-3 sm:max-w-md">
          <p className="text-soft">
            Off. With an app for one-time codes a found password opens nothing: read the picture with it, or type the
            secret, then the code it shows.
          </p>
          <div
            role="img"
            aria-label="QR code of the secret"
            className="w-44 bg-white p-1"
            dangerouslySetInnerHTML={{ __html: factor.svg }}
          />
          <p className="figure">{factor.secret.replace(/(.{4})(?=.)/g, "$1 ")}</p>
          <input type="hidden" name="secret" value={factor.secret} />
          <TextField field={on.field("code")} label="Code it shows" inputMode="numeric" autoComplete="one-time-code" />
          <Button disabled={on.busy} className="justify-self-start">
            Switch it on
          </Button>
        </PlainForm>
      )}
    </section>
  );
}

function Tablet({ hasPin, tablets, tabletHere }: Shown) {
  const pin = usePlainForm("pin");
  const none = usePlainForm("no-pin");
  const tablet = usePlainForm("tablet");
  return (
    <section className={SECTION} aria-labelledby="tablet">
      <h2 id="tablet" className="text-xl font-bold">
        Tablets on the bench
      </h2>
      <p className="text-soft">
        On a tablet of the workshop people take over by PIN, for the work alone. Library, people and settings ask for
        the password.
      </p>
      <PlainForm form={pin} done="Saved." className="flex flex-wrap items-start gap-3">
        <TextField
          field={pin.field("pin")}
          label={hasPin ? "New PIN" : "Your PIN"}
          type="password"
          inputMode="numeric"
          autoComplete="off"
          hint="4 to 6 digits."
        />
        <Button disabled={pin.busy} className="mt-7.5">
          {hasPin ? "Change PIN" : "Set PIN"}
        </Button>
      </PlainForm>
      {hasPin && (
        <PlainForm form={none} done="Taken away.">
          <Button disabled={none.busy} className="justify-self-start">
            Take the PIN away
          </Button>
        </PlainForm>
      )}
      {tablets.length > 0 && (
        <ul className="divide-y divide-rule bg-sheet">
          {tablets.map((t) => (
            <li key={t.id} className="flex flex-wrap items-center justify-between gap-3 px-3 py-2.5">
              <p>
                <span className="font-semibold">{t.name}</span>, by {t.by}, <Day iso={t.at.toISOString()} />
              </p>
              <NoTablet id={t.id} name={t.name} />
            </li>
          ))}
        </ul>
      )}
      {tabletHere === null && (
        <PlainForm
          form={tablet}
          done="This device is a tablet of the workshop now."
          className="flex flex-wrap items-start gap-3"
        >
          <TextField
            field={tablet.field("name")}
            label="Name of this device"
            autoComplete="off"
            hint="As: bench tablet."
          />
          <Button disabled={tablet.busy} className="mt-7.5">
            Make this a tablet of the workshop
          </Button>
        </PlainForm>
      )}
    </section>
  );
}

function NoTablet({ id, name }: { id: string; name: string }) {
  const form = usePlainForm("no-tablet", `no-tablet-${id}`);
  return (
    <PlainForm form={form}>
      <input type="hidden" name="id" value={id} />
      <Button disabled={form.busy}>
        No tablet any more<span className="sr-only">: {name}</span>
      </Button>
    </PlainForm>
  );
}
