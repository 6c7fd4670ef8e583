import type { ReactNode } from "react";
import type { TaskViewOf } from "~server/jobs/views/station";
import type { SheetView } from "~server/jobs/views/sheet";
import { Countdown } from "~app/ui/clock";
import { useDates } from "~app/ui/dates";
import { Strip } from "~app/ui/strip";
import { VerdictMark } from "~app/ui/verdict";
import { formatFigure, formatQuantity, unitById, unitsOf } from "~core/quantity";

/** What is measured away from the brew gauge: running clocks large, the figure of the station in hand on its strip, the water. */
export function Instrument({ sheet, unit, correction }: { sheet: SheetView; unit: string; correction: ReactNode }) {
  const { open, clocks } = sheet;
  const figures = (open?.tasks ?? []).flatMap((t) =>
    (t.kind === "figure" || t.kind === "hardness") && t.lines.length > 0 ? [t] : [],
  );
  const nothing = clocks.length === 0 && figures.length === 0 && !sheet.scale;
  return (
    <div className="grid content-start gap-5 p-4 wide:p-5">
      {correction}
      {clocks.map((clock) => (
        <section key={clock.id} aria-label={clock.label} className="grid gap-1 border-b-2 border-rule pb-4">
          <h2 className="font-bold">{clock.label}</h2>
          <Countdown dueAt={clock.dueAt} at={sheet.at} className="text-6xl leading-none font-semibold" />
          <Elapsed {...clock} at={sheet.at} />
          <p className="text-sm text-soft">
            {clock.dueAt > sheet.at ? "due at" : "was due at"} <TimeOf ms={clock.dueAt} />, started by {clock.by}
          </p>
        </section>
      ))}
      {figures.map((task) => (
        <Figure key={task.id} task={task} unit={unit} />
      ))}
      {sheet.scale && <Scale scale={sheet.scale} />}
      {nothing && <AboutThisKind sheet={sheet} needs={open ? `${open.title}. Bring: ${open.needs}.` : ""} />}
    </div>
  );
}

/** Clocks that run by themselves while something else is measured: a line each. */
export function RunningClocks({ sheet }: { sheet: SheetView }) {
  return sheet.clocks.map((clock) => (
    <section
      key={clock.id}
      aria-label={clock.label}
      className="flex items-baseline justify-between gap-3 border-b border-rule pb-2"
    >
      <h3 className="text-sm font-bold">{clock.label}</h3>
      <Countdown dueAt={clock.dueAt} at={sheet.at} className="text-2xl font-semibold" />
    </section>
  ));
}

/** With nothing to measure: what is special about this kind of machine, and what must never be done on it. */
function AboutThisKind({ sheet, needs }: { sheet: SheetView; needs: string }) {
  return (
    <section aria-labelledby="about-kind" className="grid gap-3">
      <h2 id="about-kind" className="font-bold">
        {sheet.machine.kind}
      </h2>
      {needs && <p className="text-soft">{needs}</p>}
      {sheet.machine.special.length > 0 && (
        <ul className="grid gap-1.5 border-l-4 border-rule pl-3">
          {sheet.machine.special.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {sheet.machine.forbidden.length > 0 && (
        <ul aria-label="Never" className="grid gap-1.5 border-l-4 border-alarm pl-3">
          {sheet.machine.forbidden.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {sheet.machine.modifications && <p>Changed on this one: {sheet.machine.modifications}</p>}
    </section>
  );
}

function TimeOf({ ms }: { ms: number }) {
  const { timeOfDay } = useDates();
  return (
    <time dateTime={new Date(ms).toISOString()} className="figure">
      {timeOfDay(ms)}
    </time>
  );
}

/** How far a clock has run, as a bar that fills. */
function Elapsed({ startedAt, dueAt, at }: { startedAt: number; dueAt: number; at: number }) {
  const share = Math.min(1, Math.max(0, (at - startedAt) / (dueAt - startedAt)));
  return (
    <svg viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden="true" className="h-3 w-full">
      <path d="M0 0 H100 V6 H0 Z" fill="var(--rule)" />
      <path d={`M0 0 H${100 * share} V6 H0 Z`} fill="var(--ink)" />
    </svg>
  );
}

function Figure({ task, unit: pressureUnit }: { task: TaskViewOf<"figure" | "hardness">; unit: string }) {
  const unitId = task.dimension === "pressure" ? pressureUnit : unitsOf(task.dimension)[0]!.id;
  const unit = unitById(unitId);
  const values = task.lines.flatMap((l) => (l.value === null ? [] : [l.value]));
  const last = values.at(-1);
  const verdict = task.lines.at(-1)?.verdict;
  if (last === undefined) return null;
  const mark = (value: number) => ({ value, U: task.resolution / 2 });
  return (
    <section aria-label={task.label} className="grid gap-3">
      <h2 className="font-bold">{task.label}</h2>
      <div className="flex flex-wrap items-end justify-between gap-3" role="status" aria-live="polite">
        <p className="figure text-6xl leading-none font-semibold whitespace-nowrap">
          {formatFigure(last, task.resolution, unit)}
          <span className="ml-2 text-2xl">{unit.symbol}</span>
        </p>
        {verdict && <VerdictMark verdict={verdict} large />}
      </div>
      {task.tolerance && (
        <Strip
          tolerance={task.tolerance}
          found={mark(values[0]!)}
          left={values.length > 1 ? mark(last) : null}
          unit={unitId}
          resolution={task.resolution}
          label={task.label}
        />
      )}
      {task.kind === "hardness" && (
        <p className="figure text-sm text-soft">
          {unitsOf("hardness")
            .filter((u) => u.id !== unitId)
            .map((u) => formatQuantity(last, u.factor / 10, u))
            .join(" · ")}
        </p>
      )}
    </section>
  );
}

function Scale({ scale }: { scale: NonNullable<SheetView["scale"]> }) {
  const figure = (x: number) => `${x < 0 ? "−" : "+"}${Math.abs(x).toFixed(1)}`;
  return (
    <section aria-labelledby="scale" className="grid gap-2">
      <h2 id="scale" className="font-bold">
        What this water does
      </h2>
      <table className="w-full text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th scope="col">at</th>
            <th scope="col">saturation index</th>
            <th scope="col">it</th>
          </tr>
        </thead>
        <tbody className="divide-y divide-rule border-y border-rule">
          {scale.map((s) => (
            <tr key={s.where}>
              <th scope="row" className="py-2 font-semibold">
                {s.where}, <span className="figure">{s.celsius} °C</span>
              </th>
              <td className="figure">
                {figure(s.low)} to {figure(s.high)}
              </td>
              <td>{s.word === "open" ? "may go either way" : s.word}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-sm text-soft">
        Langelier’s index in Carrier’s simplification (1965). What the strip does not say (calcium share, alkalinity,
        pH, dissolved solids) is left open, so the range is wide.
        {scale.some((s) => s.beyond) &&
          " Above 90 °C it is carried on past its fitted range: the sign tells, the figure less."}
      </p>
    </section>
  );
}
