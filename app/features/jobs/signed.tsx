import { useState } from "react";
import type { SheetView } from "~server/jobs/views/sheet";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { Clock, Day } from "~app/ui/dates";

/** After the signature: its hash, and the owner’s page with its links. */
export function Signed({ sheet, newId, origin }: { sheet: SheetView; unit: string; newId: string; origin: string }) {
  const { signature, links } = sheet;
  const entry = useEntry("link", sheet.job.id, newId);
  const [copied, setCopied] = useState("");
  if (!signature) return null;
  return (
    <div className="mx-4 mb-4 grid grid-cols-1 gap-4 bg-sheet p-5 wide:mr-6 wide:ml-[4.2rem]">
      <p>
        Signed by <strong>{signature.name}</strong> on <Day iso={signature.at} /> at <Clock iso={signature.at} />.
        {signature.remark && <span className="mt-1 block">“{signature.remark}”</span>}
      </p>
      <p className="figure text-xs break-all text-soft">SHA-256 {signature.hash}</p>
      <section aria-labelledby="owner" className="grid grid-cols-1 gap-2">
        <h3 id="owner" className="text-lg font-bold">
          Owner’s page
        </h3>
        {links.length === 0 && <p>No link is valid now. Make one to give the owner the page again.</p>}
        <ul className="grid grid-cols-1 gap-2">
          {links.map((l) => (
            <li key={l.id} className="flex flex-wrap items-center gap-2">
              <a
                href={`/owner/${l.token}`}
                className="figure min-w-0 flex-1 basis-full truncate text-sm underline sm:basis-0 underline-offset-4"
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
              <a href={`/card/${l.token}`} className="min-h-11 py-2 underline underline-offset-4">
                Card for the owner
              </a>
              <EntryForm entry={entry}>
                <input type="hidden" name="change" value="revoke" />
                <input type="hidden" name="linkId" value={l.id} />
                <Button disabled={entry.busy}>Withdraw</Button>
              </EntryForm>
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
