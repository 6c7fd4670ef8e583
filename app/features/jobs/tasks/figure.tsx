import type { TaskViewOf } from "~server/jobs/views/station";
import { TaskLines } from "./recorded";
import type { TaskProps } from "./props";
import { EntryForm } from "~app/ui/entry-form";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, SureBox, tied } from "~app/ui/field";
import { type Dimension, formatFigure, unitById, unitsOf } from "~core/quantity";

/** A figure with its unit: "130 psi", "6,8 bar", "3-4 °dH" are understood. */
export function FigureTask({ task, sheet, newId, unit }: TaskProps<"figure" | "hardness" | "purge">) {
  const entry = useEntry("entry", sheet.job.id, newId, { key: `entry-${task.id}` });
  const { typed, sure } = entry.fields;
  const shown = unitOfFigure(task, unit);
  const { tolerance } = task;
  return (
    <div className="grid gap-2">
      <TaskLines task={task} sheet={sheet} newId={newId} />
      {task.remedy && (
        <p role="status" className="border-l-8 border-alarm bg-alarm-wash p-3 font-semibold">
          {task.remedy}
        </p>
      )}
      <EntryForm entry={entry} className="grid gap-2">
        <input type="hidden" name="task" value={task.id} />
        {task.kind !== "hardness" && <input type="hidden" name="unit" value={shown} />}
        <div className="flex flex-wrap items-end gap-2">
          <div className="grid min-w-40 flex-1 gap-1.5">
            <label htmlFor={typed!.id} className="font-semibold">
              {task.label}
              {task.optional && <span className="font-normal text-soft"> (optional)</span>}
            </label>
            <input
              {...tied(typed!, task.hint, sure)}
              type="text"
              inputMode={task.kind === "hardness" ? "text" : "decimal"}
              className="figure h-14 w-full rounded-md border-2 border-edge bg-sheet px-3 text-2xl font-semibold aria-invalid:border-alarm"
            />
          </div>
          {task.kind === "hardness" ? (
            <select
              {...tied(entry.fields.unit!)}
              aria-label="Unit of hardness"
              defaultValue="mg/L"
              className="h-14 rounded-md border-2 border-edge bg-sheet px-2"
            >
              {unitsOf("hardness").map((u) => (
                <option key={u.id} value={u.id}>
                  {u.symbol}
                </option>
              ))}
            </select>
          ) : (
            <span className="figure grid h-14 items-center text-lg text-soft">{unitById(shown).symbol}</span>
          )}
          <Button disabled={entry.busy} className="h-14">
            {entry.busy ? "Saving…" : "Save"}
          </Button>
        </div>
        {task.instruments.length > 0 && (
          <label className="flex flex-wrap items-center gap-2 text-sm">
            Read with
            <select
              name="instrumentId"
              className="min-h-11 min-w-0 rounded-md border-2 border-edge bg-sheet px-2"
              defaultValue={task.instruments[0]!.id}
            >
              <KitOptions kit={task.instruments} />
            </select>
          </label>
        )}
        {(task.hint || tolerance) && (
          <p id={`${typed!.id}-hint`} className="text-sm text-soft">
            {task.hint} {tolerance && `Limits: ${limitsIn(tolerance, task.resolution, shown)}.`}
          </p>
        )}
        <FieldError field={typed!} />
        <SureBox field={sure!} />
      </EntryForm>
    </div>
  );
}

/** What a figure can be read with: the kit that fits, or something else. */
export function KitOptions({ kit }: { kit: TaskViewOf<"figure">["instruments"] }) {
  return (
    <>
      {kit.map((g) => (
        <option key={g.id} value={g.id}>
          {g.name}
        </option>
      ))}
      <option value="">Other (not in kit)</option>
    </>
  );
}

/** Litres run to waste are counted in litres; pressures are typed in the person’s own unit. */
export function unitOfFigure(
  { kind, dimension, unit }: { kind: string; dimension: Dimension; unit?: string | null },
  pressureUnit: string,
): string {
  if (kind === "purge") return "l";
  if (unit) return unit;
  return dimension === "pressure" ? pressureUnit : unitsOf(dimension)[0]!.id;
}

function limitsIn(
  { lower, upper }: { lower?: number | undefined; upper?: number | undefined },
  resolution: number,
  unitId: string,
): string {
  const unit = unitById(unitId);
  const show = (value: number) => formatFigure(value, resolution, unit);
  if (lower === undefined) return `up to ${show(upper!)} ${unit.symbol}`;
  return upper === undefined
    ? `${show(lower)} ${unit.symbol} or more`
    : `${show(lower)} to ${show(upper)} ${unit.symbol}`;
}
