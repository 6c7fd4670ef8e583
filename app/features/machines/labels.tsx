import QRCode from "qrcode";
import { Form } from "react-router";
import type { Route } from "./+types/labels";
import { findMachines, machinesById } from "~db/queries/register";
import { Button } from "~app/ui/button";
import { RegisterSearch } from "~app/ui/register-search";
import { originOf } from "~server/origin";
import { database } from "~server/database";
import { id, reading, who } from "~server/web";

const MOST = 24;
/** Machines to pick from; a search finds the others. */
const LISTED = 60;

/** A sheet of labels to print: each opens its machine's page for whoever of the workshop scans it. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  const url = new URL(request.url);
  const ids = url.searchParams
    .getAll("machine")
    .filter((m) => id.safeParse(m).success)
    .slice(0, MOST);
  const text = (url.searchParams.get("q") ?? "").slice(0, 100);
  return reading(async () => {
    if (ids.length === 0) {
      const found = await findMachines(database(), workshop.id, { text, after: null, limit: LISTED + 1 });
      return { labels: [], text, machines: found.slice(0, LISTED), more: found.length > LISTED };
    }
    const rows = await machinesById(database(), workshop.id, ids);
    const labels = await Promise.all(
      rows.map(async (m) => ({
        ...m,
        svg: await QRCode.toString(`${originOf(request)}/machines/${m.id}`, {
          type: "svg",
          margin: 1,
          errorCorrectionLevel: "M",
        }),
      })),
    );
    return { labels, text, machines: [], more: false };
  });
}

export const meta: Route.MetaFunction = () => [{ title: "Labels · Nimble Gauge" }];

export default function Labels({ loaderData }: Route.ComponentProps) {
  const { labels, machines, text, more } = loaderData;
  if (labels.length === 0)
    return (
      <main id="main" className="mx-auto grid max-w-3xl gap-4 p-4 wide:p-8">
        <h1 className="text-2xl font-bold">Labels</h1>
        <p>
          Pick the machines, up to {MOST}. Each label opens its machine’s page; it shows nothing without signing in.
        </p>
        <RegisterSearch text={text} />
        <Form className="grid gap-4">
          <ul className="divide-y divide-rule bg-sheet">
            {machines.map((m) => (
              <li key={m.id}>
                <label className="flex min-h-12 cursor-pointer items-center gap-3 px-3">
                  <input type="checkbox" name="machine" value={m.id} className="size-6 shrink-0 accent-ink" />
                  <span className="min-w-0 flex-1 truncate">
                    {m.site}, {m.maker} {m.model}
                  </span>
                  <span className="figure text-sm">{m.serial}</span>
                </label>
              </li>
            ))}
          </ul>
          {machines.length === 0 && <p className="bg-sheet p-4">No machine here matches “{text}”.</p>}
          {more && <p className="text-soft">These are the first {LISTED}. Search for the others.</p>}
          <Button look="main" className="justify-self-start">
            Make the sheet
          </Button>
        </Form>
      </main>
    );
  return (
    <main id="main" className="mx-auto grid max-w-4xl gap-4 p-4 print:p-0">
      <h1 className="sr-only">Labels</h1>
      <div className="no-print">
        <Button type="button" onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <ul className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {labels.map((m) => (
          <li
            key={m.id}
            className="grid grid-cols-[6rem_1fr] items-center gap-3 border border-edge bg-[#fff] p-2 text-[#000]"
          >
            <span role="img" aria-label={`Code that opens ${m.serial}`} dangerouslySetInnerHTML={{ __html: m.svg }} />
            <span className="min-w-0 text-sm">
              <strong className="figure block">{m.serial}</strong>
              <span className="block">
                {m.maker} {m.model}
              </span>
              <span className="block truncate">{m.site}</span>
            </span>
          </li>
        ))}
      </ul>
    </main>
  );
}
