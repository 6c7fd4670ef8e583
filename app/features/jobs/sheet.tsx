import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { v7 as uuidv7 } from "uuid";
import type { Route } from "./+types/sheet";
import { Gauge } from "./gauge";
import { StationList } from "./stations";
import type { Correcting } from "./log";
import { loadSheet, postedOf, writeTo } from "./sheet.server";
import { StepBar } from "./step-bar";
import { useInHand } from "./use-in-hand";
import { isAtGauge, isUndone } from "./undone";
import { Zones, useZone } from "./zones";
import { BenchTile } from "~app/ui/bench-tile";
import { leadTo, useKeys } from "~app/ui/keys";
import { NotAsSigned } from "~app/ui/not-as-signed";
import { unlessAnswered } from "~app/ui/shown";
import { SkipLink } from "~app/ui/skip-link";
import { useAwake } from "~app/ui/use-awake";
import { firstControl } from "~app/ui/controls";
import { useDue } from "~app/ui/clock";
import { database } from "~server/database";
import { originOf } from "~server/origin";
import { proofOf } from "~server/proof/verify";
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
  const { job } = loaded.sheet;
  const proof =
    job.state === "signed" ? await reading(() => proofOf(database(), person.workshop.id, jobId.data)) : null;
  return {
    ...loaded,
    proof: proof && { holds: proof.holds, serialThen: proof.serialThen },
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

const READING = "#gauge [name=reading]";
const ADJUSTMENT = "#gauge [data-key=turn]";
const WHY = "#gauge summary[data-key=why]";

export const handle = {
  zoned: true,
  keys: [
    { action: "reading", at: READING },
    { action: "adjust", at: ADJUSTMENT },
    { action: "step" },
    { action: "why", at: WHY },
    { keys: "Enter", does: "Save and go on; in a text of several lines, with Ctrl" },
  ],
};

export default function Sheet({ loaderData }: Route.ComponentProps) {
  const [sheet, noteSent] = useInHand(loaderData.sheet);
  const { tiles, more, unit, newId, person, origin, proof } = loaderData;
  const [correcting, setCorrecting] = useState<Correcting | null>(null);
  const zones = useRef<HTMLDivElement>(null);
  const { open, loop } = sheet;
  // What the step still asks for is done in its order: the gauge is shown once it is the next thing.
  const first = open?.tasks.find(isUndone);
  const measuring = first !== undefined && isAtGauge(first, loop);
  const [shown, show] = useZone(measuring ? loop!.id : null, [sheet.job.id, open?.id].join(" "));
  const moments = [
    ...sheet.stations.map((s) => s.until),
    ...sheet.clocks.map((c) => c.dueAt),
    ...(sheet.open?.tasks ?? []).map((t) => (t.kind === "bursts" ? t.burst.until : null)),
    ...tiles.map((t) => t.until),
  ].filter((m) => m != null);
  useDue(moments, sheet.at);
  useAwake(sheet.job.state === "open" && sheet.clocks.length > 0);

  const to = (selector: string) => () => leadTo(zones.current, selector);
  useKeys({
    reading: to(READING),
    adjust: to(ADJUSTMENT),
    step: () => {
      const step = zones.current?.querySelector<HTMLElement>("[data-station-in-hand]") ?? null;
      (firstControl(step) ?? step?.querySelector<HTMLElement>("h3"))?.focus();
    },
    why: to(WHY),
  });

  // The sheet scrolls by itself: the station in hand is never below the fold.
  useEffect(() => {
    const list = zones.current?.querySelector("#sheet");
    const station = list?.querySelector<HTMLElement>("[data-station-in-hand]");
    if (!list || !station || list.scrollHeight <= list.clientHeight) return;
    const top = station.getBoundingClientRect().top - list.getBoundingClientRect().top;
    if (top > list.clientHeight * 0.55) list.scrollTo({ top: list.scrollTop + top - 120 });
  }, [sheet.open?.id]);

  return (
    <main id="main">
      <SkipLink to="step">Skip to the step in hand</SkipLink>
      <h1 className="sr-only">
        {sheet.machine.site}: {sheet.machine.maker} {sheet.machine.model}
      </h1>
      {proof && !proof.holds && <NotAsSigned />}
      {proof?.serialThen && (
        <p className="border-l-8 border-brass bg-brass-wash p-3">
          Signed for serial <span className="figure">{proof.serialThen}</span>: the register says{" "}
          <span className="figure">{sheet.machine.serial}</span> now.
        </p>
      )}
      <Zones
        ref={zones}
        shown={shown}
        onShow={show}
        onSubmitCapture={noteSent}
        next={(shown === "sheet" || (shown === "gauge" && !measuring)) && <StepBar sheet={sheet} onShow={show} />}
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
            onCorrect={(line) => {
              setCorrecting(line);
              show("gauge");
            }}
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
            onCorrected={() => {
              setCorrecting(null);
              show("sheet");
            }}
          />
        </section>
      </Zones>
    </main>
  );
}
