import type { SheetView } from "~server/jobs/view";
import { Clock } from "~app/ui/dates";
import { formatQuantity, formatTurnsLong, unitById } from "~core/quantity";

export interface Correcting {
  id: string;
  kind: "reading" | "move";
  was: string;
}

type Line = SheetView["log"][number];

/** Readings and turns in the order they were made. A corrected line stays, struck through. */
export function Log({
  lines,
  unit,
  onCorrect,
}: {
  lines: readonly Line[];
  unit: string;
  onCorrect?: ((c: Correcting) => void) | undefined;
}) {
  if (lines.length === 0) return null;
  return (
    <ol aria-label="Readings and turns" className="divide-y divide-rule border-y border-rule">
      {lines.map((line) => {
        const said = sayLine(line, unit);
        return (
          <li key={line.id} className="flex min-h-11 items-center gap-3 py-1">
            <span className="figure w-12 shrink-0 text-sm text-soft">
              <Clock iso={line.at} />
            </span>
            <span
              className={`figure w-40 shrink-0 whitespace-nowrap ${line.stands ? "" : "text-soft line-through"} ${line.kind === "move" ? "text-brass" : "font-semibold"}`}
            >
              {said}
            </span>
            <span className="min-w-0 flex-1 truncate text-sm text-soft">
              {line.kind === "reading" ? line.gauge : "screw"}
              {line.kind === "reading" && line.early && (
                <strong className="text-ink"> early: before the machine was warm</strong>
              )}
              {line.reason && `, corrected: ${line.reason}`}
            </span>
            {onCorrect && line.stands && (
              <button
                type="button"
                className="min-h-11 shrink-0 cursor-pointer px-2 text-sm underline decoration-edge underline-offset-4"
                onClick={() => onCorrect({ id: line.id, kind: line.kind, was: said })}
              >
                Correct<span className="sr-only"> {said}</span>
              </button>
            )}
          </li>
        );
      })}
    </ol>
  );
}

function sayLine(line: Line, unit: string): string {
  if (line.kind === "reading") return formatQuantity(line.value, line.resolution, unitById(unit));
  return `${line.turns > 0 ? "↻" : "↺"} ${formatTurnsLong(line.turns)}`;
}
