import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { Link, useNavigate, useNavigation } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/sheet";
import { Gauge } from "./gauge";
import { StationList } from "./stations";
import type { Correcting } from "./log";
import { loadSheet, postedOf, writeTo } from "./sheet.server";
import { BenchTile } from "~app/ui/bench-tile";
import { useKeys } from "~app/ui/keys";
import { whenDrawn } from "~app/ui/lazy-part";
import { NOTED, unlessAnswered } from "~app/ui/shown";
import { useDue } from "~app/ui/clock";
import { id, notFound, reading, who } from "~server/web";

/** The job sheet: bench, sheet and instrument, three zones of one page. */
export async function loader({ params, context, request }: Route.LoaderArgs) {
  const person = who(context);
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  const asked = new URL(request.url).searchParams;
  const loaded = await reading(() =>
    loadSheet(person, jobId.data, {
      picked: asked.get("at") ?? undefined,
      loop: asked.get("loop") ?? undefined,
    }),
  );
  if (!loaded) throw notFound();
  return {
    ...loaded,
    shows: { jobId: loaded.sheet.job.id, revision: loaded.sheet.job.revision },
    person: person.name,
    unit: person.preferences.pressureUnit,
    newId: uuidv7(),
    origin: new URL(request.url).origin,
  };
}

export async function action({ params, context, request }: Route.ActionArgs) {
  const jobId = id.safeParse(params.jobId);
  if (!jobId.success) throw notFound();
  return writeTo(() => who(context), jobId.data, await postedOf(request));
}

export const shouldRevalidate = unlessAnswered;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.sheet.machine.site ?? "Job"} · Nimble Gauge` },
];

export const handle = {
  zoned: true,
  keys: [
    { keys: "r", does: "To the reading" },
    { keys: "t", does: "To the adjustment" },
    { keys: "n", does: "To the step in hand" },
    { keys: "w", does: "Why this advice" },
    { keys: "Enter", does: "Save and go on" },
  ],
};

const ZONES = ["bench", "sheet", "gauge"] as const;

type Loaded = Route.ComponentProps["loaderData"]["sheet"];

/**
 * The step in hand stays in hand until somebody goes on: what comes due, or is written elsewhere, takes no field from under the hands. A
 * step that this page itself has just finished is left for the next one at once, unless it has fields that may still be filled, or
 * something is typed that was not saved.
 *
 * @returns the sheet as it is shown, and what hears that something was sent
 */
function useStays(loaded: Loaded): [Loaded, () => void] {
  const navigate = useNavigate();
  const wrote = useRef(false);
  const went = useRef<string | null>(null);
  const was = useRef<{ id: string; state: string } | null>(null);
  const drawn = useRef(false);
  const [ahead, setAhead] = useState<Loaded | null>(null);
  /** A step gone on to that a load came too late for: it is asked for once more, and what the page went on to is shown until then. */
  const [late, setLate] = useState<string | null>(null);
  const lateFor = useRef<Loaded | null>(null);
  const { open, next, job } = loaded;
  // Who is on the way to another page is let go: noting the step would call the way off.
  const leaving = useNavigation().location !== undefined;
  useLayoutEffect(() => {
    if (!open || job.state !== "open" || leaving) return;
    const asked = new URLSearchParams(window.location.search).get("at");
    // What was loaded while the page went on still has the step it left in hand: nobody is taken back to it.
    if (went.current && asked === went.current && open.id !== asked) {
      was.current = { id: asked, state: "ready" };
      if (loaded.ahead?.open?.id === asked) return setAhead(loaded);
      if (late !== asked) {
        lateFor.current = loaded;
        setLate(asked);
        void navigate(`?${new URLSearchParams({ at: asked })}`, { replace: true, preventScrollReset: true });
        return;
      }
      if (lateFor.current === loaded) return;
      // Asked for by name it is not given: it can't be worked now.
      went.current = null;
    }
    const before = was.current;
    was.current = { id: open.id, state: open.state };
    const finished = before?.id === open.id && before.state === "ready" && open.state !== "ready" && wrote.current;
    const goes = finished && next && !(open.leftover && open.state === "done") && !isTyping();
    if (goes || before?.id !== open.id) wrote.current = false;
    if (goes) {
      setAhead(loaded);
      was.current = { id: next.id, state: "ready" };
      went.current = next.id;
      setLate(null);
    }
    const at = goes ? next.id : open.id;
    if (asked === at) return;
    let here = true;
    const note = () => {
      drawn.current = true;
      if (here)
        void navigate(`?${new URLSearchParams({ at, by: NOTED })}`, { replace: true, preventScrollReset: true });
    };
    if (drawn.current) note();
    else void whenDrawn().then(note);
    return () => {
      here = false;
    };
  }, [loaded, open, next, job.state, leaving, late, navigate]);
  // What is ahead is shown until what is loaded next has it in hand itself.
  const from = late !== null && ahead?.ahead?.open?.id === late && open?.id !== late ? ahead : loaded;
  const shown = ahead === from && from.ahead ? { ...from, ...from.ahead, next: null } : from;
  return [
    shown,
    () => {
      wrote.current = true;
    },
  ];
}

/** Whether something stands in a field of the page that was not saved. */
function isTyping(): boolean {
  const fields = document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>(
    "#sheet :is(textarea, input[type=text], input:not([type])), #gauge :is(textarea, input[type=text], input:not([type]))",
  );
  return [...fields].some((f) => f.value !== "" && f.value !== f.defaultValue && f.dataset.keep === undefined);
}

export default function Sheet({ loaderData }: Route.ComponentProps) {
  const [sheet, noteSubmit] = useStays(loaderData.sheet);
  const { tiles, more, unit, newId, person, origin } = loaderData;
  const [correcting, setCorrecting] = useState<Correcting | null>(null);
  const zones = useRef<HTMLDivElement>(null);
  const [shown, setShown] = useState("sheet");
  const moments = [
    ...sheet.stations.map((s) => s.until),
    ...sheet.clocks.map((c) => c.dueAt),
    ...(sheet.open?.tasks ?? []).map((t) => (t.kind === "bursts" ? t.burst.until : null)),
    ...tiles.map((t) => t.until),
  ].filter((m) => m != null);
  useDue(moments, sheet.at);

  const to = (selector: string) => () => zones.current?.querySelector<HTMLElement>(selector)?.focus();
  useKeys({
    r: to("[name=reading]"),
    t: to("[data-key=turn]"),
    n: to("[data-station-in-hand] :is(input:not([type=hidden]), textarea, button, a)"),
    w: to("summary[data-key=why]"),
  });

  // On a phone the page opens on the zone that the station in hand needs.
  const measuring = (sheet.open?.tasks ?? []).some((t) => !t.optional && "loop" in t && t.loop === sheet.loop?.id);
  useEffect(() => {
    const all = zones.current;
    if (!all || all.scrollWidth <= all.clientWidth + 1) return;
    all
      .querySelector(measuring ? "#gauge" : "#sheet")
      ?.scrollIntoView({ behavior: "instant", inline: "start", block: "nearest" });
  }, [measuring, sheet.job.id]);

  // Beside the bench the sheet scrolls by itself: the station in hand is never below the fold.
  useEffect(() => {
    const list = zones.current?.querySelector("#sheet");
    const station = list?.querySelector<HTMLElement>("[data-station-in-hand]");
    if (!list || !station || list.scrollHeight <= list.clientHeight) return;
    const top = station.getBoundingClientRect().top - list.getBoundingClientRect().top;
    if (top > list.clientHeight * 0.55) list.scrollTo({ top: list.scrollTop + top - 120 });
  }, [sheet.open?.id]);

  return (
    <main id="main">
      <h1 className="sr-only">
        {sheet.machine.site}: {sheet.machine.maker} {sheet.machine.model}
      </h1>
      <div
        ref={zones}
        className="zones"
        tabIndex={-1}
        onSubmitCapture={noteSubmit}
        onScroll={(e) =>
          setShown(ZONES[Math.round(e.currentTarget.scrollLeft / e.currentTarget.clientWidth)] ?? "sheet")
        }
      >
        <section id="bench" className="zone border-rule wide:border-r-2" aria-label="Bench">
          <ul className="grid gap-px bg-rule">
            {tiles.map((tile) => (
              <li key={tile.jobId}>
                <BenchTile tile={tile} unit={unit} at={sheet.at} current={tile.jobId === sheet.job.id} />
              </li>
            ))}
          </ul>
          {more.count > 0 && (
            <Link to="/" className="flex min-h-11 items-center px-3 underline underline-offset-4">
              {more.over ? "Over " : ""}
              {more.count} more on the bench
            </Link>
          )}
          <nav aria-label="Elsewhere" className="grid grid-cols-4 border-t border-rule wide:hidden">
            {[
              ["/", "Bench"],
              ["/register", "Register"],
              ["/kit", "Kit"],
              ["/library", "Library"],
            ].map(([to, name]) => (
              <Link key={to} to={to!} className="grid min-h-14 place-items-center font-semibold hover:bg-well">
                {name}
              </Link>
            ))}
          </nav>
        </section>
        <section id="sheet" className="zone relative" aria-label="Sheet">
          <StationList
            sheet={sheet}
            unit={unit}
            newId={newId}
            person={person}
            origin={origin}
            onCorrect={setCorrecting}
          />
        </section>
        <section
          id="gauge"
          className="zone border-rule bg-sheet wide:border-l-2"
          aria-label="Gauge"
          // Without a field in it, it is scrolled by keyboard only when it can be reached itself.
          tabIndex={sheet.loop ? undefined : 0}
        >
          <Gauge
            sheet={sheet}
            unit={unit}
            newId={newId}
            correcting={correcting}
            onCorrected={() => setCorrecting(null)}
          />
        </section>
      </div>
      <nav
        aria-label="Zones"
        className="no-print fixed inset-x-0 bottom-0 grid h-14 grid-cols-3 border-t-2 border-ink bg-sheet wide:hidden"
      >
        {ZONES.map((zone) => (
          <a
            key={zone}
            href={`#${zone}`}
            aria-current={shown === zone ? "true" : undefined}
            className="grid place-items-center border-t-4 border-transparent font-semibold capitalize aria-[current]:border-brass aria-[current]:bg-brass-wash"
            onClick={(e) => {
              e.preventDefault();
              document.getElementById(zone)?.scrollIntoView({ behavior: "smooth", inline: "start", block: "nearest" });
            }}
          >
            {zone}
          </a>
        ))}
      </nav>
    </main>
  );
}
