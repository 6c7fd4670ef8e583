import { useState } from "react";
import type { SheetView } from "~server/jobs/views/sheet";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { AskFirst } from "~app/ui/ask-first";
import { Button } from "~app/ui/button";
import { Clock, Day } from "~app/ui/dates";
import { SelectField, TextArea } from "~app/ui/field";
import { ABOUTS } from "~core/job/amendment";

export interface Added {
  id: string;
  at: string;
  about: string;
  said: string;
  by: string;
}

/** After the signature: its hash, and the owner’s page with its links. */
export function Signed({
  sheet,
  newId,
  origin,
  added,
}: {
  sheet: SheetView;
  newId: string;
  origin: string;
  added: readonly Added[];
}) {
  const { signature, links } = sheet;
  const entry = useEntry("link", sheet.job.id, newId);
  const [copied, setCopied] = useState("");
  if (!signature) return null;
  return (
    <div className="mx-4 mb-4 grid grid-cols-1 gap-4 bg-sheet p-5 wide:mr-6 wide:ml-[4.2rem]">
      <p data-result="">
        Signed by <strong>{signature.name}</strong> on <Day iso={signature.at} /> at <Clock iso={signature.at} />.
        {signature.remark && <span className="mt-1 block">“{signature.remark}”</span>}
      </p>
      <p className="figure text-xs break-all text-soft">SHA-256 {signature.hash}</p>
      <p className="flex flex-wrap gap-x-6">
        <a
          href={`/jobs/${sheet.job.id}/report`}
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          Service report as PDF
        </a>
        <a
          href={`/labels?job=${sheet.job.id}`}
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          Swing tag
        </a>
      </p>
      <Amendments sheet={sheet} newId={newId} added={added} />
      <section aria-labelledby="owner" className="grid grid-cols-1 gap-2">
        <h3 id="owner" className="text-lg font-bold">
          Owner’s page
        </h3>
        {links.length === 0 && <p>No link is valid now. Make one to give the owner the page again.</p>}
        <ul className="grid grid-cols-1 gap-2">
          {links.map((l) => (
            <li key={l.id} className="flex flex-wrap items-center gap-x-4 gap-y-2">
              {l.token === null ? (
                <p className="basis-full">
                  A link of <Day iso={l.at} />: its address is kept nowhere here. Whoever has it sees the page. Withdraw
                  it, then make a new one, to give the owner the page again.
                </p>
              ) : (
                <>
                  <a
                    href={`/owner/${l.token}`}
                    className="figure inline-flex min-h-11 min-w-0 basis-full items-center text-sm break-all underline underline-offset-4"
                  >
                    {origin}/owner/{l.token}
                  </a>
                  <Button
                    type="button"
                    onClick={() => {
                      void navigator.clipboard.writeText(`${origin}/owner/${l.token}`).then(() => setCopied(l.id));
                    }}
                  >
                    {copied === l.id ? "Copied" : "Copy"}
                  </Button>
                  <a
                    href={`/card/${l.token}`}
                    className="inline-flex min-h-11 items-center underline underline-offset-4"
                  >
                    Card for the owner
                  </a>
                </>
              )}
              <AskFirst
                does="Withdraw"
                of="this link"
                means="Whoever has the link or its code sees nothing any more, the card included. A new link is another address."
                className="ml-auto open:ml-0 open:basis-full"
              >
                <EntryForm entry={entry}>
                  <input type="hidden" name="change" value="revoke" />
                  <input type="hidden" name="linkId" value={l.id} />
                  <Button disabled={entry.busy}>Withdraw the link</Button>
                </EntryForm>
              </AskFirst>
            </li>
          ))}
        </ul>
        {links.length === 0 && (
          <EntryForm entry={entry}>
            <input type="hidden" name="change" value="new" />
            <Button disabled={entry.busy}>Make a new link</Button>
          </EntryForm>
        )}
      </section>
    </div>
  );
}

/** Words and shots that joined the job after its signature: they stand beside it, on the owner’s page too. */
function Amendments({ sheet, newId, added }: { sheet: SheetView; newId: string; added: readonly Added[] }) {
  const entry = useEntry("amend", sheet.job.id, newId, { onSaved: () => entry.attributes.ref.current?.reset() });
  const { field } = entry;
  return (
    <section aria-labelledby="amendments" className="grid gap-2">
      <h3 id="amendments" className="text-lg font-bold">
        Added after signing
      </h3>
      {added.length > 0 && (
        <ul className="divide-y divide-rule border-y border-rule">
          {added.map((a) => (
            <li key={a.id} className="py-2 whitespace-pre-line">
              <Day iso={a.at} /> <Clock iso={a.at} />, {a.about.toLowerCase()}: {a.said}
              {a.by && <span className="text-soft"> {a.by}</span>}
            </li>
          ))}
        </ul>
      )}
      <details open={field("text").errors ? true : undefined} className="border-b border-rule">
        <summary className="min-h-11 cursor-pointer py-2.5">Add something: what was signed stays as it is</summary>
        <EntryForm entry={entry} className="grid gap-3 pb-3">
          <SelectField field={field("about")} label="About" defaultValue="other">
            {Object.entries(ABOUTS).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </SelectField>
          <TextArea
            field={field("text")}
            label="What is to be added"
            rows={3}
            hint="The owner’s page and the report show it with date and name. It can’t be taken back."
          />
          <Button disabled={entry.busy} className="justify-self-start">
            Add to the signed job
          </Button>
        </EntryForm>
      </details>
    </section>
  );
}
