import { useId, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import type { Route } from "./+types/bench";
import { BenchTile } from "~app/ui/bench-tile";
import { useKeys } from "~app/ui/keys";
import { useNews } from "~app/ui/use-news";
import { registerOf, tilesOf } from "~server/jobs/bench";
import { reading, who } from "~server/web";

/** Home: the machines in hand, and the register to start from. */
export async function loader({ context }: Route.LoaderArgs) {
  const person = who(context);
  return reading(async () => {
    const [tiles, machines] = await Promise.all([tilesOf(person.workshop.id), registerOf(person.workshop.id)]);
    return { tiles, machines, unit: person.preferences.pressureUnit };
  });
}

export const handle = {
  keys: [
    { keys: "/", does: "Search the register" },
    { keys: "Tab", does: "From one machine to the next" },
    { keys: "Enter", does: "Open it" },
  ],
};

export const meta: Route.MetaFunction = () => [{ title: "Bench · Nimble Gauge" }];

export default function Bench({ loaderData }: Route.ComponentProps) {
  const { tiles, machines, unit } = loaderData;
  const search = useRef<HTMLInputElement>(null);
  useNews("/news");
  useKeys({ "/": () => search.current?.focus() });
  return (
    <main id="main" className="grid gap-8 p-4 wide:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] wide:gap-10 wide:p-8">
      <section aria-labelledby="in-hand">
        <h1 id="in-hand" className="mb-3 text-2xl font-bold">
          On the bench
        </h1>
        {tiles.length === 0 ? (
          <p className="border-l-8 border-rule bg-sheet p-4">
            Nothing is in hand. Open a machine from the register and start a service there.
          </p>
        ) : (
          <ul className="grid gap-3 sm:grid-cols-2">
            {tiles.map((tile) => (
              <li key={tile.jobId}>
                <BenchTile tile={tile} unit={unit} wide />
              </li>
            ))}
          </ul>
        )}
      </section>
      <Register machines={machines} search={search} />
    </main>
  );
}

type Machine = Route.ComponentProps["loaderData"]["machines"][number];

function Register({ machines, search }: { machines: Machine[]; search: React.RefObject<HTMLInputElement | null> }) {
  const [text, setText] = useState("");
  const inputId = useId();
  const found = useMemo(() => machines.filter((m) => matches(m, text)), [machines, text]);
  return (
    <section aria-labelledby="register">
      <div className="mb-3 flex flex-wrap items-end justify-between gap-x-4 gap-y-2">
        <h2 id="register" className="text-2xl font-bold">
          Register
        </h2>
        <div className="min-w-56 flex-1">
          <label htmlFor={inputId} className="sr-only">
            Search site, owner, model, serial or town
          </label>
          <input
            id={inputId}
            ref={search}
            type="search"
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder="Site, owner, model, serial, town"
            className="min-h-11 w-full rounded-md border-2 border-edge bg-sheet px-3"
          />
        </div>
      </div>
      <p role="status" className="sr-only">
        {found.length} {found.length === 1 ? "machine" : "machines"} found
      </p>
      {found.length === 0 && (
        <p className="bg-sheet p-4">No machine here matches “{text}”. Clear the search to see all.</p>
      )}
      <ul className="divide-y divide-rule bg-sheet">
        {found.map((m) => (
          <li key={m.id}>
            <Link
              to={`/machines/${m.id}`}
              className="grid min-h-14 grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 px-3 py-2 hover:bg-well"
            >
              <span className="min-w-0">
                <span className="block truncate font-semibold">
                  {m.site}
                  <span className="font-normal text-soft">, {m.town}</span>
                </span>
                <span className="block truncate text-sm text-soft">
                  {m.maker} {m.model}, {m.kind.toLowerCase()}
                </span>
              </span>
              <span className="figure text-sm">{m.serial}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function matches(m: Machine, text: string): boolean {
  const all = `${m.site} ${m.owner} ${m.maker} ${m.model} ${m.serial} ${m.town} ${m.kind}`.toLowerCase();
  return text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
}
