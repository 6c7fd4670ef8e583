import type { LoopView } from "~server/jobs/views/knob";
import { Countdown } from "~app/ui/clock";
import { VerdictMark } from "~app/ui/verdict";
import { formatFigure, formatUncertainty, unitById } from "~core/quantity";

/** What stands beside the figure: the band, the flowing test, two gauges that disagree, the wait after a change, the spread. */
export function LoopNotes({ loop, at }: { loop: LoopView; at: number }) {
  const u = unitById(loop.unit);
  const show = (x: number) => formatFigure(x, loop.resolution, u);
  const { band, flowing, settleUntil } = loop;
  return (
    <>
      {loop.disagree && (
        <p role="status" className="border-l-8 border-alarm bg-alarm-wash p-3">
          {loop.disagree}
        </p>
      )}
      {loop.amount?.retime && (
        <p role="status" className="border-l-8 border-brass bg-brass-wash p-3 font-semibold">
          {loop.amount.retime}
        </p>
      )}
      {loop.onDial && <p className="figure text-sm text-soft">{loop.onDial}</p>}
      {loop.amount?.rate && <p className="figure text-sm text-soft">{loop.amount.rate}</p>}
      {loop.byHand && <p className="border-l-4 border-rule pl-3">{loop.byHand}</p>}
      {band?.now && (
        <p className="flex flex-wrap items-baseline gap-x-3">
          <span>
            Band{" "}
            <span className="figure font-semibold">
              {show(band.now.band)} {u.symbol}
            </span>
            , in at <span className="figure font-semibold">{show(band.now.cutIn)}</span>, out at{" "}
            <span className="figure font-semibold">{show(band.now.cutOut)}</span>
          </span>
          <VerdictMark verdict={band.now.verdict} />
          {band.now.verdict === "off" && (
            <span className="w-full text-sm">
              The band should be {show(band.tolerance.lower)} to {show(band.tolerance.upper)} {u.symbol}. {band.off}
            </span>
          )}
        </p>
      )}
      {flowing && (
        <p className="border-l-4 border-rule pl-3">
          Flowing: <span className="figure font-semibold">{show(flowing.value)}</span> {u.symbol},{" "}
          <span className="figure">{show(flowing.sag)}</span> under the static reading.{" "}
          <strong>{flowing.verdict}</strong>. {flowing.means}
        </p>
      )}
      {loop.spread && loop.asLeft && loop.asLeft.count > 1 && (
        <p className="text-sm text-soft">
          Mean of {loop.asLeft.count} {loop.spread.of}; they spread by{" "}
          <span className="figure">{formatUncertainty(loop.spread.sd, 0.1, u)}</span> {u.symbol} (one standard
          deviation).
        </p>
      )}
      {settleUntil !== null && settleUntil > at && !loop.accepted && (
        <p role="status" className="border-l-8 border-brass bg-brass-wash p-3">
          The change settles for <Countdown dueAt={settleUntil} at={at} className="font-semibold" /> more. A reading
          before that may still show the old value.
        </p>
      )}
    </>
  );
}
