import { redirect } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { Route } from "./+types/owner";
import { emailField, phoneField } from "./machine-schema";
import { Reach } from "./reach";
import { usePlaces } from "./use-places";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { TextField } from "~app/ui/field";
import { Export } from "~app/ui/export";
import { MachineRow } from "~app/ui/machine-row";
import { KINDS } from "~core/kind";
import { ownerWithMachines } from "~db/queries/owners";
import { formOf } from "~server/body";
import { database } from "~server/database";
import { said, text } from "~server/fields";
import { changeOwner, mergeOwner } from "~server/machines/owners";
import { may } from "~server/permissions";
import { answer, answerFor, commandId, fieldOf, id, notFound, reading, who } from "~server/web";

/** One owner: how they are reached, what is theirs, and another entry that is the same person. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const person = who(context);
  const ownerId = id.safeParse(params.ownerId);
  if (!ownerId.success) throw notFound();
  const found = await reading(() => ownerWithMachines(database(), person.workshop.id, ownerId.data));
  if (!found) throw notFound();
  if (found.mergedInto) throw redirect(`/owners/${found.mergedInto}`);
  const { id: own, name, phone, email, contact, machines } = found;
  return {
    owner: { id: own, name, phone, email, contact },
    machines: machines.map(({ kind, ...m }) => ({ ...m, kind: KINDS[kind]?.label ?? kind })),
    merges: may(person, "register"),
    newId: uuidv7(),
  };
}

const schema = z.object({
  commandId,
  name: said(120, 1, "Type the owner’s name."),
  phone: phoneField,
  email: emailField,
  contact: text(200).default(""),
});
const mergeSchema = z.object({ commandId, into: said(120, 1, "Type the name of the other entry.") });

export async function action({ params, context, request }: Route.ActionArgs) {
  const ownerId = id.safeParse(params.ownerId);
  if (!ownerId.success) throw notFound();
  const form = await formOf(request);
  if (fieldOf(form, "intent") === "merge")
    return answerFor(
      { person: () => who(context), right: "register" },
      form,
      mergeSchema,
      ({ commandId, ...input }, by) => mergeOwner(by, commandId, ownerId.data, input),
    );
  return answer(form, schema, ({ commandId, ...input }) => changeOwner(who(context), commandId, ownerId.data, input));
}

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.owner.name ?? "Owner"} · Nimble Gauge` },
];

export default function Owner({ loaderData }: Route.ComponentProps) {
  const { owner, machines, merges, newId } = loaderData;
  const entry = useEntry("owner", owner.id, newId);
  const { field } = entry;
  return (
    <main id="main" className="mx-auto grid max-w-3xl gap-6 p-4 wide:p-8">
      <div>
        <h1 className="text-3xl font-bold tracking-tight">{owner.name}</h1>
        <Reach {...owner} />
        <a
          href={`/owners/${owner.id}/contact`}
          download
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          Save as a contact (vCard)
        </a>
      </div>
      <section aria-labelledby="theirs" className="grid gap-2">
        <h2 id="theirs" className="text-xl font-bold">
          Machines
        </h2>
        {machines.length === 0 ? (
          <p className="bg-sheet p-4">No machine is theirs now.</p>
        ) : (
          <ul className="divide-y divide-rule bg-sheet">
            {machines.map((m) => (
              <MachineRow key={m.id} machine={m} />
            ))}
          </ul>
        )}
      </section>
      <EntryForm key={JSON.stringify(owner)} entry={entry} className="grid gap-3 bg-sheet p-4 sm:grid-cols-2">
        <h2 className="text-xl font-bold sm:col-span-2">Details</h2>
        <TextField field={field("name")} label="Name" defaultValue={owner.name} autoComplete="off" />
        <TextField field={field("phone")} label="Phone" type="tel" defaultValue={owner.phone} autoComplete="off" />
        <TextField field={field("email")} label="Email" type="email" defaultValue={owner.email} autoComplete="off" />
        <TextField field={field("contact")} label="Address, or other" defaultValue={owner.contact} autoComplete="off" />
        <Button disabled={entry.busy} className="justify-self-start sm:col-span-2">
          Save
        </Button>
      </EntryForm>
      <details className="bg-sheet px-4">
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Export the machines of {owner.name}</summary>
        <div className="pb-4">
          <Export scope={`owner:${owner.id}`} newId={newId} />
        </div>
      </details>
      {merges && <Merge ownerId={owner.id} name={owner.name} newId={newId} />}
    </main>
  );
}

function Merge({ ownerId, name, newId }: { ownerId: string; name: string; newId: string }) {
  const entry = useEntry("merge", ownerId, newId);
  const [places, lookFor] = usePlaces();
  const { field } = entry;
  const names = [...new Set(places.map((p) => p.owner))].filter((o) => o !== name);
  return (
    <details open={field("into").errors ? true : undefined} className="bg-sheet px-4">
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">The same owner stands here twice</summary>
      <EntryForm entry={entry} className="grid gap-3 pb-4">
        <p>
          All machines of {name} go to the other entry, and the name leads there from now on. Signed reports stay as
          they are. This can’t be taken back.
        </p>
        <TextField
          field={field("into")}
          label="Name of the entry that stays"
          list="others"
          autoComplete="off"
          onInput={(e) => lookFor({ owner: e.currentTarget.value, site: "" })}
        />
        <datalist id="others">
          {names.map((o) => (
            <option key={o} value={o} />
          ))}
        </datalist>
        <Button disabled={entry.busy} className="justify-self-start">
          Merge into that entry
        </Button>
      </EntryForm>
    </details>
  );
}
