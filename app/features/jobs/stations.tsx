import type { SheetView } from "~server/jobs/view";
import { HardStop } from "./hard-stop";
import { type Correcting, Log } from "./log";
import { LookOver } from "./look-over";
import { SignStation, Signed } from "./sign";
import { EntryForm } from "./entry-form";
import { useEntry } from "./use-entry";
import { Button } from "~app/ui/button";
import { Day } from "~app/ui/dates";
import { VerdictMark } from "~app/ui/verdict";
import { formatFigure, formatQuantity, unitById } from "~core/quantity";
import { Link } from "react-router";

interface Props {
  sheet: SheetView;
  unit: string;
  newId: string;
  person: string;
  origin: string;
  onCorrect: (c: Correcting) => void;
}

/** Stations down the margin: done ones are a line with their result, the one in hand is open, those ahead say what they need. */
export function StationList(props: Props) {
  const { sheet, unit, newId } = props;
  const { machine, job } = sheet;
  const hardStop = sheet.stations.find((s) => s.state === "open" && s.hardStop);
  const u = unitById(unit);
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
          Service since <Day iso={job.startedAt} />, valve to {job.school} at{" "}
          {formatFigure(job.tolerance.lower ?? 0, 0.1, u)} to {formatQuantity(job.tolerance.upper ?? 0, 0.1, u)}
          {job.complaint && <span className="text-ink">. “{job.complaint}”</span>}
        </p>
      </div>
      <div className="relative">
        <ol className="margin-rule px-2 py-2 wide:px-4">
          {sheet.stations.map((station, i) => (
            <li
              key={station.id}
              className="relative grid grid-cols-[2.2rem_minmax(0,1fr)] gap-x-3 py-1"
              aria-current={station.state === "open" ? "step" : undefined}
            >
              <StationDot number={i + 1} state={station.state} />
              {station.state === "open" ? (
                <div data-station-in-hand className="grid gap-3 bg-sheet p-4">
                  <h3 className="text-xl font-bold">{station.title}</h3>
                  {station.hardStop ? (
                    <p className="text-soft">{station.hardStop.title}. Confirm it to go on.</p>
                  ) : (
                    <StationBody {...props} id={station.id} tasks={station.tasks} />
                  )}
                </div>
              ) : (
                <div className="flex min-h-10 items-center gap-3">
                  <h3 className={station.state === "done" ? "font-semibold" : "text-soft"}>{station.title}</h3>
                  {station.state === "done" ? (
                    <Result sheet={sheet} id={station.id} unit={unit} />
                  ) : (
                    <span className="truncate text-sm text-soft">needs {station.needs}</span>
                  )}
                </div>
              )}
            </li>
          ))}
        </ol>
        {sheet.signature && <Signed sheet={sheet} unit={unit} newId={newId} origin={props.origin} />}
        {!sheet.signature && sheet.log.length > 0 && (
          <div className="px-4 pb-4 wide:pr-6 wide:pl-[4.2rem]">
            <Log lines={sheet.log} unit={unit} onCorrect={props.onCorrect} />
          </div>
        )}
      </div>
      {hardStop?.hardStop && (
        <HardStop key={hardStop.id} jobId={job.id} newId={newId} station={hardStop.id} stop={hardStop.hardStop} />
      )}
    </>
  );
}

function StationDot({ number, state }: { number: number; state: "done" | "open" | "ahead" }) {
  const look = {
    done: "bg-ink text-on-ink border-ink",
    open: "bg-brass-wash border-ink",
    ahead: "bg-paper border-rule text-soft",
  }[state];
  return (
    <span
      className={`figure z-1 mt-1 grid size-8 place-items-center rounded-sm border-2 text-sm font-semibold ${look}`}
    >
      {state === "done" ? "✓" : number}
    </span>
  );
}

function StationBody({ id, tasks, ...props }: Props & { id: string; tasks?: readonly string[] | undefined }) {
  const { sheet, newId } = props;
  switch (id) {
    case "look-over":
      return <LookOver sheet={sheet} newId={newId} />;
    case "tools":
      return <Tools jobId={sheet.job.id} newId={newId} tasks={tasks ?? []} />;
    case "as-found":
      return (
        <Say>
          Blind basket and gauge in, pump on, wait until the needle stands. Read, note, repeat: {sheet.needed} readings
          before anything is turned. Water must be seen returning through the valve while the pressure is up.
        </Say>
      );
    case "adjust":
      return <Say>Follow the next move beside, read after each. The screw is turned with the pump stopped.</Say>;
    case "as-left":
      return <Say>The figure holds. Read until {sheet.needed} readings stand since the last turn.</Say>;
    case "sign":
      return <SignStation sheet={sheet} newId={newId} person={props.person} />;
    default:
      return null;
  }
}

function Say({ children }: { children: React.ReactNode }) {
  return <p>{children}</p>;
}

function Tools({ jobId, newId, tasks }: { jobId: string; newId: string; tasks: readonly string[] }) {
  const entry = useEntry("tick", jobId, newId, { key: "tools" });
  return (
    <EntryForm entry={entry} className="grid gap-4">
      <ul className="grid gap-1 sm:grid-cols-2">
        {tasks.map((t) => (
          <li key={t} className="flex gap-2.5">
            <span aria-hidden="true" className="mt-2 h-1.5 w-3 shrink-0 bg-brass" />
            {t}
          </li>
        ))}
      </ul>
      <Button look="main" name="key" value="tools" disabled={entry.busy} className="justify-self-start">
        All laid out
      </Button>
    </EntryForm>
  );
}

function Result({ sheet, id, unit }: { sheet: SheetView; id: string; unit: string }) {
  const u = unitById(unit);
  if (id === "look-over") {
    const notes = sheet.notes.filter((n) => n.station === id);
    return (
      <span className="min-w-0 truncate text-sm text-soft">
        {sheet.photos.length > 0 && `${sheet.photos.length} ${sheet.photos.length === 1 ? "photo" : "photos"}, `}
        {notes[0]?.text}
      </span>
    );
  }
  if (id === "adjust") {
    const moves = sheet.runs.moves;
    return (
      <span className="text-sm text-soft">
        {sheet.finding
          ? "ended with a fault"
          : moves === 0
            ? "nothing turned"
            : `${moves} ${moves === 1 ? "move" : "moves"}`}
      </span>
    );
  }
  const value = id === "as-found" ? sheet.asFound : id === "as-left" ? (sheet.asLeft ?? sheet.asFound) : null;
  if (!value) return null;
  return (
    <span className="flex items-center gap-3">
      <span className="figure font-semibold">{formatQuantity(value.value, value.resolution, u)}</span>
      <VerdictMark verdict={value.verdict} />
    </span>
  );
}
