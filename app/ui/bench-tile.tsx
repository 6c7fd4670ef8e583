import { NavLink } from "react-router";
import type { Tile } from "~server/jobs/bench";
import { formatQuantity, unitById } from "~core/quantity";

/** One machine in hand: where its work stands, at a glance. */
export function BenchTile({ tile, unit, wide = false }: { tile: Tile; unit: string; wide?: boolean }) {
  return (
    <NavLink
      to={`/jobs/${tile.jobId}`}
      className={({ isActive }) =>
        `grid gap-1 border-l-8 bg-sheet px-3 py-2.5 hover:bg-well ${isActive ? "border-brass" : "border-rule"} ${wide ? "min-h-28" : ""}`
      }
    >
      <span className="truncate font-bold">{tile.site}</span>
      <span className="truncate text-sm text-soft">{tile.model}</span>
      <span className="flex items-baseline justify-between gap-2 [&>.figure]:whitespace-nowrap">
        <span className={wide ? "text-lg font-semibold" : "font-semibold"}>{tile.inHand}</span>
        {tile.now && (
          <span className="figure text-sm">{formatQuantity(tile.now.value, tile.now.resolution, unitById(unit))}</span>
        )}
      </span>
      {wide && <span className="text-sm text-soft">needs {tile.needs}</span>}
      <Steps done={tile.done} of={tile.of} />
    </NavLink>
  );
}

/** Stations as cuts on a tally: done ones filled. */
function Steps({ done, of }: { done: number; of: number }) {
  return (
    <span role="img" aria-label={`${done} of ${of} stations done`} className="mt-0.5 flex gap-1">
      {Array.from({ length: of }, (_, i) => (
        <span key={i} className={`h-2 flex-1 -skew-x-20 border border-ink ${i < done ? "bg-ink" : ""}`} />
      ))}
    </span>
  );
}
