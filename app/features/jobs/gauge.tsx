import type { SheetView } from "~server/jobs/view";
import type { Correcting } from "./log";
import { Instrument } from "./instrument";
import { MoveEntry } from "./move-entry";
import { NextMove } from "./next-move";
import { ReadingEntry } from "./reading-entry";
import { Day, day } from "~app/ui/dates";
import { Strip } from "~app/ui/strip";
import { VerdictMark } from "~app/ui/verdict";
import { formatFigure, formatUncertainty, unitById } from "~core/quantity";
import { Link } from "react-router";

interface Props {
  sheet: SheetView;
  unit: string;
  newId: string;
  correcting: Correcting | null;
  onCorrected: () => void;
}

/** Stations at which the brew pressure is the reading in hand, or what was measured last. */
const AT_THE_GAUGE = ["covers", "as-found", "adjust", "as-left", "release", "refit", "sign"];

/** The instrument: the reading in hand large, its strip, the next move, the entry, the last visits. */
export function Gauge({ sheet, unit, newId, correcting, onCorrected }: Props) {
  const moved = sheet.runs.moves > 0;
  const correction = correcting && (
    <Correction
      key={correcting.id}
      sheet={sheet}
      unit={unit}
      newId={newId}
      correcting={correcting}
      onCorrected={onCorrected}
    />
  );
  if (!sheet.pressure || (sheet.job.state === "open" && !AT_THE_GAUGE.includes(sheet.inHand ?? "")))
    return <Instrument sheet={sheet} unit={unit} correction={correction} />;
  const now = moved ? sheet.asLeft : sheet.asFound;
  const measuring = ["as-found", "adjust", "as-left"].includes(sheet.inHand ?? "");
  const { expected } = sheet.advice;
  return (
    <div className="grid content-start gap-4 p-4 wide:p-5">
      <header className="flex items-baseline justify-between gap-3">
        <h2 className="font-bold">Brew pressure at the group</h2>
        <span className="text-sm text-soft">{phase(sheet)}</span>
      </header>
      <Figure now={now} unit={unit} />
      <Strip
        tolerance={sheet.job.tolerance}
        found={sheet.asFound}
        left={moved ? sheet.asLeft : null}
        expected={sheet.inHand === "adjust" && expected ? { value: expected.value, U: 2 * expected.sd } : null}
        unit={unit}
        resolution={sheet.resolution}
        label="Brew pressure at the group"
      />
      {correction ??
        (measuring ? (
          <Measuring sheet={sheet} unit={unit} newId={newId} />
        ) : (
          sheet.job.state === "open" && <p className="border-l-4 border-rule pl-3 text-soft">{waiting(sheet)}</p>
        ))}
      <Visits sheet={sheet} unit={unit} />
    </div>
  );
}

function phase(sheet: SheetView): string {
  const { runs, needed, inHand } = sheet;
  if (inHand === "as-found") return `as found, reading ${runs.asFound + 1} of ${needed}`;
  if (inHand === "as-left") return `as left, reading ${runs.asLeft + 1} of ${needed}`;
  if (inHand === "adjust") return runs.moves === 0 ? "as found" : "after the last turn";
  return runs.moves > 0 ? "as left" : runs.asFound > 0 ? "as found" : "";
}

function waiting(sheet: SheetView): string {
  const open = sheet.stations.find((s) => s.id === sheet.inHand);
  if (!open) return "";
  return open.id === "sign" || open.id === "refit" || open.id === "release"
    ? `Measured. Next on the sheet: ${open.title.toLowerCase()}.`
    : `First on the sheet: ${open.title.toLowerCase()}. Then the gauge.`;
}

function Figure({ now, unit }: { now: SheetView["asFound"]; unit: string }) {
  const u = unitById(unit);
  if (!now)
    return (
      <p className="figure text-6xl leading-none font-semibold text-soft">
        –.– <span className="text-2xl">{u.symbol}</span>
      </p>
    );
  return (
    <div className="flex items-end justify-between gap-3" role="status" aria-live="polite">
      <p className="figure text-6xl leading-none font-semibold whitespace-nowrap">
        {formatFigure(now.value, now.resolution, u)}
        <span className="ml-2 text-2xl">{u.symbol}</span>
      </p>
      <div className="text-right">
        <VerdictMark verdict={now.verdict} large />
        <p className="figure text-sm text-soft">± {formatUncertainty(now.U, now.resolution, u)}</p>
      </div>
    </div>
  );
}

function Measuring({ sheet, unit, newId }: { sheet: SheetView; unit: string; newId: string }) {
  const { advice, inHand } = sheet;
  const move = inHand === "adjust" && advice.kind === "move";
  const fault = inHand === "adjust" && advice.kind === "fault";
  return (
    <>
      {inHand !== "as-found" && sheet.adjustable && <NextMove sheet={sheet} newId={newId} />}
      {move && <MoveEntry sheet={sheet} newId={newId} />}
      {move || fault ? (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Read again before turning</summary>
          <ReadingEntry sheet={sheet} unit={unit} newId={newId} />
        </details>
      ) : (
        <ReadingEntry sheet={sheet} unit={unit} newId={newId} />
      )}
      {!move && inHand !== "as-found" && sheet.adjustable && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">I turned it again</summary>
          <MoveEntry sheet={sheet} newId={newId} />
        </details>
      )}
    </>
  );
}

function Correction({
  sheet,
  unit,
  newId,
  correcting,
  onCorrected,
}: {
  sheet: SheetView;
  unit: string;
  newId: string;
  correcting: Correcting;
  onCorrected: () => void;
}) {
  return (
    <section aria-label="Correction" className="grid gap-3 border-2 border-brass p-4">
      <div className="flex items-center justify-between gap-2">
        <p>
          Correct <strong className="figure">{correcting.was}</strong>. The old line stays on record.
        </p>
        <button
          type="button"
          onClick={onCorrected}
          className="min-h-11 cursor-pointer px-2 underline underline-offset-4"
        >
          Leave it
        </button>
      </div>
      {correcting.kind === "reading" ? (
        <ReadingEntry sheet={sheet} unit={unit} newId={newId} correcting={correcting} onSaved={onCorrected} />
      ) : (
        <MoveEntry sheet={sheet} newId={newId} correcting={correcting} onSaved={onCorrected} />
      )}
    </section>
  );
}

function Visits({ sheet, unit }: { sheet: SheetView; unit: string }) {
  const u = unitById(unit);
  if (sheet.visits.length === 0)
    return (
      <p className="border-t-2 border-rule pt-3 text-sm text-soft">No earlier visit to this machine is on record.</p>
    );
  return (
    <section aria-labelledby="visits" className="border-t-2 border-rule pt-3">
      <h3 id="visits" className="mb-1 text-sm font-bold">
        Last visits
      </h3>
      <ul>
        {sheet.visits.map((v) => (
          <li key={v.jobId}>
            <Link
              to={`/jobs/${v.jobId}`}
              className="grid min-h-9 grid-cols-[5.4rem_1fr_auto] items-center gap-2 text-sm hover:bg-well"
            >
              <Day iso={v.at} />
              <Strip
                tolerance={v.tolerance}
                found={v.asFound}
                left={v.asLeft}
                unit={unit}
                resolution={v.asLeft.resolution}
                size="row"
                label={day(v.at)}
              />
              <span className="figure whitespace-nowrap">
                {formatFigure(v.asFound.value, v.asFound.resolution, u)} →{" "}
                {formatFigure(v.asLeft.value, v.asLeft.resolution, u)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
