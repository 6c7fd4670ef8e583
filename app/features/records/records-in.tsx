import { Button } from "~app/ui/button";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";
import type { RecordsFound } from "~server/intake/records/work";

const count = (n: number, one: string) => `${n.toLocaleString("en")} ${one}${n === 1 ? "" : "s"}`;
const words = (section: string) => section.replaceAll("_", " ");
const SHOWN = 40;

interface Shown {
  readonly found: Partial<RecordsFound>;
  /** By `section id`: whose was chosen. */
  readonly chosen: Readonly<Record<string, string>>;
}

/** Records that came as JSON: what is new, what is here already, and what has to be chosen before any of it is stored. */
export function RecordsIn({ found, chosen }: Shown) {
  const { fresh = 0, known = 0, kept = 0, misfits = [], blocked = [], differing = [], doubles = [] } = found;
  const { signed = 0, proven = 0 } = found;
  const open = differing.filter((d) => !chosen[`${d.section} ${d.id}`]).length;
  const ready = misfits.length + blocked.length + doubles.length + open === 0;
  return (
    <div className="grid gap-6">
      <section aria-labelledby="what" className="grid gap-2 border-l-8 border-brass bg-sheet p-4">
        <h2 id="what" className="text-xl font-bold">
          {misfits.length > 0 ? "This file is not in order" : `${count(fresh, "new record")}`}
        </h2>
        <p>
          {known > 0 && `${count(known, "record")} are here already, just the same. `}
          {kept > 0 && `${count(kept, "record")} say something else here and never change: those here stay. `}
          Nothing is stored yet.
        </p>
        {signed > 0 && (
          <p>
            {proven === signed
              ? `All ${count(signed, "signed visit")} are proven by the keys in the file.`
              : `${signed - proven} of ${count(signed, "signed visit")} are not proven by the keys in the file.`}
          </p>
        )}
      </section>
      {misfits.length > 0 && (
        <ul className="grid gap-1 bg-sheet p-4">
          {misfits.slice(0, SHOWN).map((m) => (
            <li key={`${m.section} ${m.no} ${m.what}`}>
              {words(m.section)}, row {m.no}: {m.what}
            </li>
          ))}
        </ul>
      )}
      {blocked.map((b) => (
        <p key={b} className="border-l-8 border-alarm bg-alarm-wash p-3">
          {b}
        </p>
      ))}
      {doubles.length > 0 && <Doubles doubles={doubles} />}
      {differing.length > 0 && doubles.length === 0 && <Differing differing={differing} chosen={chosen} />}
      {ready && <Store fresh={fresh} changed={Object.values(chosen).filter((c) => c === "theirs").length} />}
    </div>
  );
}

function Store({ fresh, changed }: { fresh: number; changed: number }) {
  const form = usePlainForm("records-store");
  return (
    <PlainForm form={form}>
      <Button look="main" disabled={form.busy} className="justify-self-start">
        {fresh + changed === 0 ? "Close: all of it is here" : `Import ${count(fresh + changed, "record")}`}
      </Button>
    </PlainForm>
  );
}

function Doubles({ doubles }: { doubles: RecordsFound["doubles"] }) {
  const form = usePlainForm("records-choose");
  return (
    <PlainForm form={form} className="grid gap-3 bg-sheet p-4">
      <h2 className="text-xl font-bold">The same name is here already</h2>
      <p>
        Tick what is the same thing as here: what belongs to it in the file goes to the one here. Of what is another
        thing, change the name here first, then import the file again.
      </p>
      {doubles.map((d, i) => (
        <label key={d.theirs} className="flex min-h-11 items-center gap-3">
          <input type="checkbox" name={`same.d${i}`} value="yes" className="size-6 accent-ink" />
          {d.name} <span className="text-soft">({words(d.section)})</span>
        </label>
      ))}
      <Button disabled={form.busy} className="justify-self-start">
        Those ticked are the same
      </Button>
    </PlainForm>
  );
}

function Differing({ differing, chosen }: { differing: RecordsFound["differing"]; chosen: Shown["chosen"] }) {
  const form = usePlainForm("records-choose");
  return (
    <PlainForm form={form} keeps className="grid gap-4 bg-sheet p-4">
      <h2 className="text-xl font-bold">Different here and in the file</h2>
      <p>Choose for each which is right.</p>
      {differing.map((d, i) => (
        <fieldset key={d.id} className="grid gap-1 border-t border-rule pt-3">
          <legend className="sr-only">
            {d.name}, {words(d.section)}
          </legend>
          <p className="font-semibold">
            {d.name} <span className="font-normal text-soft">({words(d.section)})</span>
          </p>
          <ul className="text-sm">
            {d.what.map((w) => (
              <li key={w}>{w}</li>
            ))}
          </ul>
          <div className="flex flex-wrap gap-x-6">
            {(["ours", "theirs"] as const).map((whose) => (
              <label key={whose} className="flex min-h-11 items-center gap-3">
                <input
                  type="radio"
                  name={`choice.c${i}`}
                  value={whose}
                  defaultChecked={chosen[`${d.section} ${d.id}`] === whose}
                  className="size-6 accent-ink"
                />
                {whose === "ours" ? "As here" : "As in the file"}
              </label>
            ))}
          </div>
        </fieldset>
      ))}
      <Button disabled={form.busy} className="justify-self-start">
        Keep these choices
      </Button>
    </PlainForm>
  );
}
