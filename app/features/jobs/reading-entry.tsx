import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { LoopView } from "~server/jobs/views/knob";
import type { SheetView } from "~server/jobs/views/sheet";
import { EntryForm } from "~app/ui/entry-form";
import type { LineEntryProps } from "./log";
import { type Entry, useEntry } from "~app/ui/use-entry";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, SureBox, TextField, tied } from "~app/ui/field";
import { CurveFields } from "./curve-fields";
import { PLACE_WORDS } from "./place-words";
import { formatQuantity, unitById } from "~core/quantity";
import { useDates } from "~app/ui/dates";

/** One reading: what it was read with, where that sits, and a large figure. Enter commits and the field is ready for the next. */
export function ReadingEntry({ sheet, loop, newId, correcting, onSaved }: LineEntryProps) {
  const entry = useEntry("reading", sheet.job.id, newId, {
    key: `reading-${correcting?.id ?? loop.id}`,
    ...(onSaved ? { onSaved } : {}),
  });
  const { reading, sure, instrumentId, place, reason } = entry.fields;
  const was = correcting?.with;
  const gauges = loop.gauges.filter((g) => g.sees || g.id === was?.gaugeId);
  const places = loop.places.filter((p) => p !== "group" || !loop.tapClosed || was?.place === p);
  const first = was?.gaugeId ?? loop.lastGaugeId ?? gauges[0]?.id ?? "";
  // What was picked stands until another gauge is at hand anyway: the tap was closed, or opened again; or the finer one is asked for.
  const offered = loop.asksFiner && !correcting ? `${first} after ${loop.log.length}` : first;
  const [picked, setPicked] = useState({ id: first, insteadOf: offered });
  const select = useRef<HTMLSelectElement>(null);
  // Picked before the scripts were there it is picked all the same, and its place goes with it.
  useEffect(() => {
    const now = select.current?.value;
    if (now && now !== first) setPicked({ id: now, insteadOf: offered });
  }, [first, offered]);
  const gauge = gauges.find((g) => g.id === (picked.insteadOf === offered ? picked.id : first)) ?? gauges[0];
  if (!gauge)
    return (
      <p>
        Nothing in the kit reads this.{" "}
        <Link to="/kit" className="underline underline-offset-4">
          Add an instrument to the kit
        </Link>{" "}
        first.
      </p>
    );
  const kept = was?.gaugeId === gauge.id ? was.place : gauge.id === loop.lastGaugeId ? loop.lastPlace : null;
  const sat = kept ?? gauge.place;
  const clock = loop.dial && gauge.name === "The machine’s own gauge";
  return (
    <EntryForm entry={entry} className="grid gap-3">
      <input type="hidden" name="loop" value={loop.id} />
      <input type="hidden" name="unit" value={loop.typedUnit} />
      {clock && <input type="hidden" name="clock" value="yes" />}
      {correcting && <input type="hidden" name="supersedes" value={correcting.id} />}
      {loop.setPoint && (
        <TextField
          field={entry.fields.setPoint!}
          label="Set point on the display"
          inputMode="decimal"
          defaultValue={loop.setPoint.last ?? ""}
          data-keep=""
        />
      )}
      {loop.band && <TextField field={entry.fields.cutIn!} label="At cut-in the gauge shows" inputMode="decimal" />}
      <div className="grid gap-1.5">
        <label htmlFor={reading!.id} className="font-semibold">
          {clock ? "The needle points to" : loop.shows}
        </label>
        <div className="flex gap-2">
          <div className="relative min-w-0 flex-1">
            <input
              {...tied(reading!, loop.brew, sure)}
              type="text"
              inputMode={clock ? "text" : "decimal"}
              className="figure h-16 w-full rounded-md border-2 border-ink bg-sheet px-3 pr-16 text-4xl font-semibold aria-invalid:border-alarm"
            />
            {!clock && (
              <span
                aria-hidden="true"
                className="figure pointer-events-none absolute inset-y-0 right-3 grid place-items-center text-xl text-soft"
              >
                {unitById(loop.typedUnit).symbol}
              </span>
            )}
          </div>
          <Button look="main" disabled={entry.busy} className="h-16">
            {entry.busy ? "Saving…" : "Save"}
          </Button>
        </div>
        {loop.brew && (
          <p id={`${reading!.id}-hint`} className="text-sm text-soft">
            {clock
              ? "Dial position, as on a clock: “half past twelve”."
              : "A needle that swings: both ends, like 8.7–9.3."}
          </p>
        )}
        <FieldError field={reading!} />
      </div>
      <SureBox field={sure!} />
      {loop.ran && <TextField field={entry.fields.seconds!} label="Ran for, s (optional)" inputMode="decimal" />}
      {loop.dosed && sheet.machine.groups > 0 && (
        <details open={loop.firstHalf !== "" ? true : undefined}>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">
            {loop.firstHalf || `Basket: ${loop.basket}. Trimmed dose, half doses`}
          </summary>
          <div className="grid grid-cols-2 items-start gap-2 text-sm">
            <SelectField field={entry.fields.basket!} label="Basket" defaultValue={loop.basket}>
              <option value="double">double</option>
              <option value="single">single</option>
            </SelectField>
            <TextField
              field={entry.fields.trimmed!}
              label="Trimmed to, g (optional)"
              inputMode="decimal"
              hint="After what stood over the rim was taken off."
            />
            <SelectField
              key={loop.firstHalf}
              field={entry.fields.half!}
              label="This is"
              defaultValue={loop.firstHalf ? "2" : ""}
            >
              <option value="">the whole dose</option>
              <option value="1">the first half</option>
              <option value="2">the second half</option>
            </SelectField>
          </div>
        </details>
      )}
      {loop.amount && <AmountFields entry={entry} amount={loop.amount} />}
      {correcting && <TextField field={reason!} label="Reason" />}
      <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-2 text-sm">
        <SelectField
          key={offered}
          field={instrumentId!}
          label={loop.quantity === "pressure" ? "Gauge" : "Read with"}
          ref={select}
          defaultValue={first}
          onChange={(e) => setPicked({ id: e.target.value, insteadOf: offered })}
        >
          {gauges.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        </SelectField>
        {places.length > 1 && (
          <SelectField key={`${gauge.id} ${sat}`} field={place!} label="Gauge place" defaultValue={sat}>
            {places.map((p) => (
              <option key={p} value={p}>
                {PLACE_WORDS[p]}
              </option>
            ))}
          </SelectField>
        )}
        {places.length === 1 && <input type="hidden" name="place" value={places[0]} />}
      </div>
      <GaugeNotes sheet={sheet} gauge={gauge} unit={loop.unit} />
      {loop.settle > 0 && loop.runs.touched && (
        <label className="flex min-h-11 items-center gap-3">
          <input name="settled" type="checkbox" value="yes" className="size-6 shrink-0 accent-ink" />
          Restarted, or waited until it settled
        </label>
      )}
      {loop.brew && <BrewFields entry={entry} />}
      {loop.curves && <CurveFields entry={entry} />}
    </EntryForm>
  );
}

/** Where the amount of coffee stood for this dose, and the grind where the dose depends on it. */
function AmountFields({ entry, amount }: { entry: Entry; amount: NonNullable<LoopView["amount"]> }) {
  const { amount: at, setting } = entry.fields;
  return (
    <div className="grid grid-cols-2 gap-2">
      <input type="hidden" name="amountKind" value={amount.kind} />
      <TextField
        key={`${amount.now}-${amount.setting}`}
        field={at!}
        label={amount.label}
        inputMode={amount.kind === "clock" ? "text" : "decimal"}
        defaultValue={amount.now}
        data-keep=""
        {...(amount.kind === "clock" ? { hint: "Dial position, as on a clock: half past two." } : {})}
      />
      {amount.grind && (
        <TextField
          key={amount.setting}
          field={setting!}
          label="Grind set to"
          inputMode="decimal"
          defaultValue={amount.setting}
          data-keep=""
        />
      )}
    </div>
  );
}

/** What is seen beside the gauge: water coming back, and the bleed of a flowing test. */
function BrewFields({ entry }: { entry: Entry }) {
  const { flow, bleed, returned, returnedMl } = entry.fields;
  const [flowing, setFlowing] = useState(false);
  return (
    <>
      <SelectField field={returned!} label="Water back through the OPV" defaultValue="not-looked">
        <option value="not-looked">not checked</option>
        <option value="seen">seen</option>
        <option value="none">none</option>
      </SelectField>
      <details>
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Flowing test, water caught</summary>
        <div className="grid grid-cols-2 gap-2 text-sm">
          <SelectField
            field={flow!}
            label="Read"
            defaultValue="static"
            onChange={(e) => setFlowing(e.target.value === "flowing")}
          >
            <option value="static">blind, water still</option>
            <option value="flowing">while a bleed flows</option>
          </SelectField>
          {flowing && <TextField field={bleed!} label="Bleed, ml/s" inputMode="decimal" hint="1.5 to 3" />}
          <TextField field={returnedMl!} label="Came back in 30 s, ml" inputMode="decimal" />
        </div>
      </details>
    </>
  );
}

function GaugeNotes({ sheet, gauge, unit }: { sheet: SheetView; gauge: LoopView["gauges"][number]; unit: string }) {
  const { day } = useDates();
  const lines = [
    gauge.outOfDate &&
      gauge.dueOn &&
      `Its calibration was due on ${day(gauge.dueOn)}. It can be used; the report says so.`,
    (gauge.place === "pump" || gauge.place === "flow") &&
      sheet.machine.gaugeToGroup !== 0 &&
      `${gauge.place === "pump" ? "Pump side" : "Behind the flow control"}: ${formatQuantity(sheet.machine.gaugeToGroup, 0.1, unitById(unit))} is added for the pressure at the group.`,
  ].filter(Boolean);
  return (
    <>
      {gauge.finenessWords && (
        <p
          className={
            gauge.fineness === "too-coarse" ? "border-l-8 border-alarm bg-alarm-wash p-3 text-sm" : "text-sm text-soft"
          }
        >
          {gauge.finenessWords}
        </p>
      )}
      {lines.length > 0 && <p className="text-sm text-soft">{lines.join(" ")}</p>}
    </>
  );
}
