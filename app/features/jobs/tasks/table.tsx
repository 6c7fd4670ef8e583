import { Suspense, useState } from "react";
import { lazyPart } from "~app/ui/lazy-part";
import type { SheetView } from "~server/jobs/views/sheet";
import { EntryForm } from "~app/ui/entry-form";
import { InSight } from "../in-sight";
import type { TaskProps } from "./props";
import { useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, TextField, tied } from "~app/ui/field";
import { VerdictMark } from "~app/ui/verdict";
import type { Verdict } from "~core/metrology";
import { unitById, unitsOf } from "~core/quantity";

const MeterChart = lazyPart(() => import("../charts").then((m) => ({ default: m.MeterChart })));

type Props = Omit<TaskProps<"table">, "person">;
type Table = Props["task"]["table"];

/** Rows of figures and what they come to. For those who want it, a fold that says it; where the station needs it, open. */
export function TableTask(props: Props) {
  const { task } = props;
  const { table } = task;
  const kept = table.rows.filter((r) => r.struck === null);
  const body = <TableBody {...props} table={table} />;
  if (!task.optional)
    return (
      <section aria-label={task.label} className="grid gap-2">
        <h4 className="font-semibold">{task.label}</h4>
        {body}
      </section>
    );
  return (
    <details className="group border-t border-rule">
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
        {task.label}
        {kept.length > 0 && (
          <span className="font-normal text-soft">
            , {kept.length} {kept.length === 1 ? "row" : "rows"}
          </span>
        )}
        {/* Folded, it says what it came to. */}
        {table.lines[0] && (
          <span className="block pl-4 font-normal group-open:hidden">
            {table.lines[0].text}{" "}
            {table.lines[0].verdict && <VerdictMark verdict={table.lines[0].verdict as Verdict} />}
          </span>
        )}
      </summary>
      {body}
    </details>
  );
}

function TableBody({ task, sheet, newId, unit, table }: Props & { table: Table }) {
  return (
    <div className="grid gap-3 pb-2">
      {task.hint && <p className="text-sm text-soft">{task.hint}</p>}
      {table.rows.length > 0 && <Rows table={table} sheet={sheet} newId={newId} unit={unit} label={task.label} />}
      {table.lines.length > 0 && (
        <div role="status" className="border-l-8 border-brass bg-brass-wash p-3">
          <ul aria-label={`${task.label}: worked out`} className="grid gap-1">
            {table.lines.map((line) => (
              <li key={line.text} className="flex flex-wrap items-baseline gap-x-3">
                {line.text} {line.verdict && <VerdictMark verdict={line.verdict as Verdict} />}
              </li>
            ))}
          </ul>
        </div>
      )}
      {table.meter && (
        <InSight height={250}>
          <Suspense fallback={<p className="text-sm text-soft">Drawing…</p>}>
            <MeterChart meter={table.meter} label={task.label} />
          </Suspense>
        </InSight>
      )}
      {sheet.job.state === "open" && <RowForm task={task} sheet={sheet} newId={newId} unit={unit} table={table} />}
    </div>
  );
}

const unitOf = (dimension: Table["columns"][number]["dimension"], unit: string) =>
  dimension === null ? "" : unitById(dimension === "pressure" ? unit : unitsOf(dimension)[0]!.id).symbol;

function Rows({
  table,
  sheet,
  newId,
  label,
}: {
  table: Table;
  sheet: SheetView;
  newId: string;
  unit: string;
  label: string;
}) {
  const [taking, setTaking] = useState<string | null>(null);
  return (
    <table aria-label={`${label}, rows`} className="w-full text-left">
      <thead className="text-sm text-soft">
        <tr>
          {table.columns.map((c) => (
            <th key={c.name} scope="col" className="font-normal">
              {c.label}
            </th>
          ))}
          <th scope="col">
            <span className="sr-only">Exclude</span>
          </th>
        </tr>
      </thead>
      <tbody className="divide-y divide-rule border-y border-rule">
        {table.rows.map((row) => (
          <tr key={row.id} className={row.struck === null ? "" : "text-soft line-through"}>
            {row.cells.map((cell, i) => (
              <td key={table.columns[i]!.name} className="figure py-1 pr-2">
                {cell}
              </td>
            ))}
            <td className="text-right">
              {row.struck === null && sheet.job.state === "open" && (
                <button
                  type="button"
                  onClick={() => setTaking(taking === row.id ? null : row.id)}
                  aria-expanded={taking === row.id}
                  className="min-h-11 cursor-pointer px-2 text-sm underline decoration-edge underline-offset-4"
                >
                  Exclude<span className="sr-only"> {row.cells.join(", ")}</span>
                </button>
              )}
              {taking === row.id && (
                <Strike jobId={sheet.job.id} newId={newId} id={row.id} onSaved={() => setTaking(null)} />
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Strike({ jobId, newId, id, onSaved }: { jobId: string; newId: string; id: string; onSaved: () => void }) {
  const entry = useEntry("strike", jobId, newId, { key: `strike-${id}`, onSaved });
  return (
    <EntryForm entry={entry} className="grid gap-2 pb-2 text-left">
      <input type="hidden" name="entryId" value={id} />
      <TextField field={entry.fields.reason!} label="Reason" />
      <Button disabled={entry.busy} className="justify-self-start">
        Exclude
      </Button>
    </EntryForm>
  );
}

function RowForm({ task, sheet, newId, unit, table }: Props & { table: Table }) {
  const entry = useEntry("row", sheet.job.id, newId, { key: `row-${task.id}` });
  return (
    <EntryForm entry={entry} again className="grid gap-2">
      <input type="hidden" name="task" value={task.id} />
      <input type="hidden" name="unit" value={unit} />
      <div className="flex flex-wrap items-start gap-2">
        {table.columns.map((c) => {
          const field = entry.field(`cell.${c.name}`);
          return (
            <div key={c.name} className="grid min-w-32 flex-1 gap-1">
              <label htmlFor={field.id} className="text-sm font-semibold">
                {c.label}
                {unitOf(c.dimension, unit) && (
                  <span className="font-normal text-soft">, {unitOf(c.dimension, unit)}</span>
                )}
                {c.optional && <span className="font-normal text-soft"> (optional)</span>}
              </label>
              {c.options.length > 0 ? (
                <select
                  {...tied(field)}
                  className="h-12 w-full min-w-0 rounded-md border-2 border-edge bg-sheet px-2 aria-invalid:border-alarm"
                >
                  <option value="">choose</option>
                  {c.options.map((o) => (
                    <option key={o.value} value={o.value}>
                      {o.label}
                    </option>
                  ))}
                </select>
              ) : (
                <input
                  {...tied(field)}
                  type="text"
                  inputMode="decimal"
                  className="figure h-12 w-full rounded-md border-2 border-edge bg-sheet px-2 text-lg aria-invalid:border-alarm"
                />
              )}
              {c.instruments.length > 0 && (
                <select
                  name={`with.${c.name}`}
                  aria-label={`${c.label}: read with`}
                  className="min-h-11 min-w-0 rounded-md border border-rule bg-sheet px-1"
                >
                  {c.instruments.map((g) => (
                    <option key={g.id} value={g.id}>
                      {g.name}
                    </option>
                  ))}
                </select>
              )}
              <FieldError field={field} />
            </div>
          );
        })}
      </div>
      <Button disabled={entry.busy} className="justify-self-start">
        {entry.busy ? "Saving…" : "Save row"}
      </Button>
    </EntryForm>
  );
}
