import type { Place } from "~core/metrology";
import type { LoopView } from "~server/jobs/views/knob";
import type { SheetView } from "~server/jobs/views/sheet";
import { Clock } from "~app/ui/dates";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { amountWords } from "~core/grinder";
import { moveDone } from "~core/knobs";
import { PLACE_WORDS } from "./place-words";
import { LineButton } from "./undo";
import { formatQuantity, formatTurns, unitById } from "~core/quantity";

export interface Correcting {
  id: string;
  kind: Line["kind"];
  was: string;
  /** What it was read with, and where that sat: its correction was read so too, unless that is what is corrected. */
  with: { gaugeId: string; place: Place } | null;
}

/** What the form of one line is given: a reading, a turn or a repair, new or correcting one. */
export interface LineEntryProps {
  sheet: SheetView;
  loop: LoopView;
  newId: string;
  correcting?: Correcting;
  onSaved?: () => void;
}

type Line = LoopView["log"][number];

/** Readings and turns in the order they were made. A corrected line stays, struck through. */
export function Log({
  loop,
  jobId,
  newId,
  onCorrect,
}: {
  loop: LoopView;
  jobId: string;
  newId: string;
  onCorrect?: ((c: Correcting) => void) | undefined;
}) {
  if (loop.log.length === 0) return null;
  return (
    <ol aria-label="Readings and adjustments" className="divide-y divide-rule border-y border-rule">
      {loop.log.map((line) => {
        const said = sayLine(line, loop);
        return (
          <li key={line.id} className="flex min-h-11 flex-wrap items-center gap-x-3 py-1">
            <span className="figure w-12 shrink-0 text-sm text-soft">
              <Clock iso={line.at} />
            </span>
            <span
              className={`${line.kind === "repair" ? "min-w-0 flex-1" : "figure w-40 shrink-0 whitespace-nowrap max-sm:w-auto max-sm:flex-1"} ${line.stands ? "" : "text-soft line-through"} ${line.kind === "reading" ? "font-semibold" : "text-brass"}`}
            >
              {said}
            </span>
            <span className="min-w-0 grow basis-40 text-sm text-soft max-sm:order-last max-sm:basis-full">
              {line.kind === "reading" && line.gauge}
              {line.kind === "reading" && loop.places.length > 1 && `, ${PLACE_WORDS[line.place]}`}
              {line.kind === "reading" &&
                line.shown !== null &&
                `, gauge showed ${formatQuantity(line.shown, line.resolution, unitById(loop.unit))}`}
              {line.kind === "repair" && "renewed or freed"}
              {line.kind === "reading" && besideOf(line, loop)}
              {line.kind === "reading" && line.aside && <strong className="text-ink">, {line.aside}</strong>}
              {line.kind === "reading" && line.early && <strong className="text-ink"> {line.early}</strong>}
              {line.reason && `, corrected: ${line.reason}`}
              {line.kind === "reading" && line.excluded && `, excluded: ${line.excluded.why}`}
            </span>
            {onCorrect && line.kind === "reading" && (line.stands || line.excluded) && (
              <Exclusion jobId={jobId} newId={newId} line={line} said={said} />
            )}
            {onCorrect && line.stands && line.kind !== "grind" && (
              <button
                type="button"
                className="min-h-11 shrink-0 cursor-pointer px-2 text-sm underline decoration-edge underline-offset-4"
                onClick={() =>
                  onCorrect({ id: line.id, kind: line.kind, was: said, with: line.kind === "reading" ? line : null })
                }
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

/** Why a reading may be no reading of what is there. */
const WHY = ["Misread", "Not steady yet", "Old value", "Wrong gauge or unit"];

/** Takes a reading out of what is made of the others, by its reason; or counts it again. */
function Exclusion({
  jobId,
  newId,
  line,
  said,
}: {
  jobId: string;
  newId: string;
  line: Extract<Line, { kind: "reading" }>;
  said: string;
}) {
  const id = line.excluded?.id ?? line.id;
  const entry = useEntry("strike", jobId, newId, { key: `strike-${id}` });
  const form = (
    <EntryForm entry={entry} className="flex flex-wrap gap-x-2">
      <input type="hidden" name="entryId" value={id} />
      {line.excluded ? (
        <LineButton does="Count again" what={said} disabled={entry.busy} />
      ) : (
        WHY.map((why) => (
          <button
            key={why}
            name="reason"
            value={why}
            disabled={entry.busy}
            className="min-h-11 cursor-pointer rounded border-2 border-edge px-3 text-sm"
          >
            {why}
          </button>
        ))
      )}
    </EntryForm>
  );
  if (line.excluded) return form;
  return (
    <details className="max-sm:order-last open:basis-full">
      <summary className="min-h-11 cursor-pointer px-2 py-3 text-sm underline decoration-edge underline-offset-4">
        Exclude<span className="sr-only"> {said}</span>
      </summary>
      {form}
    </details>
  );
}

function sayLine(line: Line, loop: LoopView): string {
  if (line.kind === "reading") {
    const plus = loop.judged === "temperatureDifference" && line.value > 0 ? "+" : "";
    return plus + formatQuantity(line.value, line.resolution, unitById(loop.unit));
  }
  if (line.kind === "repair") return line.text;
  if (line.kind === "grind") return `grind ${line.from} to ${line.to}`;
  const { hand } = loop;
  if (!hand) return "";
  if (hand.fractions)
    return `${line.amount > 0 ? "↻" : "↺"} ${formatTurns(line.amount)} ${Math.abs(line.amount) > 1 ? "turns" : "turn"}`;
  return moveDone(hand, line.amount, (size) => String(Math.round(size * 100) / 100));
}

/** What was seen beside the figure. */
function besideOf({ detail }: Extract<Line, { kind: "reading" }>, loop: LoopView): string {
  const said = [
    detail.flowing && `flowing, ${detail.bleed} ml/s`,
    detail.low !== undefined && "needle swings",
    detail.clock !== undefined && "by dial position",
    detail.setPoint !== undefined && `at ${detail.setPoint} °C set`,
    detail.seconds !== undefined && `ran ${detail.seconds} s`,
    detail.amount !== undefined &&
      loop.amount &&
      `${loop.amount.label}: ${amountWords(loop.amount.kind, detail.amount)}`,
    detail.tap === "closed" && "tap closed",
    detail.half !== undefined && `${detail.half === 1 ? "first" : "second"} half`,
    detail.basket && `${detail.basket} basket`,
    detail.trimmed !== undefined && `trimmed to ${detail.trimmed.toFixed(1)} g`,
    detail.by && `${detail.by} of a curve`,
    detail.returned === "seen" && "water returns",
    detail.returned === "none" && "no water returns",
  ].filter(Boolean);
  return said.length ? `, ${said.join(", ")}` : "";
}
