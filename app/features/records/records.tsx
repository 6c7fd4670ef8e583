import { Link, useFetcher } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { Route } from "./+types/records";
import { AskFirst } from "~app/ui/ask-first";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";
import { Export } from "~app/ui/export";
import { Day } from "~app/ui/dates";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import { TokenList } from "~app/ui/token-list";
import { SEND_AGAIN, UNREACHABLE } from "~app/ui/unreachable";
import { tokensOf, withdrawToken } from "~server/api/tokens";
import { formOf } from "~server/body";
import { calendarLinks, makeCalendarLink, withdrawCalendarLink } from "~server/handover/due-calendar";
import { forgetGone, transfersOf, viewOf } from "~server/open/transfers";
import { originOf } from "~server/origin";
import { answerFor, commandId, fieldOf, id, reading, who } from "~server/web";

/** All of the workshop’s records: out, in, and by programs. For leads. */

const SHOWN = 15;

export async function loader({ context, request }: Route.LoaderArgs) {
  const person = who(context);
  const { workshop } = person;
  const origin = originOf(request);
  return reading(async () => {
    await forgetGone(workshop.id);
    const [rows, links, tokens] = await Promise.all([
      transfersOf(workshop.id, SHOWN),
      calendarLinks(person),
      tokensOf(workshop.id),
    ]);
    return {
      newId: uuidv7(),
      tokens,
      links: links.map(({ id, at, token }) => ({
        ...{ id, at: at.toISOString() },
        address: token && `${origin}/calendar/${token}.ics`,
      })),
      transfers: rows.map((row) => ({ ...viewOf(row), way: row.way, about: row.about, at: row.at.toISOString() })),
    };
  });
}

const makeSchema = z.object({ commandId });
const withdrawSchema = z.object({ id });

export async function action({ request, context }: Route.ActionArgs) {
  const mine = { person: () => who(context), right: "records" } as const;
  const form = await formOf(request);
  if (fieldOf(form, "intent") === "no-token")
    return answerFor(mine, form, withdrawSchema, async (given, by) => {
      await withdrawToken(by, given.id);
      return "done";
    });
  return fieldOf(form, "intent") === "withdraw-link"
    ? answerFor(mine, form, withdrawSchema, async (given, by) => {
        await withdrawCalendarLink(by, given.id);
        return "done";
      })
    : answerFor(mine, form, makeSchema, (given, by) => makeCalendarLink(by, given.commandId));
}

export const meta: Route.MetaFunction = () => [{ title: "Export and import · Nimble Gauge" }];

export default function Records({ loaderData: { newId, transfers, links, tokens } }: Route.ComponentProps) {
  return (
    <main id="main" className="mx-auto grid max-w-3xl gap-8 p-4 wide:p-8">
      <h1 className="text-3xl font-bold tracking-tight">Export and import</h1>
      <section aria-labelledby="out" className="grid gap-3">
        <h2 id="out" className="text-xl font-bold">
          Export all records
        </h2>
        <p>
          Everything the workshop has written down, as it is at this moment. One machine or one owner is exported from
          its own page.
        </p>
        <Export scope="workshop" newId={newId} />
      </section>
      <section aria-labelledby="in" className="grid gap-3">
        <h2 id="in" className="text-xl font-bold">
          Import
        </h2>
        <p>
          A spreadsheet saved as CSV, one row for each visit. What its columns are is asked next; nothing is stored
          before you have seen it.
        </p>
        <Upload />
      </section>
      <Calendar links={links} newId={newId} />
      <section aria-labelledby="programs" className="grid gap-3">
        <h2 id="programs" className="text-xl font-bold">
          Programs
        </h2>
        <p>
          {tokens.length === 0 ? "No program reads or appends records now." : "API tokens that are valid now."}{" "}
          Everybody makes their own, under{" "}
          <Link to="/access#tokens" className="underline underline-offset-4">
            Your access
          </Link>
          .
        </p>
        <TokenList tokens={tokens} whose />
      </section>
      <section aria-labelledby="files" className="grid gap-3">
        <h2 id="files" className="text-xl font-bold">
          Exports and imports until now
        </h2>
        {transfers.length === 0 ? (
          <p className="bg-sheet p-4">Nothing was exported or imported yet.</p>
        ) : (
          <ul className="divide-y divide-rule bg-sheet">
            {transfers.map((t) => (
              <li key={t.id} className="flex flex-wrap gap-x-4 px-3 py-2.5">
                <span className="font-semibold">{WAY_WORDS[t.way]}</span>
                {t.way.endsWith("-in") ? (
                  <Link to={`/import/${t.id}`} className="underline underline-offset-4">
                    {t.about}
                  </Link>
                ) : (
                  <span>{t.about.replace(/:.*/, "")}</span>
                )}
                <span>{t.said}</span>
                <span className="ml-auto text-sm text-soft">
                  <Day iso={t.at} />
                </span>
              </li>
            ))}
          </ul>
        )}
      </section>
    </main>
  );
}

type Link = Route.ComponentProps["loaderData"]["links"][number];

/** The services due, for the calendar that somebody plans with. */
function Calendar({ links, newId }: { links: readonly Link[]; newId: string }) {
  const form = usePlainForm("make-link");
  return (
    <section aria-labelledby="calendar" className="grid gap-3">
      <h2 id="calendar" className="text-xl font-bold">
        Calendar of services due
      </h2>
      <p>
        An address to subscribe to, in any calendar. Whoever has it sees which machine is due where, and the owner’s
        phone number, without signing in. Withdraw it to close it.
      </p>
      {links.length > 0 && (
        <ul className="divide-y divide-rule bg-sheet">
          {links.map((l) => (
            <CalendarLink key={l.id} link={l} />
          ))}
        </ul>
      )}
      <PlainForm form={form} newId={newId} keeps>
        <Button disabled={form.busy} className="justify-self-start">
          Make an address
        </Button>
      </PlainForm>
    </section>
  );
}

function CalendarLink({ link }: { link: Link }) {
  const form = usePlainForm("withdraw-link", `withdraw-${link.id}`);
  return (
    <li className="grid gap-2 px-3 py-3">
      <label className="grid gap-1">
        <span className="text-sm text-soft">
          Made <Day iso={link.at} />
        </span>
        {link.address ? (
          <input
            readOnly
            value={link.address}
            className="w-full rounded-md border-2 border-edge bg-sheet px-3 py-2.5"
          />
        ) : (
          <span>Its address is kept nowhere here. Calendars that have it go on.</span>
        )}
      </label>
      <AskFirst does="Withdraw" means="Calendars that use it stop being brought up to date. This can’t be undone.">
        <PlainForm form={form}>
          <input type="hidden" name="id" value={link.id} />
          <Button disabled={form.busy}>Withdraw this address</Button>
        </PlainForm>
      </AskFirst>
    </li>
  );
}

function Upload() {
  const fetcher = useFetcher<{ message: string; outcome?: string }>();
  const busy = fetcher.state !== "idle";
  const { message, outcome } = fetcher.data ?? {};
  const said = outcome === UNREACHABLE ? SEND_AGAIN : message;
  return (
    <fetcher.Form method="post" action="/import" encType="multipart/form-data" className="grid gap-3 bg-sheet p-4">
      <TextField
        field={{
          ...{ id: "table", errorId: "table-error", name: "file" },
          errors: said ? [said] : undefined,
        }}
        label="File"
        type="file"
        accept=".csv,.tsv,.txt,.json,.zip,text/csv,text/plain,application/json,application/zip"
        required
      />
      <Button disabled={busy} className="justify-self-start">
        {busy ? "Sending …" : "Send the file"}
      </Button>
    </fetcher.Form>
  );
}

const WAY_WORDS = {
  "records-out": "Export, JSON",
  "tables-out": "Export, tables",
  "records-in": "Import, JSON",
  "table-in": "Import, table",
} as const;
