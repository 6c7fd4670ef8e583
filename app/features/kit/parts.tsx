import { useState } from "react";
import { Link } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { Route } from "./+types/parts";
import { changePartSchema, countPartSchema, importPartsSchema, keepPartSchema, newPartSchema } from "./part-schema";
import { Button } from "~app/ui/button";
import { EntryForm } from "~app/ui/entry-form";
import { TextArea, TextField } from "~app/ui/field";
import { useEntry } from "~app/ui/use-entry";
import { partsOf } from "~db/queries/parts";
import { modelsOf } from "~db/queries/register";
import { fieldOf, answer, reading, who } from "~server/web";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { addPart, changePart, countPart, importParts, keepPart } from "~server/kit/parts";
import { MOST_PARTS, readPartsTable } from "~server/kit/parts-table";
import { Refused } from "~server/refused";
import { tableOfText } from "~server/table-text";
import { workshopOf } from "~server/workshop";

/** The workshop’s own parts: what lies on the shelf, and what is to be ordered. */
export async function loader({ context }: Route.LoaderArgs) {
  const person = who(context);
  const [rows, models, { currency }] = await reading(() =>
    Promise.all([
      partsOf(database(), person.workshop.id),
      modelsOf(database(), person.workshop.id),
      workshopOf(person),
    ]),
  );
  return {
    newId: uuidv7(),
    currency,
    models: models.map(({ id, maker, name }) => ({ id, name: `${maker} ${name}` })),
    parts: rows.map(({ workshopId: _, ...row }) => row),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const form = await formOf(request);
  switch (fieldOf(form, "intent")) {
    case "part-new":
      return answer(form, newPartSchema, ({ commandId, stock, ...input }) =>
        addPart(who(context), commandId, { ...input, stock: stock ?? 0 }),
      );
    case "part-change":
      return answer(form, changePartSchema, ({ commandId, ...input }) => changePart(who(context), commandId, input));
    case "part-count":
      return answer(form, countPartSchema, ({ commandId, ...input }) => countPart(who(context), commandId, input));
    case "part-import":
      return answer(form, importPartsSchema, async ({ commandId, table }) => {
        const models = await modelsOf(database(), who(context).workshop.id);
        const named = models.map((m) => ({ id: m.id, name: `${m.maker} ${m.name}` }));
        const { lines, faults } = readPartsTable(await tableOfText(table, MOST_PARTS, "table"), named);
        if (faults) throw new Refused(faults.join("\n"), "table");
        return importParts(who(context), commandId, lines);
      });
    case "part-keep":
      return answer(form, keepPartSchema, ({ commandId, ...input }) => keepPart(who(context), commandId, input));
    default:
      return answer(form, z.object({ intent: z.never() }), () => Promise.resolve("done" as const));
  }
}

export const meta: Route.MetaFunction = () => [{ title: "Parts · Nimble Gauge" }];

type Data = Route.ComponentProps["loaderData"];
type Part = Data["parts"][number];

export default function Parts({ loaderData }: Route.ComponentProps) {
  const { parts, newId, models, currency } = loaderData;
  const due = parts.filter(isDue);
  const about = { newId, models, currency };
  return (
    <main id="main" className="mx-auto grid max-w-4xl gap-6 p-4 wide:p-8">
      <header className="flex flex-wrap items-baseline justify-between gap-3">
        <h1 className="text-2xl font-bold">Parts</h1>
        <Link to="/kit" className="min-h-11 py-2 underline underline-offset-4">
          To the kit
        </Link>
      </header>
      {due.length > 0 && (
        <section aria-labelledby="order" className="grid gap-2 border-l-8 border-brass bg-brass-wash p-4">
          <h2 id="order" className="text-lg font-bold">
            To order
          </h2>
          <ul className="grid gap-1">
            {due.map((p) => (
              <li key={p.id}>
                {p.name} <span className="figure">{p.number}</span>: {p.stock} left, order at {p.reorderAt}
              </li>
            ))}
          </ul>
        </section>
      )}
      {parts.length === 0 ? (
        <p className="border-l-8 border-rule bg-sheet p-4">
          None yet. Parts that are on the list are taken from the shelf by the line of work that uses them.
        </p>
      ) : (
        <ul className="divide-y divide-rule border-y-2 border-rule bg-sheet">
          {parts.map((part) => (
            <PartRow key={part.id} part={part} {...about} />
          ))}
        </ul>
      )}
      <section aria-labelledby="new-part" className="grid gap-3">
        <h2 id="new-part" className="text-lg font-bold">
          Put a part on the list
        </h2>
        <NewPart {...about} />
      </section>
      <Table newId={newId} />
    </main>
  );
}

/** Out to any spreadsheet, and in again. */
function Table({ newId }: { newId: string }) {
  const entry = useEntry("part-import", "parts", newId, { onSaved: () => entry.attributes.ref.current?.reset() });
  const table = entry.field("table");
  return (
    <section aria-labelledby="table" className="grid gap-3">
      <h2 id="table" className="text-lg font-bold">
        As a table
      </h2>
      <a href="/parts/file" download className="inline-flex min-h-11 items-center underline underline-offset-4">
        Download the list (CSV)
      </a>
      <details open={table.errors ? true : undefined} className="border-y border-rule">
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Read a table in</summary>
        <EntryForm entry={entry} again className="grid gap-3 pb-3">
          <label className="grid gap-1.5">
            <span className="font-semibold">A file</span>
            <input
              type="file"
              accept=".csv,.txt,.tsv,text/csv,text/plain"
              onChange={(event) => void fileInto(event.currentTarget)}
            />
          </label>
          <TextArea
            field={table}
            label="Or pasted here"
            rows={6}
            hint="The first line names the columns: name, number, fits, stock, order_at, price. A part of the same name and number is that part; its shelf is counted anew. All lines are taken, or none."
          />
          <Button disabled={entry.busy} className="justify-self-start">
            Read it in
          </Button>
        </EntryForm>
      </details>
    </section>
  );
}

/** A chosen file stands in the field below, to be looked at before it is sent. */
async function fileInto(input: HTMLInputElement): Promise<void> {
  const text = await input.files?.[0]?.text();
  const field = input.form?.elements.namedItem("table") as HTMLTextAreaElement | null;
  if (text === undefined || !field) return;
  field.value = text;
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

const isDue = (p: Part) => p.reorderAt !== null && p.stock <= p.reorderAt;

type About = Pick<Data, "newId" | "models" | "currency">;

function PartRow({ part, ...about }: { part: Part } & About) {
  const [changing, setChanging] = useState(false);
  const count = useEntry("part-count", "parts", about.newId, { key: `part-count-${part.id}` });
  const keep = useEntry("part-keep", "parts", about.newId, { key: `part-keep-${part.id}` });
  const fits = about.models.filter((m) => part.fits.includes(m.id)).map((m) => m.name);
  return (
    <li className="grid gap-3 px-4 py-3">
      <div className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <p>
          <strong>{part.name}</strong> <span className="figure">{part.number}</span>
          <span className="block text-sm text-soft">
            {fits.length > 0 ? fits.join(", ") : "any model"}
            {part.price !== null && about.currency && `, ${about.currency} ${part.price.toFixed(2)}`}
            {part.reorderAt !== null && `, order at ${part.reorderAt}`}
          </span>
        </p>
        <div className="flex flex-wrap items-end gap-2">
          <EntryForm entry={count} className="flex items-end gap-2">
            <input type="hidden" name="id" value={part.id} />
            <div className="w-24">
              <TextField
                field={count.field("stock")}
                label={
                  <>
                    On the shelf<span className="sr-only">: {part.name}</span>
                  </>
                }
                inputMode="numeric"
                defaultValue={String(part.stock)}
                key={part.stock}
              />
            </div>
            <Button disabled={count.busy}>
              Count<span className="sr-only"> {part.name}</span>
            </Button>
          </EntryForm>
          <Button type="button" look="quiet" aria-expanded={changing} onClick={() => setChanging(!changing)}>
            Change<span className="sr-only"> {part.name}</span>
          </Button>
        </div>
      </div>
      {changing && (
        <div className="grid gap-3 border-l-4 border-rule pl-3">
          <PartForm intent="part-change" part={part} onDone={() => setChanging(false)} {...about} />
          <EntryForm entry={keep}>
            <input type="hidden" name="id" value={part.id} />
            <Button name="active" value="no" look="quiet" disabled={keep.busy}>
              Put it away: lines that name it keep it
            </Button>
          </EntryForm>
        </div>
      )}
    </li>
  );
}

function NewPart(about: About) {
  const [made, setMade] = useState(0);
  return <PartForm key={made} intent="part-new" onDone={() => setMade(made + 1)} {...about} />;
}

function PartForm({
  intent,
  part,
  onDone,
  newId,
  models,
  currency,
}: About & { intent: "part-new" | "part-change"; part?: Part; onDone: () => void }) {
  const entry = useEntry(intent, "parts", newId, { key: `${intent}-${part?.id ?? "new"}`, onSaved: onDone });
  const { field } = entry;
  const was = (value: string | number | null | undefined) => (value == null ? {} : { defaultValue: String(value) });
  return (
    <EntryForm entry={entry} className="grid gap-3">
      {part && <input type="hidden" name="id" value={part.id} />}
      <div className="grid items-start gap-3 sm:grid-cols-2">
        <TextField field={field("name")} label="Name" {...was(part?.name)} />
        <TextField field={field("number")} label="Number" {...was(part?.number)} />
        {!part && <TextField field={field("stock")} label="On the shelf" inputMode="numeric" />}
        <TextField
          field={field("reorderAt")}
          label="Order at"
          hint="It is on the list to order once no more are left."
          inputMode="numeric"
          {...was(part?.reorderAt)}
        />
        {currency && (
          <TextField field={field("price")} label={`Price, ${currency}`} inputMode="decimal" {...was(part?.price)} />
        )}
      </div>
      {models.length > 0 && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
            Fits {part && part.fits.length > 0 ? `${part.fits.length} models` : "any model"}
          </summary>
          <div className="grid gap-1 sm:grid-cols-2">
            {models.map((m) => (
              <label key={m.id} className="flex min-h-11 items-center gap-3">
                <input
                  type="checkbox"
                  name="fits"
                  value={m.id}
                  defaultChecked={part?.fits.includes(m.id) ?? false}
                  className="size-6 accent-ink"
                />
                {m.name}
              </label>
            ))}
          </div>
        </details>
      )}
      <Button disabled={entry.busy} className="justify-self-start">
        {part ? "Save the part" : "Put it on the list"}
      </Button>
    </EntryForm>
  );
}
