import { Link, redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/machines-in";
import { type Found, writeMachines } from "./machines-in.server";
import { TABLE_BYTES } from "./machines-in-schema";
import { Button } from "~app/ui/button";
import { Columns, TableFile } from "~app/ui/columns";
import { FieldError, SelectField } from "~app/ui/field";
import { usePlainForm } from "~app/ui/plain-form";
import { useFound, usePostedFound, useTableForm } from "~app/ui/use-table-form";
import { DAY_ORDER_WORDS, REGISTER_FIELDS, REGISTER_FIELD_IDS } from "~core/intake";
import { KINDS, KIND_IDS } from "~core/kind";
import { modelsOf } from "~db/queries/register";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { reading, who } from "~server/web";

/** A spreadsheet of machines on its way into the register: the file, what its columns and models are, and what is wrong in which line. */
export async function loader({ context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  const models = await reading(() => modelsOf(database(), workshop.id));
  return { newId: uuidv7(), models: models.map((m) => ({ id: m.id, words: `${m.maker} ${m.name}` })) };
}

export async function action({ request, context }: Route.ActionArgs) {
  const reply = await writeMachines(() => who(context), await formOf(request, TABLE_BYTES));
  const saved = !(reply instanceof Response) && reply.data.outcome === "saved" && reply.data.intent === "save";
  return saved ? redirect("/register") : reply;
}

export const meta: Route.MetaFunction = () => [{ title: "Machines from a spreadsheet · Nimble Gauge" }];

export default function MachinesIn({ loaderData }: Route.ComponentProps) {
  const form = usePlainForm<{ found: Found }>("look");
  const posted = usePostedFound<Found>();
  const shown = useFound(form.answer?.found ?? posted);
  return (
    <main id="main" className="mx-auto grid max-w-3xl gap-6 p-4 wide:p-8">
      <div>
        <Link to="/register" className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4">
          Back to the register
        </Link>
        <h1 className="text-2xl font-bold tracking-tight">Machines from a spreadsheet</h1>
      </div>
      <TableFile
        form={form}
        label="CSV file"
        hint="A machine a row: serial, model, owner, site and town; more where it is known. Nothing is stored before you have seen it."
      />
      {shown && <Understood key={shown.text} first={shown} loaded={loaderData} />}
    </main>
  );
}

function Understood({ first, loaded }: { first: Found; loaded: Route.ComponentProps["loaderData"] }) {
  const { Form, busy, found, field, ...form } = useTableForm("machines", first);
  const look = (of: HTMLFormElement) => form.look(of, "look", ["commandId"]);
  const { heads, lines, plan, orders, order, asked } = found;
  return (
    <Form method="post" encType="multipart/form-data" className="grid gap-4">
      <input type="hidden" name="commandId" value={loaded.newId} />
      <textarea hidden readOnly name="text" value={found.text} />
      <section aria-labelledby="columns" className="grid gap-3 bg-sheet p-4">
        <h2 id="columns" className="text-lg font-bold">
          What its columns are
        </h2>
        <Columns
          {...{ heads, lines, plan }}
          options={REGISTER_FIELD_IDS.map((id) => [id, REGISTER_FIELDS[id]])}
          onChange={look}
        />
        <FieldError field={field("column")} />
      </section>
      {orders.length > 0 && (
        <SelectField
          field={field("dayOrder")}
          label="Days are written as"
          defaultValue={order ?? ""}
          onChange={(e) => look(e.currentTarget.form!)}
        >
          <option value="">choose</option>
          {orders.map((one) => (
            <option key={one} value={one}>
              {DAY_ORDER_WORDS[one]}
            </option>
          ))}
        </SelectField>
      )}
      {asked.length > 0 && <Models {...{ asked, loaded, look }} problem={field("model")} />}
      <Outcome found={found} />
      <FieldError field={field("")} />
      <Button look="main" name="intent" value="save" disabled={busy} className="justify-self-start">
        {busy ? "One moment …" : `Add ${found.good} to the register`}
      </Button>
    </Form>
  );
}

interface ModelsOf {
  asked: Found["asked"];
  loaded: Route.ComponentProps["loaderData"];
  look: (form: HTMLFormElement) => void;
  problem: { id: string; errorId: string; name: string; errors: string[] | undefined };
}

/** Models that the library does not have by that name: another name for one it has, or a new one of a kind. */
function Models({ asked, loaded, look, problem }: ModelsOf) {
  return (
    <section aria-labelledby="models" className="grid gap-3 bg-sheet p-4">
      <h2 id="models" className="text-lg font-bold">
        Models that are not in the library
      </h2>
      <div className="grid gap-3 sm:grid-cols-2">
        {asked.map(({ words, chosen }, i) => (
          <SelectField
            key={words}
            field={{ id: `m${i}`, errorId: `m${i}-error`, name: `model.m${i}`, errors: undefined }}
            label={words}
            defaultValue={chosen ?? ""}
            onChange={(e) => look(e.currentTarget.form!)}
          >
            <option value="">choose</option>
            <optgroup label="In the library">
              {loaded.models.map((m) => (
                <option key={m.id} value={m.id}>
                  {m.words}
                </option>
              ))}
            </optgroup>
            <optgroup label="A new model, of the kind">
              {KIND_IDS.map((id) => (
                <option key={id} value={id}>
                  {KINDS[id].label}
                </option>
              ))}
            </optgroup>
          </SelectField>
        ))}
      </div>
      <FieldError field={problem} />
    </section>
  );
}

/** What of it would be added, what is here already, and what is wrong in which line. */
function Outcome({ found }: { found: Found }) {
  const { rows, good, here, wrong, faults, needs } = found;
  const waiting = rows - good - here - new Set(faults.map((f) => f.line)).size;
  return (
    <section aria-labelledby="outcome" className="grid gap-3">
      <h2 id="outcome" className="text-lg font-bold">
        {rows} {rows === 1 ? "row" : "rows"}
      </h2>
      <p role="status">
        {good} to add. {here > 0 && `${here} in the register already: left as they are. `}
        {wrong > 0 && `${wrong} ${wrong === 1 ? "fault" : "faults"}. `}
        {wrong === 0 && waiting > 0 && `${waiting} wait for an answer above. `}
        {needs.length > 0 && `No column yet for: ${needs.join(", ").toLowerCase()}.`}
      </p>
      {faults.length > 0 && needs.length === 0 && (
        <div
          role="region"
          aria-label="Faults by line"
          tabIndex={0}
          className="overflow-x-auto border-l-4 border-alarm bg-sheet"
        >
          <table className="w-full text-left text-sm">
            <thead>
              <tr className="border-b border-rule">
                {["Line", "Column", "Typed", "What is wrong"].map((head) => (
                  <th key={head} scope="col" className="px-3 py-2">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {faults.map((f, i) => (
                <tr key={i} className="border-b border-rule align-top">
                  <td className="figure px-3 py-2">{f.line}</td>
                  <td className="px-3 py-2">{f.column}</td>
                  <td className="px-3 py-2">{f.typed || "empty"}</td>
                  <td className="px-3 py-2">{f.reason}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {wrong > faults.length && <p className="text-soft">These are the first {faults.length}.</p>}
    </section>
  );
}
