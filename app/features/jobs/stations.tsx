import { Link } from "react-router";
import type { StationBrief } from "~server/jobs/views/station";
import type { SheetView } from "~server/jobs/views/sheet";
import { HardStop } from "./hard-stop";
import { Log } from "./log";
import { Schools } from "./schools";
import { Signed } from "./signed";
import { SinceLastVisit } from "./since-last";
import { StationBody, TakeUp } from "./station-body";
import type { StationProps } from "./station-props";
import { Visit } from "./visit";
import { Countdown } from "~app/ui/clock";
import { Day } from "~app/ui/dates";
import { VerdictMark } from "~app/ui/verdict";
import { VERDICT_WORDS } from "~core/metrology/verdict";
import { formatQuantity, unitById } from "~core/quantity";

/** Stations down the margin: done ones are a line with their result, the one in hand is open, those ahead say what they need. */
export function StationList(props: StationProps) {
  const { sheet, unit, newId } = props;
  const { machine, job } = sheet;
  const { open } = sheet;
  const hardStop = open?.state === "ready" ? open.hardStop : null;
  const before = sheet.stations
    .slice(
      0,
      sheet.stations.findIndex((s) => s.id === open?.id),
    )
    .findLast((s) => s.state === "done" && !s.spared);
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-2 border-rule px-4 py-3 wide:px-6">
        <h2 className="text-xl font-bold tracking-tight">
          <Link
            to={`/machines/${machine.id}`}
            className="underline decoration-edge decoration-1 underline-offset-4 hover:decoration-ink"
          >
            {machine.site}
          </Link>
        </h2>
        <p className="text-soft">
          {machine.maker} {machine.model} <span className="figure text-sm">{machine.serial}</span>
        </p>
        <p className="w-full text-sm text-soft">
          {job.title} since <Day iso={job.startedAt} />
          {job.spec && `, by the spec “${job.spec.name}” v${job.spec.version}`}
          {job.complaint && <span className="text-ink">. “{job.complaint}”</span>}
        </p>
        <SinceLastVisit since={props.since} />
        <Visit sheet={sheet} newId={newId} unit={unit} />
        <Schools sheet={sheet} newId={newId} unit={unit} />
      </div>
      <DueTimers sheet={sheet} />
      <div className="relative">
        <ol className="margin-rule px-2 py-2 wide:px-4">
          {sheet.stations.map((station, i) => (
            <li
              key={station.id}
              className="relative grid grid-cols-[2.2rem_minmax(0,1fr)] gap-x-3 py-1"
              aria-current={station.id === open?.id ? "step" : undefined}
            >
              <StationDot number={i + 1} station={station} open={station.id === open?.id} />
              {open && station.id === open.id ? (
                <div data-station-in-hand className="grid gap-3 bg-sheet p-4">
                  <h3 id="step" tabIndex={-1} className="text-xl font-bold outline-offset-4">
                    {station.title}
                  </h3>
                  {hardStop ? (
                    <p className="text-soft">{hardStop.title}. Confirm it to go on.</p>
                  ) : (
                    <StationBody key={station.id} {...props} station={open} />
                  )}
                </div>
              ) : (
                <StationLine station={station} {...props} />
              )}
            </li>
          ))}
        </ol>
        {sheet.signature && <Signed sheet={sheet} newId={newId} origin={props.origin} added={props.added} />}
        {!sheet.signature && sheet.loop && sheet.loop.log.length > 0 && (
          <div className="px-4 pb-4 wide:pr-6 wide:pl-[4.2rem]">
            <Log loop={sheet.loop} jobId={job.id} newId={newId} onCorrect={props.onCorrect} />
          </div>
        )}
      </div>
      {hardStop && open && (
        <HardStop
          key={hardStop.key}
          jobId={job.id}
          newId={newId}
          machine={`${machine.site}, ${machine.maker} ${machine.model}`}
          stop={hardStop}
          back={before ?? null}
          came={before ? cameOf(before) : ""}
        />
      )}
    </>
  );
}

type Figure = NonNullable<StationBrief["says"]>["figures"][number];

/** A figure that a step came to; a difference says that it is one. */
const sayFigure = ({ unit, value, resolution }: Figure) =>
  `${unit === "dC" && value > 0.05 ? "+" : ""}${formatQuantity(value, resolution, unitById(unit))}`;

/** What was read in a step, in words: it covers the sheet before anybody has seen it there. */
function cameOf({ title, says }: StationBrief): string {
  const figures = (says?.figures ?? []).map((f) => `${sayFigure(f)}, ${VERDICT_WORDS[f.verdict]}`);
  return figures.length > 0 ? `${title} ${figures.join("; ")}.` : "";
}

/** Timers that have run out while another step is in hand: said here, and nothing is moved for them. */
function DueTimers({ sheet }: { sheet: SheetView }) {
  const due = sheet.clocks.filter((c) => c.dueAt <= sheet.at && c.station !== sheet.open?.id);
  return (
    <div role="status">
      <ul className="grid">
        {due.map((c) => (
          <li
            key={c.id}
            className="flex flex-wrap items-center gap-x-3 border-b-2 border-brass bg-brass-wash px-4 wide:px-6"
          >
            <span>
              Timer ended: <strong>{c.label}</strong>. Confirm when it shows.
            </span>
            <Link
              to={`?at=${c.station}`}
              preventScrollReset
              className="inline-flex min-h-11 items-center underline underline-offset-4"
            >
              Open it
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

function StationDot({ number, station, open }: { number: number; station: StationBrief; open: boolean }) {
  const look = open
    ? "bg-brass-wash border-ink"
    : {
        done: "bg-ink text-on-ink border-ink",
        skipped: "border-ink border-dashed",
        ready: "bg-sheet border-ink",
        running: "bg-sheet border-brass",
        blocked: "bg-paper border-rule text-soft",
      }[station.state];
  return (
    <span
      className={`figure z-1 mt-1 grid size-8 place-items-center rounded-sm border-2 text-sm font-semibold ${look}`}
    >
      {station.state === "done" ? "✓" : station.state === "skipped" ? "–" : number}
    </span>
  );
}

/** A station that is not open: its result, its reason, its clock or what it needs. Workable ones open on a tap. */
function StationLine({ station, sheet, newId }: { station: StationBrief } & StationProps) {
  const openable = sheet.job.state === "open" && station.state !== "blocked" && !station.spared;
  return (
    <div className="flex min-h-11 flex-wrap items-center gap-x-3">
      <h3 className={openable ? "font-semibold" : "text-soft"}>
        {openable ? (
          <Link
            to={`?at=${station.id}`}
            preventScrollReset
            className="inline-flex min-h-11 items-center underline decoration-edge decoration-1 underline-offset-4 hover:decoration-ink"
          >
            {station.title}
          </Link>
        ) : (
          station.title
        )}
      </h3>
      <span className="flex min-w-0 flex-[1_1_9rem] flex-wrap items-center gap-x-3 text-sm text-soft">
        <StationSays station={station} sheet={sheet} />
      </span>
      {station.state === "skipped" && sheet.job.state === "open" && station.skippable && (
        <TakeUp jobId={sheet.job.id} newId={newId} station={station} />
      )}
    </div>
  );
}

function StationSays({ station, sheet }: { station: StationBrief; sheet: SheetView }) {
  if (station.state === "skipped") return <span>skipped: {station.why}</span>;
  if (station.state === "running")
    return (
      <>
        timer running, <Countdown dueAt={station.until!} at={sheet.at} className="font-semibold text-ink" />
      </>
    );
  if (station.state === "ready") return <span>ready. Bring: {station.needs}</span>;
  if (station.state === "blocked") return <span>{station.why}</span>;
  const { says } = station;
  if (station.spared) return <span>not needed: no adjustment is advised</span>;
  if (!says) return null;
  if (says.figures.length > 0)
    return says.figures.map((figure) => (
      <span key={figure.id} className="flex min-w-0 flex-wrap items-center gap-x-2">
        <span className="figure text-base font-semibold whitespace-nowrap text-ink">{sayFigure(figure)}</span>
        <VerdictMark verdict={figure.verdict} />
      </span>
    ));
  return (
    <>
      <span className="min-w-0">{says.text}</span>
      {says.verdict && <VerdictMark verdict={says.verdict} />}
    </>
  );
}
