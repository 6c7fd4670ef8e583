import { Suspense } from "react";
import { lazyPart } from "~app/ui/lazy-part";
import { Link } from "react-router";
import type { LoopView } from "~server/jobs/views/knob";
import type { SheetView } from "~server/jobs/views/sheet";
import type { Correcting } from "./log";
import { InSight } from "./in-sight";
import { Instrument, RunningClocks } from "./instrument";
import { LoopNotes } from "./loop-notes";
import { MoveEntry } from "./move-entry";
import { NextMove } from "./next-move";
import { ReadingEntry } from "./reading-entry";
import { RepairEntry } from "./repair-entry";
import { CorrectionFrame } from "~app/ui/correction";
import { Day, useDates } from "~app/ui/dates";
import { Strip } from "~app/ui/strip";
import { ExplainedVerdict } from "~app/ui/verdict";
import { isLeftAsIs } from "~core/knobs";
import { formatFigure, formatUncertainty, unitById } from "~core/quantity";

const Charts = lazyPart(() => import("./charts"));

interface Props {
  sheet: SheetView;
  unit: string;
  newId: string;
  correcting: Correcting | null;
  onCorrected: () => void;
}

/** The instrument: the reading in hand large, its strip, the next move, the entry, the charts, the last visits. */
export function Gauge({ sheet, unit, newId, correcting, onCorrected }: Props) {
  const { loop } = sheet;
  const correction = correcting && loop && (
    <Correction
      key={correcting.id}
      sheet={sheet}
      loop={loop}
      newId={newId}
      correcting={correcting}
      onCorrected={onCorrected}
    />
  );
  if (!loop) return <Instrument sheet={sheet} unit={unit} correction={correction} />;
  const moved = loop.runs.touched;
  const now = moved ? loop.asLeft : loop.asFound;
  const here = worksHere(sheet, loop);
  const working = sheet.job.state === "open" && here.works;
  const expected = loop.advice?.expected;
  const adjusting = working && here.moves;
  return (
    <div className="grid content-start gap-4 p-4 short:grid-cols-[minmax(0,1fr)_minmax(0,1.3fr)] short:gap-x-6 short:gap-y-3 short:py-2 wide:p-5">
      <div className="grid content-start gap-4 short:gap-2">
        <header className="flex flex-wrap items-baseline justify-between gap-x-3">
          <h2 className="font-bold">{loop.title}</h2>
          <span className="ml-auto text-right text-sm text-soft">{phase(sheet, loop, now !== null)}</span>
        </header>
        <Figure now={now} loop={loop} />
        <Strip
          tolerance={loop.tolerance}
          found={loop.asFound}
          left={moved ? loop.asLeft : null}
          expected={adjusting && expected ? { value: expected.value, U: 2 * expected.sd } : null}
          unit={loop.unit}
          resolution={loop.resolution}
          label={loop.title}
        />
        <LoopNotes loop={loop} at={sheet.at} />
      </div>
      <div className="flex flex-col gap-4 short:gap-2">
        {correction ??
          (working ? (
            <Measuring sheet={sheet} loop={loop} newId={newId} here={here} />
          ) : (
            sheet.job.state === "open" && <p className="border-l-4 border-rule pl-3 text-soft">{waiting(sheet)}</p>
          ))}
        <RunningClocks sheet={sheet} />
      </div>
      <div className="grid content-start gap-4 short:col-span-2">
        <Visits sheet={sheet} loop={loop} />
        {((loop.chart.points.length > 1 && moved) || loop.curve?.curve || sheet.visits.length > 1) && (
          <InSight height={160}>
            <Suspense fallback={<p className="text-sm text-soft">Drawing…</p>}>
              <Charts loop={loop} visits={sheet.visits} />
            </Suspense>
          </InSight>
        )}
      </div>
    </div>
  );
}

interface Here {
  /** It is read in the station in hand. */
  works: boolean;
  /** What was found is settled: the next move may be shown. */
  turns: boolean;
  /** It is moved in the station in hand, too. */
  moves: boolean;
}

/** What is done with a knob in the station in hand: read only as found, turned, or read again after it was turned. */
function worksHere({ open }: SheetView, { id }: LoopView): Here {
  const own = (open?.tasks ?? []).flatMap((t) => ("loop" in t && t.loop === id ? [t] : []));
  return {
    works: own.length > 0,
    turns: own.some((t) => t.kind !== "readings" || t.run === "as-left"),
    moves: own.some((t) => t.kind !== "readings"),
  };
}

/** @param shown whether there is a figure under it */
function phase(sheet: SheetView, loop: LoopView, shown: boolean): string {
  const { runs, more } = loop;
  const tasks = sheet.open?.tasks ?? [];
  if (sheet.job.state === "signed") return runs.touched ? "as left" : "as found";
  if (loop.amount?.retime) return shown ? "at the previous grind" : "at the new grind, 1 more reading";
  const adjusting = tasks.some((t) => t.kind === "adjust");
  const left = runs.touched || tasks.some((t) => t.kind === "readings" && t.run === "as-left");
  const called = adjusting && runs.touched ? "after the last adjustment" : left && !adjusting ? "as left" : "as found";
  return more === "" ? called : `${called}, ${more}`;
}

function waiting(sheet: SheetView): string {
  const { open, loop } = sheet;
  if (!open) return "";
  return loop && loop.runs.asFound + loop.runs.asLeft > 0
    ? `Measured. Next on the sheet: ${open.title.toLowerCase()}.`
    : `First on the sheet: ${open.title.toLowerCase()}. Then the gauge.`;
}

function Figure({ now, loop }: { now: LoopView["asFound"]; loop: LoopView }) {
  const u = unitById(loop.unit);
  if (!now)
    return (
      <p className="figure text-6xl leading-none short:text-5xl font-semibold text-soft">
        –.– <span className="text-2xl">{u.symbol}</span>
      </p>
    );
  const plus = loop.judged === "temperatureDifference" && now.value > 0.05 ? "+" : "";
  return (
    <div className="flex flex-wrap items-end justify-between gap-x-3 gap-y-1" role="status" aria-live="polite">
      <p className="figure text-6xl leading-none short:text-5xl font-semibold whitespace-nowrap">
        {plus}
        {formatFigure(now.value, now.resolution, u)}
        <span className="ml-2 text-2xl">{u.symbol}</span>
      </p>
      <div className="ml-auto text-right">
        <ExplainedVerdict verdict={now.verdict} />
        <p className="figure text-sm text-soft">± {formatUncertainty(now.U, now.resolution, u)}</p>
      </div>
    </div>
  );
}

function Measuring({ sheet, loop, newId, here }: { sheet: SheetView; loop: LoopView; newId: string; here: Here }) {
  const { advice, runs } = loop;
  const turning = (loop.found || loop.stopped) && here.turns;
  const move = turning && advice?.kind === "move" && !loop.finding && here.moves;
  // A gauge that can’t tell is read beside a finer one: that entry is not hidden.
  const fault = turning && advice?.kind === "fault" && !loop.finding && !isLeftAsIs(advice.fault);
  const ended = loop.finding !== null;
  return (
    <>
      {loop.adjustable && !loop.amount?.retime && (turning || loop.stopped || loop.more) && (
        <NextMove sheet={sheet} loop={loop} newId={newId} />
      )}
      {move && <MoveEntry key={`${loop.id}-advised`} sheet={sheet} loop={loop} newId={newId} />}
      {loop.stopped ? null : move || fault || ended ? (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
            {ended ? "Read again" : "Read again before adjusting"}
          </summary>
          <ReadingEntry key={loop.id} sheet={sheet} loop={loop} newId={newId} />
        </details>
      ) : (
        <ReadingEntry key={loop.id} sheet={sheet} loop={loop} newId={newId} />
      )}
      {!move && turning && loop.adjustable && !loop.stopped && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Adjusted again</summary>
          <MoveEntry key={`${loop.id}-again`} sheet={sheet} loop={loop} newId={newId} />
        </details>
      )}
      {loop.adjustable && here.turns && runs.asFound + runs.asLeft > 0 && (
        <details open={loop.stopped || loop.finding !== null ? true : undefined}>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Something was renewed or freed</summary>
          <RepairEntry key={loop.id} sheet={sheet} loop={loop} newId={newId} />
        </details>
      )}
    </>
  );
}

function Correction({
  sheet,
  loop,
  newId,
  correcting,
  onCorrected,
}: {
  sheet: SheetView;
  loop: LoopView;
  newId: string;
  correcting: Correcting;
  onCorrected: () => void;
}) {
  return (
    <CorrectionFrame what={<strong className="figure">{correcting.was}</strong>} onLeave={onCorrected}>
      {correcting.kind === "reading" ? (
        <ReadingEntry sheet={sheet} loop={loop} newId={newId} correcting={correcting} onSaved={onCorrected} />
      ) : correcting.kind === "repair" ? (
        <RepairEntry sheet={sheet} loop={loop} newId={newId} correcting={correcting} onSaved={onCorrected} />
      ) : (
        <MoveEntry sheet={sheet} loop={loop} newId={newId} correcting={correcting} onSaved={onCorrected} />
      )}
    </CorrectionFrame>
  );
}

function Visits({ sheet, loop }: { sheet: SheetView; loop: LoopView }) {
  const { day } = useDates();
  const u = unitById(loop.unit);
  if (sheet.visits.length === 0)
    return (
      <p className="border-t-2 border-rule pt-3 text-sm text-soft">
        No earlier visit on record has this reading of this machine.
      </p>
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
              className="grid min-h-11 grid-cols-[5.4rem_1fr_auto] items-center gap-2 text-sm hover:bg-well"
            >
              <Day iso={v.at} />
              <Strip
                tolerance={v.tolerance}
                found={v.asFound}
                left={v.asLeft}
                unit={loop.unit}
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
