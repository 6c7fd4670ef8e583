import { Link } from "react-router";
import type { Tile } from "~server/jobs/views/bench";
import { formatQuantity, unitById } from "~core/quantity";
import { Countdown } from "./clock";
import { useDates } from "./dates";

interface Props {
  tile: Tile;
  unit: string;
  /** The server's time, ms. */
  at: number;
  /** This tile's job is the one on the page. */
  current?: boolean;
  wide?: boolean;
}

/** One machine in hand: where its work stands, at a glance. */
export function BenchTile({ tile, unit, at, current = false, wide = false }: Props) {
  const { timeOfDay } = useDates();
  return (
    <Link
      to={`/jobs/${tile.jobId}`}
      aria-current={current ? "page" : undefined}
      className={`grid gap-1 border-l-8 bg-sheet px-3 py-2.5 hover:bg-well ${current ? "border-brass" : "border-rule"} ${wide ? "min-h-28" : ""}`}
    >
      <span className="truncate font-bold">{tile.site}</span>
      <span className="truncate text-sm text-soft">{tile.model}</span>
      <span className="flex items-baseline justify-between gap-2 [&>.figure]:whitespace-nowrap">
        <span className={`${wide ? "text-lg " : ""}font-semibold`}>
          {tile.inHand}
          {tile.until !== null && <span className="font-normal text-soft"> waits</span>}
        </span>
        {tile.until !== null ? (
          <Countdown dueAt={tile.until} at={at} className="font-semibold" />
        ) : (
          tile.now && (
            <span className="figure text-sm">
              {formatQuantity(tile.now.value, tile.now.resolution, unitById(unit))}
            </span>
          )
        )}
      </span>
      {wide && (
        <span className="text-sm text-soft">
          {tile.until === null ? `can go on, needs ${tile.needs}` : `timer ends ${timeOfDay(tile.until)}`}
        </span>
      )}
      {(tile.until === null || tile.due) &&
        tile.clocks.slice(0, wide ? 3 : 1).map((clock) => (
          <span key={clock.label} className="flex justify-between gap-2 text-sm text-soft">
            <span className="truncate">{clock.dueAt <= at ? `${clock.label}: due` : clock.label}</span>
            <Countdown dueAt={clock.dueAt} at={at} className={clock.dueAt <= at ? "font-semibold text-ink" : ""} />
          </span>
        ))}
      <Steps done={tile.done} of={tile.of} />
    </Link>
  );
}

/** Stations as slanted cuts on a tally: done ones filled. One drawing, stretched to the tile. */
function Steps({ done, of }: { done: number; of: number }) {
  const cuts = (from: number, to: number) =>
    Array.from({ length: to - from }, (_, i) => `M${10 * (from + i) + 2} 1h7l-1 7h-7z`).join("");
  return (
    <svg
      role="img"
      aria-label={`${done} of ${of} steps done`}
      viewBox={`0 0 ${10 * of} 9`}
      preserveAspectRatio="none"
      className="mt-0.5 h-2.5 w-full stroke-ink"
    >
      <path d={cuts(0, done)} className="fill-ink" vectorEffect="non-scaling-stroke" />
      <path d={cuts(done, of)} fill="none" vectorEffect="non-scaling-stroke" />
    </svg>
  );
}
