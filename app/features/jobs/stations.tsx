import { Link } from "react-router";
import type { StationView } from "~server/jobs/station-view";
import type { SheetView } from "~server/jobs/view";
import { HardStop } from "./hard-stop";
import { type Correcting, Log } from "./log";
import { Schools } from "./schools";
import { Signed } from "./sign";
import { StationBody, TakeUp } from "./station-body";
import { Countdown } from "~app/ui/clock";
import { Day } from "~app/ui/dates";
import { VerdictMark } from "~app/ui/verdict";
import { formatQuantity, unitById } from "~core/quantity";
import { JOB_TYPES } from "~core/sheet";

export interface StationProps {
  sheet: SheetView;
  unit: string;
  newId: string;
  person: string;
  origin: string;
  onCorrect: (c: Correcting) => void;
}

/** Stations down the margin: done ones are a line with their result, the one in hand is open, those ahead say what they need. */
export function StationList(props: StationProps) {
  const { sheet, unit, newId } = props;
  const { machine, job } = sheet;
  const open = sheet.stations.find((s) => s.id === sheet.inHand);
  const hardStop = open?.state === "ready" ? open.hardStop : null;
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
          {JOB_TYPES[job.type].title} since <Day iso={job.startedAt} />
          {job.spec && `, by the card “${job.spec.name}” v${job.spec.version}`}
          {job.complaint && <span className="text-ink">. “{job.complaint}”</span>}
        </p>
        <Schools sheet={sheet} newId={newId} unit={unit} />
      </div>
      <div className="relative">
        <ol className="margin-rule px-2 py-2 wide:px-4">
          {sheet.stations.map((station, i) => (
            <li
              key={station.id}
              className="relative grid grid-cols-[2.2rem_minmax(0,1fr)] gap-x-3 py-1"
              aria-current={station.id === sheet.inHand ? "step" : undefined}
            >
              <StationDot number={i + 1} station={station} open={station.id === sheet.inHand} />
              {station.id === sheet.inHand ? (
                <div data-station-in-hand className="grid gap-3 bg-sheet p-4">
                  <h3 className="text-xl font-bold">{station.title}</h3>
                  {hardStop ? (
                    <p className="text-soft">{hardStop.title}. Confirm it to go on.</p>
                  ) : (
                    <StationBody key={station.id} {...props} station={station} />
                  )}
                </div>
              ) : (
                <StationLine station={station} {...props} />
              )}
            </li>
          ))}
        </ol>
        {sheet.signature && <Signed sheet={sheet} unit={unit} newId={newId} origin={props.origin} />}
        {!sheet.signature && sheet.loop && sheet.loop.log.length > 0 && (
          <div className="px-4 pb-4 wide:pr-6 wide:pl-[4.2rem]">
            <Log loop={sheet.loop} onCorrect={props.onCorrect} />
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
        />
      )}
    </>
  );
}

function StationDot({ number, station, open }: { number: number; station: StationView; open: boolean }) {
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

/** What can be looked at again, or added to, once its station is done. */
function hasMore(task: StationView["tasks"][number]): boolean {
  return task.lines.length > 0 || task.rows > 0 || (task.kind === "loop" && task.done);
}

/** A station that is not open: its result, its reason, its clock or what it needs. Workable ones open on a tap. */
function StationLine({ station, sheet, newId }: { station: StationView } & StationProps) {
  const openable = sheet.job.state === "open" && (station.state === "ready" || station.state === "running");
  const again = sheet.job.state === "open" && station.state === "done" && station.tasks.some(hasMore);
  return (
    <div className="flex min-h-10 flex-wrap items-center gap-x-3">
      <h3 className={station.state === "done" ? "font-semibold" : openable ? "font-semibold" : "text-soft"}>
        {openable || again ? (
          <Link
            to={openable ? `?at=${station.id}` : `?look=${station.id}`}
            preventScrollReset
            className="inline-flex min-h-9 items-center underline decoration-edge decoration-1 underline-offset-4 hover:decoration-ink"
          >
            {station.title}
          </Link>
        ) : (
          station.title
        )}
      </h3>
      <span className="flex min-w-0 flex-1 items-center gap-3 text-sm text-soft">
        <StationSays station={station} sheet={sheet} />
      </span>
      {station.state === "skipped" && sheet.job.state === "open" && station.skippable && (
        <TakeUp jobId={sheet.job.id} newId={newId} station={station} />
      )}
    </div>
  );
}

function StationSays({ station, sheet }: { station: StationView; sheet: SheetView }) {
  if (station.state === "skipped") return <span className="truncate">left out: {station.why}</span>;
  if (station.state === "running")
    return (
      <>
        runs by itself, <Countdown dueAt={station.until!} at={sheet.at} className="font-semibold text-ink" />
      </>
    );
  if (station.state === "ready") return <span className="truncate">ready, needs {station.needs}</span>;
  if (station.state === "blocked") return <span className="truncate">{station.why}</span>;
  if (station.id === "look-over") {
    const notes = sheet.notes.filter((n) => n.station === station.id);
    const photos = sheet.photos.length;
    return (
      <span className="min-w-0 truncate">
        {photos > 0 && `${photos} ${photos === 1 ? "photo" : "photos"}, `}
        {notes[0]?.text}
      </span>
    );
  }
  const loops = station.tasks.flatMap((t) => sheet.loops.filter((l) => l.id === t.loop));
  if (station.id === "adjust") {
    const moves = loops[0]?.runs.moves ?? 0;
    const said = moves === 0 ? "nothing turned" : `${moves} ${moves === 1 ? "move" : "moves"}`;
    return <>{loops[0]?.finding ? "ended with a fault" : said}</>;
  }
  const read = loops.flatMap((loop) => {
    const point = station.id === "as-found" ? loop.asFound : (loop.asLeft ?? loop.asFound);
    return point ? [{ loop, point }] : [];
  });
  if (read.length > 0)
    return (
      <>
        {read.slice(0, 2).map(({ loop, point }) => (
          <span key={loop.id} className="flex items-center gap-2">
            <span className="figure text-base font-semibold whitespace-nowrap text-ink">
              {loop.unit === "dC" && point.value > 0.05 ? "+" : ""}
              {formatQuantity(point.value, point.resolution, unitById(loop.unit))}
            </span>
            <VerdictMark verdict={point.verdict} />
          </span>
        ))}
      </>
    );
  return (
    <>
      <span className="min-w-0 truncate">{station.result.text}</span>
      {station.result.verdict && <VerdictMark verdict={station.result.verdict as never} />}
    </>
  );
}
