import { Link } from "react-router";
import type { TaskView } from "~server/jobs/station-view";
import type { SheetView } from "~server/jobs/view";
import { VerdictMark } from "~app/ui/verdict";
import { formatQuantity, unitById } from "~core/quantity";

interface Props {
  task: TaskView;
  sheet: SheetView;
}

export function ReadingsTask({ task, sheet }: Props) {
  const loop = sheet.loops.find((l) => l.id === task.loop);
  if (!loop) return null;
  if (loop.id !== "opv") return <FoundTask task={task} sheet={sheet} loop={loop} />;
  return (
    <div className="grid gap-2">
      <p>
        {task.id === "as-found"
          ? `Blind basket and gauge in, pump on, wait until the needle stands. Read, note, repeat: ${loop.needed.found} readings before anything is turned. Water must be seen returning through the valve while the pressure is up.`
          : `The figure holds. Read until ${loop.needed.left} readings stand since the last turn.`}
      </p>
      {sheet.loop?.id === task.loop && <How lines={sheet.loop?.how ?? []} />}
    </div>
  );
}

/** Read as found in this station, set in a later one. */
function FoundTask({ task, sheet, loop }: Props & { loop: SheetView["loops"][number] }) {
  const shown = sheet.loop?.id === loop.id;
  return (
    <section aria-label={task.label} className={`grid gap-1 border-l-4 pl-3 ${shown ? "border-brass" : "border-rule"}`}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h4 className="font-semibold">
          {task.label}
          {task.optional && <span className="font-normal text-soft">, if it is wanted</span>}
        </h4>
        <Point loop={loop} point={loop.asFound} />
      </div>
      {shown ? (
        !task.done && <p className="text-sm">It is read beside, before anything is touched.</p>
      ) : (
        <TakeInHand task={task} sheet={sheet} loop={loop} read={loop.asFound !== null} />
      )}
    </section>
  );
}

function Point({ loop, point }: { loop: SheetView["loops"][number]; point: SheetView["loops"][number]["asFound"] }) {
  if (!point) return null;
  return (
    <>
      <span className="figure font-semibold">
        {loop.unit === "dC" && point.value > 0.05 ? "+" : ""}
        {formatQuantity(point.value, point.resolution, unitById(loop.unit))}
      </span>
      <VerdictMark verdict={point.verdict} />
    </>
  );
}

function TakeInHand({ task, sheet, loop, read }: Props & { loop: SheetView["loops"][number]; read: boolean }) {
  return (
    <Link
      to={`?at=${sheet.inHand}&loop=${loop.id}`}
      preventScrollReset
      className="inline-flex min-h-11 items-center justify-self-start underline decoration-edge underline-offset-4"
    >
      {read ? "Read on" : "Take it in hand"}
      <span className="sr-only">: {task.label}</span>
    </Link>
  );
}

/** A loop of one station: what it came to, and the way to it when another one is beside. */
export function LoopTask({ task, sheet }: Props) {
  const loop = sheet.loops.find((l) => l.id === task.loop);
  if (!loop) return null;
  const shown = sheet.loop?.id === loop.id;
  const point = loop.asLeft ?? loop.asFound;
  return (
    <section aria-label={task.label} className={`grid gap-1 border-l-4 pl-3 ${shown ? "border-brass" : "border-rule"}`}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h4 className="font-semibold">
          {task.label}
          {task.optional && <span className="font-normal text-soft">, if it is needed</span>}
        </h4>
        <Point loop={loop} point={point} />
        {loop.finding && <strong>ended with a fault</strong>}
      </div>
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      {shown ? (
        <>
          <How lines={sheet.loop?.how ?? []} />
          {!task.done && <p className="text-sm">It is read beside{loop.adjustable ? ", and set there" : ""}.</p>}
        </>
      ) : (
        <TakeInHand task={task} sheet={sheet} loop={loop} read={point !== null} />
      )}
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
