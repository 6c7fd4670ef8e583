import { Link, useFetcher } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/records";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";
import { Export } from "~app/ui/export";
import { Day } from "~app/ui/dates";
import { forgetGone, transfersOf, viewOf } from "~server/open/transfers";
import { reading, who } from "~server/web";

/** All of the workshop’s records: out, in, and by programs. For leads. */

const SHOWN = 15;

export async function loader({ context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  return reading(async () => {
    await forgetGone(workshop.id);
    const rows = await transfersOf(workshop.id, SHOWN);
    return {
      newId: uuidv7(),
      transfers: rows.map((row) => ({ ...viewOf(row), way: row.way, about: row.about, at: row.at.toISOString() })),
    };
  });
}

export const meta: Route.MetaFunction = () => [{ title: "Export and import · Nimble Gauge" }];

export default function Records({ loaderData: { newId, transfers } }: Route.ComponentProps) {
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

function Upload() {
  const fetcher = useFetcher<{ message: string }>();
  const busy = fetcher.state !== "idle";
  return (
    <fetcher.Form method="post" action="/import" encType="multipart/form-data" className="grid gap-3 bg-sheet p-4">
      <TextField
        field={{
          ...{ id: "table", errorId: "table-error", name: "file" },
          errors: fetcher.data?.message ? [fetcher.data.message] : undefined,
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
