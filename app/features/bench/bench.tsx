import { useId, useRef, useState } from "react";
import { Link, useFetcher } from "react-router";
import type { Route } from "./+types/bench";
import { findMachines } from "~db/queries/register";
import { BenchTile } from "~app/ui/bench-tile";
import { ButtonLink } from "~app/ui/button";
import { Clock, Day } from "~app/ui/dates";
import { useDue } from "~app/ui/clock";
import { useKeys } from "~app/ui/keys";
import { type ListedMachine, MachineRow } from "~app/ui/machine-row";
import { KINDS } from "~core/kind";
import { database } from "~server/database";
import { KEY_FOLDER } from "~server/keys";
import { may } from "~server/permissions";
import { lastLook } from "~server/proof/memory";
import { benchOf } from "~server/jobs/views/bench";
import { markIn, pageAfter } from "~server/keyset";
import { reading, who } from "~server/web";

const FEW = 12;

/** Home: the machines in hand, those ready for hands first, and the register to start from. */
export async function loader({ context, request }: Route.LoaderArgs) {
  const person = who(context);
  const { workshop, preferences } = person;
  // Whoever leads hears at once that records do not hold.
  const look = may(person, "workshop") ? lastLook(KEY_FOLDER(), workshop.id) : null;
  const at = Date.now();
  const after = markIn(new URL(request.url).searchParams);
  return reading(async () => {
    const [bench, found] = await Promise.all([
      benchOf(workshop.id, { now: at, after }),
      findMachines(database(), workshop.id, { text: "", after: null, limit: FEW }),
    ]);
    const machines: ListedMachine[] = found.map(({ search: _, kind, ...m }) => ({
      ...m,
      kind: KINDS[kind]?.label ?? kind,
    }));
    const { tiles, open, over, next } = bench;
    return {
      at,
      tiles,
      machines,
      workshop: workshop.name,
      unit: preferences.pressureUnit,
      first: !after,
      open,
      over,
      next: next && pageAfter(next),
      forged: look !== null && look.found.length > 0,
    };
  });
}

export const handle = {
  keys: [
    { action: "search" },
    { keys: "Tab", does: "From one machine to the next" },
    { keys: "Enter", does: "Open it" },
  ],
};

export const meta: Route.MetaFunction = () => [{ title: "Bench · Nimble Gauge" }];

export default function Bench({ loaderData }: Route.ComponentProps) {
  const { tiles, machines, unit, at, first, next, open, over, forged, workshop } = loaderData;
  const search = useRef<HTMLInputElement>(null);
  useKeys({ search: () => search.current?.focus() });
  useDue(
    tiles.flatMap((t) => [t.until, ...t.clocks.map((c) => c.dueAt)]).filter((m) => m !== null),
    at,
  );
  const ready = tiles.filter((t) => t.until === null);
  const waiting = tiles.filter((t) => t.until !== null);
  return (
    <main id="main" className="grid gap-8 p-4 wide:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] wide:gap-10 wide:p-8">
      <section aria-labelledby="in-hand" className="grid content-start gap-3">
        <h1 id="in-hand" className="text-2xl font-bold">
          On the bench
        </h1>
        <p className="hidden print:block">
          {workshop}, <Day iso={new Date(at).toISOString()} /> <Clock iso={new Date(at).toISOString()} />
        </p>
        {forged && (
          <p role="alert" className="border-l-8 border-alarm bg-alarm-wash p-4 font-semibold">
            Signed records were changed behind the application.{" "}
            <Link to="/workshop#records" className="underline underline-offset-4">
              What and where
            </Link>
          </p>
        )}
        {tiles.length === 0 && (
          <p className="border-l-8 border-rule bg-sheet p-4">
            Nothing is in hand. Open a machine from the register and start a job there.
          </p>
        )}
        {ready.length > 0 && <Tiles name="Needs you" tiles={ready} unit={unit} at={at} />}
        {waiting.length > 0 && <Tiles name="Timer running" tiles={waiting} unit={unit} at={at} />}
        {(next !== null || !first) && (
          <nav aria-label="Pages of the bench" className="no-print flex flex-wrap items-center gap-x-4">
            <span className="text-soft">
              {over ? "Over " : ""}
              {open} jobs are open, newest first.
            </span>
            {!first && (
              <Link to="/" className="min-h-11 py-2 underline underline-offset-4">
                To the newest
              </Link>
            )}
            {next && (
              <Link to={`/?${next}`} className="min-h-11 py-2 underline underline-offset-4">
                Earlier ones
              </Link>
            )}
          </nav>
        )}
      </section>
      <Register machines={machines} search={search} />
    </main>
  );
}

function Tiles({
  name,
  tiles,
  unit,
  at,
}: {
  name: string;
  tiles: Route.ComponentProps["loaderData"]["tiles"];
  unit: string;
  at: number;
}) {
  return (
    <section aria-label={name} className="grid gap-2">
      <h2 className="text-sm font-bold text-soft">{name}</h2>
      <ul className="grid gap-3 sm:grid-cols-2 print:grid-cols-2">
        {tiles.map((tile) => (
          <li key={tile.jobId}>
            <BenchTile tile={tile} unit={unit} at={at} wide />
          </li>
        ))}
      </ul>
    </section>
  );
}

type Found = { text: string; machines: ListedMachine[] };

function Register({
  machines,
  search,
}: {
  machines: ListedMachine[];
  search: React.RefObject<HTMLInputElement | null>;
}) {
  const [text, setText] = useState("");
  const fetcher = useFetcher<Found>();
  const inputId = useId();
  const found = text.trim() === "" ? machines : (fetcher.data?.machines ?? machines);
  const settled = text.trim() === "" || fetcher.data?.text === text;
  return (
    <section aria-labelledby="register" className="no-print grid content-start gap-3">
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2">
        <h2 id="register" className="text-2xl font-bold">
          <Link
            to="/register"
            className="underline decoration-edge decoration-1 underline-offset-4 hover:decoration-ink"
          >
            Register
          </Link>
        </h2>
        <div className="min-w-52 flex-1">
          <label htmlFor={inputId} className="sr-only">
            Search site, owner, model, serial or town
          </label>
          <input
            id={inputId}
            ref={search}
            type="search"
            autoComplete="off"
            enterKeyHint="search"
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              if (e.target.value.trim() !== "")
                void fetcher.load(`/register?${new URLSearchParams({ q: e.target.value, few: "1" })}`);
            }}
            placeholder="Site, owner, model, serial, town"
            className="min-h-11 w-full rounded-md border-2 border-edge bg-sheet px-3"
          />
        </div>
        <ButtonLink to="/machines/new">Add a machine</ButtonLink>
      </div>
      <p role="status" className="sr-only">
        {settled ? `${found.length} ${found.length === 1 ? "machine" : "machines"} found` : "Searching"}
      </p>
      {found.length === 0 && settled && (
        <p className="bg-sheet p-4">
          {text
            ? `No machine here matches “${text}”. Clear the search, or add it.`
            : "The register is empty. Add the first machine."}
        </p>
      )}
      <ul className={`divide-y divide-rule bg-sheet ${settled ? "" : "opacity-60"}`}>
        {found.map((m) => (
          <MachineRow key={m.id} machine={m} />
        ))}
      </ul>
      {found.length >= FEW && (
        <Link
          to={`/register?${new URLSearchParams({ q: text })}`}
          className="min-h-11 py-2 underline underline-offset-4"
        >
          All of them
        </Link>
      )}
    </section>
  );
}
