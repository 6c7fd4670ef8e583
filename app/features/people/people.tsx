import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { Route } from "./+types/people";
import { AskFirst } from "~app/ui/ask-first";
import { Button } from "~app/ui/button";
import { Clock, Day } from "~app/ui/dates";
import { SelectField, TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import type { SignedIn } from "~server/auth";
import { formOf } from "~server/body";
import { said } from "~server/fields";
import { originOf } from "~server/origin";
import { openLinks } from "~server/people/links";
import { sendMail } from "~server/people/mail";
import { eventsOf } from "~server/people/events";
import { OPENERS, endOpener, opensOf } from "~server/people/opens";
import { invite, peopleOf, requireFactor, resetLink, setActive, setRole, withdrawLink } from "~server/people/people";
import { answerFor, commandId, fieldOf, id, reading, who } from "~server/web";
import { workshopOf } from "~server/workshop";

/** Who belongs to the workshop: asked in, given a role, let go. For leads. */

const role = z.enum(["technician", "lead"], "Choose what they may do.");
const schemas = {
  invite: z.object({
    commandId,
    name: said(80, 2, "The name that stands on their reports."),
    email: z.email("Their email address.").max(200, "That is longer than an address can be."),
    role,
  }),
  role: z.object({ commandId, id, role }),
  active: z.object({ commandId, id, active: z.enum(["yes", "no"]) }),
  reset: z.object({ commandId, id }),
  withdraw: z.object({ commandId, id }),
  end: z.object({ of: id, id, what: z.enum([...OPENERS, "all"]) }),
  factor: z.object({ required: z.enum(["yes", "no"]) }),
} as const;

const EVENTS_SHOWN = 40;
const OPENS_SHOWN = 20;

export async function loader({ context }: Route.LoaderArgs) {
  const person = who(context);
  const { id: workshopId } = person.workshop;
  const [people, links, opens, events, { factorRequired }] = await reading(() =>
    Promise.all([
      peopleOf(workshopId),
      openLinks(workshopId),
      opensOf(workshopId),
      eventsOf(workshopId, EVENTS_SHOWN),
      workshopOf(person),
    ]),
  );
  // A number for each form: two that are sent at once are two commands.
  return {
    newId: uuidv7(),
    self: person.id,
    workshop: person.workshop.name,
    factorRequired,
    events,
    people: people.map((p) => ({
      ...p,
      opens: opens.get(p.id) ?? [],
      newIds: { role: uuidv7(), reset: uuidv7(), active: uuidv7() },
    })),
    links: links.map((l) => ({ ...l, newId: uuidv7() })),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const mine = { person: () => who(context), right: "people" } as const;
  const form = await formOf(request);
  const shopOf = ({ workshop }: SignedIn) => `${workshop.name}, ${workshop.town}`;
  const linkTo = (token: string) => `${originOf(request)}/join/${token}`;
  switch (fieldOf(form, "intent")) {
    case "role":
      return answerFor(mine, form, schemas.role, (given, by) => setRole(by, given.commandId, given.id, given.role));
    case "active":
      return answerFor(mine, form, schemas.active, (given, by) =>
        setActive(by, given.commandId, given.id, given.active === "yes"),
      );
    case "end":
      return answerFor(mine, form, schemas.end, async ({ of, ...which }, by) => {
        await endOpener(by, of, which);
        return "done";
      });
    case "factor":
      return answerFor(mine, form, schemas.factor, async ({ required }, by) => {
        await requireFactor(by, required === "yes");
        return "done";
      });
    case "withdraw":
      return answerFor(mine, form, schemas.withdraw, (given, by) => withdrawLink(by, given.commandId, given.id));
    case "reset":
      return answerFor(mine, form, schemas.reset, async (given, by) => {
        const { outcome, token, email } = await resetLink(by, given.commandId, given.id);
        if (!token) return outcome;
        const text = `A new password for ${shopOf(by)}, once, within 24 hours:\n${linkTo(token)}`;
        return {
          more: { link: linkTo(token), mailed: await sendMail(email, `A new password for ${shopOf(by)}`, text) },
        };
      });
    default:
      return answerFor(mine, form, schemas.invite, async ({ commandId, ...given }, by) => {
        const { outcome, token } = await invite(by, commandId, given);
        if (!token) return outcome;
        const text = `${by.name} asks you to join ${shopOf(by)}. This link is good once, for 48 hours:\n${linkTo(token)}`;
        return { more: { link: linkTo(token), mailed: await sendMail(given.email, `Join ${shopOf(by)}`, text) } };
      });
  }
}

export const meta: Route.MetaFunction = () => [{ title: "People · Nimble Gauge" }];

type Shown = Route.ComponentProps["loaderData"];
interface Linked {
  link: string;
  mailed: boolean;
}

export default function People({ loaderData }: Route.ComponentProps) {
  const { workshop, people } = loaderData;
  return (
    <main id="main" className="mx-auto grid max-w-4xl gap-8 p-5 wide:py-10">
      <h1 className="text-2xl font-bold">People of {workshop}</h1>
      <ul className="divide-y-2 divide-rule bg-sheet">
        {people.map((p) => (
          <Person key={p.id} person={p} self={loaderData.self} />
        ))}
      </ul>
      <Invite {...loaderData} />
      <Links {...loaderData} />
      <Factor {...loaderData} />
      <Events {...loaderData} />
    </main>
  );
}

function Person({ person, self }: { person: Shown["people"][number]; self: string }) {
  const role = usePlainForm("role", `role-${person.id}`);
  const active = usePlainForm("active", `active-${person.id}`);
  const reset = usePlainForm<Linked>("reset", `reset-${person.id}`);
  const { name, email, sessions, secondFactor, newIds } = person;
  const activeForm = (
    <PlainForm form={active} newId={newIds.active}>
      <input type="hidden" name="id" value={person.id} />
      <input type="hidden" name="active" value={person.active ? "no" : "yes"} />
      <Button disabled={active.busy}>
        {person.active ? "Let go" : "Take in again"}
        <span className="sr-only">: {name}</span>
      </Button>
    </PlainForm>
  );
  return (
    <li className="grid gap-3 px-4 py-4">
      <div>
        <p className="text-lg font-semibold">
          {name}
          {person.id === self && ", you"}
          {!person.active && <span className="ml-2 font-normal text-soft">let go</span>}
        </p>
        <p className="text-sm text-soft">
          {email} · {person.role} · {secondFactor ? "second factor on" : "no second factor"} ·{" "}
          {sessions === 0 ? "not signed in" : sessions === 1 ? "signed in once" : `signed in ${sessions} times`}
        </p>
      </div>
      {person.id !== self && (
        <div className="flex flex-wrap items-end gap-3">
          {person.active && (
            <>
              <PlainForm form={role} newId={newIds.role} done="Saved." className="flex flex-wrap items-end gap-2">
                <input type="hidden" name="id" value={person.id} />
                <SelectField
                  field={role.field("role")}
                  label={<span className="sr-only">Role of {name}</span>}
                  defaultValue={person.role}
                >
                  <option>technician</option>
                  <option>lead</option>
                </SelectField>
                <Button disabled={role.busy}>
                  Set role<span className="sr-only"> of {name}</span>
                </Button>
              </PlainForm>
              <PlainForm form={reset} newId={newIds.reset}>
                <input type="hidden" name="id" value={person.id} />
                <Button disabled={reset.busy}>
                  Link for a new password<span className="sr-only"> for {name}</span>
                </Button>
              </PlainForm>
            </>
          )}
          {person.active ? (
            <AskFirst
              does="Let go"
              of={name}
              means={`${name} is signed out everywhere and can’t sign in. What they recorded stays. They can be taken in again.`}
              className="ml-auto open:ml-0 open:basis-full"
            >
              {activeForm}
            </AskFirst>
          ) : (
            activeForm
          )}
        </div>
      )}
      <Link form={reset} to={name} />
      {person.opens.length > 0 && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5">
            What opens {name}’s account: {person.opens.length}
          </summary>
          <ul className="divide-y divide-rule">
            {person.opens.slice(0, OPENS_SHOWN).map((one) => (
              <li key={`${one.what} ${one.id}`} className="flex flex-wrap items-center justify-between gap-3 py-2">
                <p>
                  {one.name}
                  {one.what !== "pin" && (
                    <span className="text-soft">
                      , since <Day iso={one.since} />
                    </span>
                  )}
                </p>
                <EndOne of={person.id} one={one} />
              </li>
            ))}
          </ul>
          <div className="flex flex-wrap items-center justify-between gap-3 border-t border-rule py-2">
            <p>{person.opens.length > OPENS_SHOWN && `And ${person.opens.length - OPENS_SHOWN} older.`}</p>
            <EndOne of={person.id} one={{ what: "all", id: person.id, name: "all of it" }} />
          </div>
        </details>
      )}
    </li>
  );
}

function EndOne({ of, one }: { of: string; one: { what: string; id: string; name: string } }) {
  const form = usePlainForm("end", `end-${one.what}-${one.id}`);
  return (
    <PlainForm form={form}>
      <input type="hidden" name="of" value={of} />
      <input type="hidden" name="what" value={one.what} />
      <input type="hidden" name="id" value={one.id} />
      <Button disabled={form.busy}>
        {one.what === "all" ? "End all of it" : "End"}
        <span className="sr-only">{one.what === "all" ? "" : ` ${one.name}`}</span>
      </Button>
    </PlainForm>
  );
}

function Factor({ factorRequired }: Shown) {
  const form = usePlainForm("factor");
  return (
    <section className="grid gap-3 border-t-2 border-rule pt-5" aria-labelledby="factor">
      <h2 id="factor" className="text-xl font-bold">
        Second factor
      </h2>
      <p>
        {factorRequired
          ? "Everybody needs one. Whoever has none sets it up at the next page that opens."
          : "Everybody decides for themselves whether a found password opens their account."}
      </p>
      <PlainForm form={form} done="Saved.">
        <input type="hidden" name="required" value={factorRequired ? "no" : "yes"} />
        <Button disabled={form.busy} className="justify-self-start">
          {factorRequired ? "Leave it to everybody" : "Ask everybody for one"}
        </Button>
      </PlainForm>
    </section>
  );
}

/** What happened to what opens accounts, newest first. */
function Events({ events }: Shown) {
  return (
    <section className="grid gap-3 border-t-2 border-rule pt-5" aria-labelledby="events">
      <h2 id="events" className="text-xl font-bold">
        Signing in, and changes to it
      </h2>
      {events.length === 0 && <p className="text-soft">Nothing yet.</p>}
      <ol className="divide-y divide-rule bg-sheet">
        {events.map((e) => (
          <li key={e.id} className="px-4 py-2">
            <span className="figure text-soft">
              <Day iso={e.at} /> <Clock iso={e.at} />
            </span>{" "}
            {e.name} {e.said}
            {e.about && `: ${e.about}`}
            {e.by && `, by ${e.by}`}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Invite({ newId }: Shown) {
  const form = usePlainForm<Linked>("invite");
  return (
    <section className="grid gap-3 border-t-2 border-rule pt-5" aria-labelledby="invite">
      <h2 id="invite" className="text-xl font-bold">
        Ask somebody in
      </h2>
      <PlainForm form={form} newId={newId} className="grid items-start gap-3 sm:grid-cols-2">
        <TextField field={form.field("name")} label="Name" autoComplete="off" hint="As it stands on reports." />
        <TextField field={form.field("email")} label="Email" type="email" autoComplete="off" />
        <SelectField field={form.field("role")} label="May" defaultValue="technician">
          <option value="technician">technician: work on machines and jobs</option>
          <option value="lead">lead: library, people and workshop too</option>
        </SelectField>
        <Button disabled={form.busy} className="justify-self-start sm:mt-7.5">
          Make the link
        </Button>
      </PlainForm>
      <Link form={form} to="them" />
    </section>
  );
}

/** On a phone it would come up behind the bar at the bottom. */
const intoView = (box: HTMLElement | null) => box?.scrollIntoView({ block: "center" });

/** Shown the once that it is made: afterwards only its hash is known. */
function Link({ form, to }: { form: { saved: boolean; answer?: Partial<Linked> | undefined }; to: string }) {
  const { link, mailed } = form.answer ?? {};
  const [copied, setCopied] = useState("");
  if (!form.saved || !link) return null;
  return (
    <div ref={intoView} role="status" className="grid gap-1 border-l-4 border-brass bg-brass-wash p-3">
      <p className="font-semibold">
        {mailed ? "Sent by email." : `Give this link to ${to}.`} It is good once, and not shown again.
      </p>
      <p className="figure break-all select-all">{link}</p>
      <Button
        type="button"
        className="justify-self-start"
        onClick={() => void navigator.clipboard?.writeText(link).then(() => setCopied(link))}
      >
        {copied === link ? "Copied" : "Copy"}
      </Button>
    </div>
  );
}

function Links({ links }: Shown) {
  if (links.length === 0) return null;
  return (
    <section className="grid gap-3 border-t-2 border-rule pt-5" aria-labelledby="links">
      <h2 id="links" className="text-xl font-bold">
        Links not used yet
      </h2>
      <ul className="divide-y divide-rule bg-sheet">
        {links.map((l) => (
          <li key={l.id} className="flex flex-wrap items-center justify-between gap-3 px-4 py-2.5">
            <p>
              <span className="font-semibold">{l.name}</span>, {l.email}:{" "}
              {l.what === "invite" ? `to join as ${l.role}` : "a new password"}, until{" "}
              <Day iso={l.expiresAt.toISOString()} /> <Clock iso={l.expiresAt.toISOString()} />
            </p>
            <Withdraw id={l.id} name={l.name} newId={l.newId} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Withdraw({ id, name, newId }: { id: string; name: string; newId: string }) {
  const form = usePlainForm("withdraw", `withdraw-${id}`);
  return (
    <AskFirst does="Withdraw" of={`the link for ${name}`} means="It opens nothing any more. A new one can be made.">
      <PlainForm form={form} newId={newId}>
        <input type="hidden" name="id" value={id} />
        <Button disabled={form.busy}>
          Withdraw the link<span className="sr-only"> for {name}</span>
        </Button>
      </PlainForm>
    </AskFirst>
  );
}
