import type { ReactNode } from "react";
import { Link } from "react-router";
import type { SheetView } from "~server/jobs/views/sheet";
import type { TaskProps } from "./props";
import { VerdictMark } from "~app/ui/verdict";
import { endedWords } from "~core/knobs";
import { formatQuantity, unitById } from "~core/quantity";

type Props = Pick<TaskProps<"readings" | "loop">, "task" | "sheet">;

/** Brew pressure has stations of its own for each run; of others the readings as found are one task among several. */
export function ReadingsTask({ task, sheet }: TaskProps<"readings">) {
  const loop = sheet.loops.find((l) => l.id === task.loop);
  if (!loop) return null;
  if (!loop.brew) return <FoundTask task={task} sheet={sheet} loop={loop} />;
  return (
    <div className="grid gap-2">
      <p>
        {task.run === "as-found"
          ? "Blind basket and gauge in, pump on, wait until steady, then read. Water must return through the OPV while the pressure is up."
          : "Read once more, with nothing adjusted since."}
      </p>
      {sheet.loop?.id === task.loop && <How lines={sheet.loop?.how ?? []} />}
    </div>
  );
}

type LoopBrief = SheetView["loops"][number];

/** Read as found in this station, set in a later one. */
function FoundTask({ task, sheet, loop }: Props & { loop: LoopBrief }) {
  return (
    <LoopSection task={task} sheet={sheet} loop={loop} point={loop.asFound} ifOptional="if it is wanted">
      {!task.done && <p className="text-sm">Take the reading before anything is adjusted.</p>}
    </LoopSection>
  );
}

/** A loop of one station: what it came to, and the way to it when another one is beside. */
export function LoopTask({ task, sheet }: TaskProps<"loop">) {
  const loop = sheet.loops.find((l) => l.id === task.loop);
  if (!loop) return null;
  return (
    <LoopSection
      task={task}
      sheet={sheet}
      loop={loop}
      point={loop.runs.touched ? loop.asLeft : loop.asFound}
      ifOptional="if it is needed"
    >
      <How lines={sheet.loop?.how ?? []} />
      {!task.done && <p className="text-sm">Take the reading{loop.adjustable ? ", then adjust" : ""}.</p>}
    </LoopSection>
  );
}

/** One loop in a station: its figure, and either what is said of the one in hand or the way to take it in hand. */
function LoopSection({
  task,
  sheet,
  loop,
  point,
  ifOptional,
  children,
}: Props & { loop: LoopBrief; point: LoopBrief["asFound"]; ifOptional: string; children: ReactNode }) {
  const shown = sheet.loop?.id === loop.id;
  return (
    <section aria-label={task.label} className={`grid gap-1 border-l-4 pl-3 ${shown ? "border-brass" : "border-rule"}`}>
      <div className="flex min-h-11 flex-wrap items-center gap-x-3">
        <h4 className="font-semibold">
          {task.label}
          {task.optional && <span className="font-normal text-soft">, {ifOptional}</span>}
        </h4>
        {point && (
          <>
            <span className="figure font-semibold">
              {loop.unit === "dC" && point.value > 0.05 ? "+" : ""}
              {formatQuantity(point.value, point.resolution, unitById(loop.unit))}
            </span>
            <VerdictMark verdict={point.verdict} />
          </>
        )}
        {loop.finding && <strong>{endedWords(loop.finding.fault)}</strong>}
        {!shown && (
          <Link
            to={`?at=${sheet.open?.id}&loop=${loop.id}`}
            preventScrollReset
            className="no-print ml-auto inline-flex min-h-11 items-center px-2 underline decoration-edge underline-offset-4"
          >
            {point ? "Add reading" : "Measure"}
            <span className="sr-only">: {task.label}</span>
          </Link>
        )}
      </div>
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      {shown && children}
    </section>
  );
}

function How({ lines }: { lines: readonly string[] }) {
  return lines.map((line) => (
    <p key={line} className="text-sm">
      {line}
    </p>
  ));
}

export function AdjustTask({ sheet }: TaskProps<"adjust">) {
  if (sheet.loop?.stopped)
    return <p>The test has ended. Save the fault, or save what was renewed or freed and read again.</p>;
  return (
    <p>
      {sheet.loop?.hand?.fractions === false
        ? "Follow the next move, and read after each adjustment."
        : "Follow the next move, and read after each adjustment. Stop the pump before turning."}
    </p>
  );
}
