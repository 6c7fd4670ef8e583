import QRCode from "qrcode";
import { Form } from "react-router";
import type { Route } from "./+types/labels";
import { MOST_LABELS, pickedIn } from "./labels-asked";
import { type SwingTag, swingTagOf } from "~core/job";
import { LABEL_SHEETS, LABEL_SHEET_IDS } from "~core/labels";
import { signedJob } from "~db/queries/papers";
import { findMachines, machinesById } from "~db/queries/register";
import { Button } from "~app/ui/button";
import { SelectField, TextField } from "~app/ui/field";
import { RegisterSearch } from "~app/ui/register-search";
import { originOf } from "~server/origin";
import { database } from "~server/database";
import { id, reading, who } from "~server/web";

/** Machines to pick from; a search finds the others. */
const LISTED = 60;

/** A sheet of labels to print: each opens its machine's page for whoever of the workshop scans it. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  const url = new URL(request.url);
  const ids = pickedIn(url);
  const text = (url.searchParams.get("q") ?? "").slice(0, 100);
  const job = id.safeParse(url.searchParams.get("job"));
  return reading(async () => {
    const signed = job.success ? await signedJob(database(), workshop.id, job.data) : null;
    if (signed) {
      const [machine] = await machinesById(database(), workshop.id, [signed.machineId]);
      const qr = machine ? await qrOf(request, machine.id) : "";
      const tag = { ...swingTagOf(signed.document, signed.timeZone), svg: qr };
      return { labels: [], text: "", machines: [], more: false, tag, paper: workshop.paper };
    }
    if (ids.length === 0) {
      const found = await findMachines(database(), workshop.id, { text, after: null, limit: LISTED + 1 });
      return {
        labels: [],
        text,
        machines: found.slice(0, LISTED),
        more: found.length > LISTED,
        tag: null,
        paper: workshop.paper,
      };
    }
    const rows = await machinesById(database(), workshop.id, ids);
    const labels = await Promise.all(
      rows.map(async (m) => ({
        ...m,
        svg: await qrOf(request, m.id),
      })),
    );
    return { labels, text, machines: [], more: false, tag: null, paper: workshop.paper };
  });
}

const qrOf = (request: Request, machineId: string) =>
  QRCode.toString(`${originOf(request)}/machines/${machineId}`, { type: "svg", margin: 1, errorCorrectionLevel: "M" });

export const meta: Route.MetaFunction = () => [{ title: "Labels · Nimble Gauge" }];

export default function Labels({ loaderData }: Route.ComponentProps) {
  const { labels, machines, text, more, tag, paper } = loaderData;
  if (tag) return <Tag tag={tag} />;
  if (labels.length === 0)
    return (
      <main id="main" className="mx-auto grid max-w-3xl grid-cols-1 gap-4 p-4 wide:p-8">
        <h1 className="text-2xl font-bold">Labels</h1>
        <p>
          Pick the machines, up to {MOST_LABELS}. Each label opens its machine’s page; it shows nothing without signing
          in.
        </p>
        <RegisterSearch text={text} />
        <Form className="grid grid-cols-1 gap-4">
          <ul className="divide-y divide-rule bg-sheet">
            {machines.map((m) => (
              <li key={m.id}>
                <label className="flex min-h-12 cursor-pointer flex-wrap items-center gap-x-3 px-3 py-1.5">
                  <input type="checkbox" name="machine" value={m.id} className="size-6 shrink-0 accent-ink" />
                  <span className="min-w-0 flex-1">
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
      <div className="no-print grid gap-4">
        <Form
          action="/labels/file"
          reloadDocument
          className="grid items-end gap-4 bg-sheet p-4 sm:grid-cols-[1fr_auto_auto]"
        >
          {labels.map((m) => (
            <input key={m.id} type="hidden" name="machine" value={m.id} />
          ))}
          <SelectField
            field={{ id: "sheet", errorId: "sheet-error", name: "sheet", errors: undefined }}
            label="Sheet of labels"
            defaultValue={paper === "Letter" ? "letter-30" : "a4-24"}
          >
            {LABEL_SHEET_IDS.map((sheet) => (
              <option key={sheet} value={sheet}>
                {LABEL_SHEETS[sheet].title}
              </option>
            ))}
          </SelectField>
          <TextField
            field={{ id: "skip", errorId: "skip-error", name: "skip", errors: undefined }}
            label="Labels used already"
            type="number"
            inputMode="numeric"
            min={0}
            max={29}
            defaultValue={0}
            className="w-40"
          />
          <Button look="main">PDF</Button>
        </Form>
        <p>
          Print the PDF at 100 %, not fitted to the page. Or{" "}
          <button type="button" onClick={() => window.print()} className="min-h-11 underline underline-offset-4">
            print this page
          </button>{" "}
          on plain paper.
        </p>
      </div>
      {/* Eight rows of three stand on A4 and on Letter, with the margins of any printer. */}
      <ul className="grid gap-3 min-[28rem]:grid-cols-2 sm:grid-cols-3 print:grid-cols-3 print:gap-[1.5mm]">
        {labels.map((m) => (
          <li
            key={m.id}
            className="grid grid-cols-[6rem_minmax(0,1fr)] items-center gap-3 border border-edge bg-[#fff] p-2 text-[#000] print:h-[28mm] print:grid-cols-[24mm_minmax(0,1fr)] print:gap-[2mm] print:overflow-hidden print:p-[1.5mm]"
          >
            <span role="img" aria-label={`Code that opens ${m.serial}`} dangerouslySetInnerHTML={{ __html: m.svg }} />
            <span className="min-w-0 text-sm print:text-[9pt] print:leading-tight">
              <strong className="figure line-clamp-2">{m.serial}</strong>
              <span className="line-clamp-2">
                {m.maker} {m.model}
              </span>
              <span className="line-clamp-2">{m.site}</span>
            </span>
          </li>
        ))}
      </ul>
    </main>
  );
}

/** Hung on a machine that was worked on: printed, folded once, punched at the top. */
function Tag({ tag }: { tag: SwingTag & { svg: string } }) {
  return (
    <main id="main" className="mx-auto grid max-w-4xl gap-4 p-4 print:p-0">
      <h1 className="sr-only">Swing tag</h1>
      <div className="no-print">
        <Button type="button" onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <article className="grid w-[9cm] max-w-full gap-2 border-2 border-[#000] bg-[#fff] p-4 text-[#000]">
        <span aria-hidden="true" className="mx-auto size-5 rounded-full border-2 border-[#000]" />
        <p className="text-center text-xl font-bold">{tag.outOfUse ? "OUT OF USE" : tag.tested}</p>
        {tag.outOfUse && <p className="font-bold">{tag.outOfUse}</p>}
        <p className="text-center">
          {tag.machine}
          <span className="figure block">{tag.serial}</span>
        </p>
        <ul className="grid gap-1 border-y-2 border-[#000] py-2">
          {tag.left.map((line) => (
            <li key={line}>{line}</li>
          ))}
          {tag.left.length === 0 && <li>Nothing was measured on this visit.</li>}
        </ul>
        <div className="grid grid-cols-[minmax(0,1fr)_5rem] items-end gap-3">
          <p>
            {tag.by}
            {tag.next && <strong className="block">{tag.next}</strong>}
          </p>
          {tag.svg && (
            <span
              role="img"
              aria-label={`Code that opens ${tag.serial}`}
              dangerouslySetInnerHTML={{ __html: tag.svg }}
            />
          )}
        </div>
      </article>
    </main>
  );
}
