import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/sheet";
import { Gauge } from "./gauge";
import { StationList } from "./stations";
import type { Correcting } from "./log";
import { loadSheet, postedOf, writeTo } from "./sheet.server";
import { useInHand } from "./use-in-hand";
import { BenchTile } from "~app/ui/bench-tile";
import { useKeys } from "~app/ui/keys";
import { unlessAnswered } from "~app/ui/shown";
import { useDue } from "~app/ui/clock";
import { originOf } from "~server/origin";
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
    origin: originOf(request),
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

export default function Sheet({ loaderData }: Route.ComponentProps) {
  const [sheet, noteSent] = useInHand(loaderData.sheet);
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
        data-first={measuring ? "gauge" : "sheet"}
        tabIndex={-1}
        onSubmitCapture={noteSent}
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
            added={loaderData.added}
            since={loaderData.since}
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
