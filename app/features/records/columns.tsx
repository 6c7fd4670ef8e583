import { useState } from "react";
import { useActionData, useNavigation, Form } from "react-router";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, TextField } from "~app/ui/field";
import type { EntryAnswer } from "~app/ui/use-entry";
import { DAY_ORDERS, DAY_ORDER_WORDS, NOT_TAKEN, type Plan, TARGETS, TO_NOTE, readDay } from "~core/intake";
import { unitsOf } from "~core/quantity";
import type { Found } from "~server/intake/work";
import type { Preview } from "~server/intake/arrive";

const ENCODING_WORDS = {
  "utf-8": "UTF-8",
  "utf-16le": "UTF-16",
  "utf-16be": "UTF-16, big end first",
  "windows-1252": "Windows, Western Europe",
} as const;
const SEPARATOR_WORDS = { ",": "comma", ";": "semicolon", "\t": "tab", "|": "vertical bar" } as const;

type Field = (name: string) => Parameters<typeof FieldError>[0]["field"];

interface Shown {
  readonly plan: Plan;
  readonly found: Partial<Found> | null;
  readonly preview: Preview | { readonly wrong: string } | null;
}

/** How the file is understood: its form, its columns, and its first rows as they would be stored. */
export function Columns({ plan, found, preview }: Shown) {
  const answer = useActionData<EntryAnswer>();
  const busy = useNavigation().state !== "idle";
  const errors = (answer?.result as { error?: Record<string, string[]> } | undefined)?.error ?? {};
  const field: Field = (name) => ({ id: `in-${name}`, errorId: `in-${name}-error`, name, errors: errors[name] });
  const shown = preview && !("wrong" in preview) ? preview : null;
  return (
    <Form method="post" className="grid gap-6" preventScrollReset>
      {found?.serials && found.serials.length > 0 && <Unknown serials={found.serials} field={field} />}
      <section aria-labelledby="columns" className="grid gap-3">
        <h2 id="columns" className="text-xl font-bold">
          Its columns
        </h2>
        <p>Guessed from the heads and the first rows. Look at each.</p>
        <ul className="grid gap-2">
          {plan.columns.map((column, i) => (
            <Column
              key={i}
              {...{ column, i, field }}
              cells={shown?.raw.map((r) => r.cells[i] ?? "") ?? []}
              headed={plan.headed}
            />
          ))}
        </ul>
      </section>
      {shown?.days && <Days days={shown.days} chosen={plan.dayOrder} field={field} />}
      {!shown?.days && plan.dayOrder && <input type="hidden" name="dayOrder" value={plan.dayOrder} />}
      <Formed plan={plan} field={field} />
      {preview && "wrong" in preview && <p className="border-l-8 border-alarm bg-alarm-wash p-3">{preview.wrong}</p>}
      {shown && <Stored preview={shown} />}
      <FieldError field={field("")} />
      <div className="flex flex-wrap gap-3">
        <Button name="intent" value="plan" disabled={busy}>
          Update the preview
        </Button>
        <Button name="intent" value="check" look="main" disabled={busy}>
          Check all rows
        </Button>
      </div>
    </Form>
  );
}

const GROUPS: readonly [string, (target: string) => boolean][] = [
  ["Visit", (t) => TARGETS[t]!.form !== "figure"],
  ["Readings", (t) => TARGETS[t]!.form === "figure"],
];

function Column({
  column,
  i,
  cells,
  headed,
  field,
}: {
  column: Plan["columns"][number];
  i: number;
  cells: readonly string[];
  headed: boolean;
  field: Field;
}) {
  const [target, setTarget] = useState(column.target);
  const of = TARGETS[target];
  const name = column.head || `Column ${i + 1}`;
  const some = cells.slice(headed ? 1 : 0, headed ? 4 : 3).filter(Boolean);
  return (
    <li className="grid items-start gap-x-4 gap-y-2 bg-sheet p-3 sm:grid-cols-[1fr_1.2fr_8rem]">
      <div>
        <p className="font-semibold">{name}</p>
        <p className="text-sm break-words text-soft">
          {some.length > 0 ? some.join(" · ") : "empty in the first rows"}
        </p>
      </div>
      <SelectField
        field={field(`target.c${i}`)}
        label={<span className="sr-only">“{name}” is</span>}
        value={target}
        onChange={(e) => setTarget(e.currentTarget.value)}
      >
        <option value={NOT_TAKEN}>Not imported</option>
        <option value={TO_NOTE}>Into the note, as it stands</option>
        {GROUPS.map(([label, is]) => (
          <optgroup key={label} label={label}>
            {Object.keys(TARGETS)
              .filter(is)
              .map((t) => (
                <option key={t} value={t}>
                  {TARGETS[t]!.title}
                </option>
              ))}
          </optgroup>
        ))}
      </SelectField>
      {of?.form === "figure" && (
        <SelectField
          field={field(`unit.c${i}`)}
          label={<span className="sr-only">Unit of “{name}”</span>}
          defaultValue={column.unit}
        >
          {unitsOf(of.dimension).map((u) => (
            <option key={u.id} value={u.id}>
              {u.symbol}
            </option>
          ))}
        </SelectField>
      )}
    </li>
  );
}

function Days({ days, chosen, field }: { days: NonNullable<Preview["days"]>; chosen: string | null; field: Field }) {
  return (
    <fieldset className="grid gap-2 border-l-8 border-brass bg-sheet p-4">
      <legend className="sr-only">Order of days</legend>
      <p className="font-semibold">“{days.typed}” can be read in more than one way. Which day is it?</p>
      {days.orders.map((order) => {
        const one = DAY_ORDERS.find((o) => o === order)!;
        const read = readDay(days.typed, one, "9999-12-31");
        return (
          <label key={order} className="flex min-h-11 items-center gap-3">
            <input
              type="radio"
              name="dayOrder"
              value={order}
              defaultChecked={chosen === order}
              className="size-6 accent-ink"
            />
            {read.ok ? LONG_DAY.format(new Date(`${read.iso}T00:00:00Z`)) : "no day"} ({DAY_ORDER_WORDS[one]})
          </label>
        );
      })}
      <FieldError field={field("dayOrder")} />
    </fieldset>
  );
}

const LONG_DAY = new Intl.DateTimeFormat("en-GB", { dateStyle: "long", timeZone: "UTC" });

function Formed({ plan, field }: { plan: Plan; field: Field }) {
  return (
    <details className="bg-sheet px-4" open={["encoding", "separator"].some((n) => field(n).errors) || undefined}>
      <summary className="min-h-11 cursor-pointer py-2.5">
        How the file is written: {SEPARATOR_WORDS[plan.separator]} between cells, {ENCODING_WORDS[plan.encoding]},
        decimal {plan.decimals}
      </summary>
      <div className="grid items-start gap-4 pb-4 sm:grid-cols-2">
        <SelectField field={field("separator")} label="Between cells" defaultValue={plan.separator}>
          {Object.entries(SEPARATOR_WORDS).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
        <SelectField field={field("encoding")} label="Letters (encoding)" defaultValue={plan.encoding}>
          {Object.entries(ENCODING_WORDS).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
        <SelectField field={field("decimals")} label="Decimals" defaultValue={plan.decimals}>
          <option value="point">point: 9.2</option>
          <option value="comma">comma: 9,2</option>
        </SelectField>
        <SelectField field={field("headed")} label="First row" defaultValue={plan.headed ? "yes" : "no"}>
          <option value="yes">heads of the columns</option>
          <option value="no">a visit already</option>
        </SelectField>
      </div>
    </details>
  );
}

function Stored({ preview }: { preview: Preview }) {
  if (preview.stored.length === 0) return null;
  return (
    <section aria-labelledby="stored" className="grid gap-2">
      <h2 id="stored" className="text-xl font-bold">
        The first rows, as they would be stored
      </h2>
      <div className="overflow-x-auto bg-sheet" tabIndex={0} role="region" aria-label="Table of the first rows">
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="border-b-2 border-rule">
              <th scope="col" className="px-3 py-1.5">
                Line
              </th>
              {preview.heads.map((h) => (
                <th key={h} scope="col" className="px-3 py-1.5">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {preview.stored.map(({ line, row, wrong }) => (
              <tr key={line} className="border-b border-rule align-top">
                <td className="figure px-3 py-1.5">{line}</td>
                {row ? (
                  row.map((cell, i) => (
                    <td key={i} className={`px-3 py-1.5 ${i < 2 ? "whitespace-nowrap" : ""}`}>
                      {cell}
                    </td>
                  ))
                ) : (
                  <td colSpan={preview.heads.length} className="border-l-4 border-alarm px-3 py-1.5 text-alarm">
                    {wrong.join(" ")}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** Serials of the file that no machine has: which machine each is. */
function Unknown({ serials, field }: { serials: Found["serials"]; field: Field }) {
  return (
    <section aria-labelledby="unknown" className="grid gap-3 border-l-8 border-brass bg-sheet p-4">
      <h2 id="unknown" className="text-xl font-bold">
        Serials that no machine here has
      </h2>
      <p>
        Type the serial of the machine that is meant, then check again. What is not registered yet: register it first.
      </p>
      <div className="grid items-start gap-3 sm:grid-cols-2">
        {serials.slice(0, 40).map(([serial, n], i) => (
          <TextField
            key={serial}
            field={field(`serial.s${i}`)}
            label={`“${serial}”, ${n} ${n === 1 ? "row" : "rows"}, is`}
            autoComplete="off"
          />
        ))}
      </div>
      <Button name="intent" value="check" className="justify-self-start">
        Check again
      </Button>
    </section>
  );
}
