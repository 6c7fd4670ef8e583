import { useRef } from "react";
import { Link } from "react-router";
import type { Route } from "./+types/register";
import { findMachines } from "~db/queries/register";
import { ButtonLink } from "~app/ui/button";
import { useKeys } from "~app/ui/keys";
import { MachineRow } from "~app/ui/machine-row";
import { RegisterSearch } from "~app/ui/register-search";
import { KINDS } from "~core/kind";
import { database } from "~server/database";
import { id, reading, who } from "~server/web";

const PAGE = 50;

/** The whole register, by pages; also what the bench asks for as somebody types. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { workshop } = who(context);
  const asked = new URL(request.url).searchParams;
  const text = (asked.get("q") ?? "").slice(0, 100);
  const [search, last] = [asked.get("after"), id.safeParse(asked.get("id"))];
  const after = search && last.success ? { search, id: last.data } : null;
  const limit = asked.has("few") ? 12 : PAGE;
  const found = await reading(() => findMachines(database(), workshop.id, { text, after, limit: limit + 1 }));
  const shown = found.slice(0, limit);
  const end = shown.at(-1);
  return {
    text,
    machines: shown.map(({ search: _, kind, ...m }) => ({ ...m, kind: KINDS[kind]?.label ?? kind })),
    next:
      found.length > limit && end ? new URLSearchParams({ q: text, after: end.search, id: end.id }).toString() : null,
    first: !after,
  };
}

export const handle = { keys: [{ action: "search" }] };
export const meta: Route.MetaFunction = () => [{ title: "Register · Nimble Gauge" }];

export default function Register({ loaderData }: Route.ComponentProps) {
  const { machines, text, next, first } = loaderData;
  const search = useRef<HTMLInputElement>(null);
  useKeys({ search: () => search.current?.focus() });
  return (
    <main id="main" className="mx-auto grid max-w-4xl grid-cols-1 gap-5 p-4 wide:p-8">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-2xl font-bold">Register</h1>
        <div className="flex flex-wrap gap-2">
          <ButtonLink to="/labels">Print labels</ButtonLink>
          <ButtonLink to="/register/import">From a spreadsheet</ButtonLink>
          <ButtonLink to="/machines/new" look="main">
            Add a machine
          </ButtonLink>
        </div>
      </div>
      <RegisterSearch text={text} ref={search} />
      {machines.length === 0 ? (
        <p className="bg-sheet p-4">
          {text ? `No machine here matches “${text}”.` : "The register is empty. Add the first machine."}
        </p>
      ) : (
        <ul className="divide-y divide-rule bg-sheet">
          {machines.map((m) => (
            <MachineRow key={m.id} machine={m} />
          ))}
        </ul>
      )}
      <nav aria-label="Pages" className="flex gap-3">
        {!first && (
          <Link to={`?${new URLSearchParams({ q: text })}`} className="min-h-11 py-2 underline underline-offset-4">
            To the beginning
          </Link>
        )}
        {next && (
          <Link to={`?${next}`} className="min-h-11 py-2 underline underline-offset-4">
            Next page
          </Link>
        )}
      </nav>
    </main>
  );
}
