import { Button } from "~app/ui/button";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import type { Found } from "~server/intake/work";

const rows = (n: number) => `${n.toLocaleString("en")} ${n === 1 ? "row" : "rows"}`;
const SHOWN = 30;

/** What came of looking through a file, and what can be done with it now. */
export function Checked({ found, id }: { found: Partial<Found>; id: string }) {
  const { good = 0, bad = 0, known = 0, errors = [], errorCount = 0 } = found;
  const fresh = good - known;
  const form = usePlainForm("store");
  return (
    <section aria-labelledby="checked" className="grid gap-4 border-l-8 border-brass bg-sheet p-4">
      <h2 id="checked" className="text-xl font-bold">
        {bad === 0 ? `${rows(fresh)} to import` : `${rows(bad)} can’t be imported as they are`}
      </h2>
      <p>
        {bad > 0 && `${rows(fresh)} are in order. `}
        {known > 0 && `${rows(known)} stored already, or twice in the file: left alone. `}
        Nothing is stored yet.
      </p>
      {errors.length > 0 && (
        <>
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="What is wrong, line by line">
            <table className="w-full border-collapse text-left">
              <thead>
                <tr className="border-b-2 border-rule">
                  {["Line", "Column", "Typed", "What is wrong"].map((h) => (
                    <th key={h} scope="col" className="py-1.5 pr-4">
                      {h}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {errors.slice(0, SHOWN).map((e) => (
                  <tr key={`${e.line} ${e.column}`} className="border-b border-rule align-top">
                    <td className="figure py-1.5 pr-4">{e.line}</td>
                    <td className="py-1.5 pr-4">{e.column}</td>
                    <td className="min-w-24 py-1.5 pr-4 break-words">{e.typed}</td>
                    <td className="py-1.5">
                      {e.reason}. <span className="text-soft">{e.fix}</span>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <p>
            {errorCount > SHOWN && `These are the first ${SHOWN} of ${errorCount}. `}
            <a href={`/import/${id}/errors`} className="underline underline-offset-4" download>
              All of them as a table (CSV)
            </a>
            . Mend the file and import it again: rows that were imported are not imported twice.
          </p>
        </>
      )}
      {fresh > 0 && (
        <PlainForm form={form}>
          {bad > 0 && <input type="hidden" name="leaveBad" value="yes" />}
          <Button look={bad === 0 ? "main" : "plain"} disabled={form.busy} className="justify-self-start">
            {bad === 0 ? `Import ${rows(fresh)}` : `Import the ${rows(fresh)} in order, leave out ${bad}`}
          </Button>
        </PlainForm>
      )}
    </section>
  );
}
