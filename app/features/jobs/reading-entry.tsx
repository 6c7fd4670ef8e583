import { useState } from "react";
import type { SheetView } from "~server/jobs/view";
import { EntryForm } from "./entry-form";
import type { Correcting } from "./log";
import { useEntry } from "./use-entry";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, SureBox, TextField, tied } from "~app/ui/field";
import { formatQuantity, unitById } from "~core/quantity";
import { day } from "~app/ui/dates";

interface Props {
  sheet: SheetView;
  unit: string;
  newId: string;
  correcting?: Correcting;
  onSaved?: () => void;
}

/** One reading: which gauge, where it sits, and a large figure. Enter commits and the field is ready for the next. */
export function ReadingEntry({ sheet, unit, newId, correcting, onSaved }: Props) {
  const entry = useEntry("reading", sheet.job.id, newId, {
    key: correcting ? `reading-${correcting.id}` : "reading",
    ...(onSaved ? { onSaved } : {}),
  });
  const { reading, sure, instrumentId, place, reason } = entry.fields;
  const first = sheet.lastGaugeId ?? sheet.gauges[0]?.id ?? "";
  const [gaugeId, setGaugeId] = useState(first);
  const gauge = sheet.gauges.find((g) => g.id === gaugeId) ?? sheet.gauges[0];
  if (!gauge) return <p>No gauge is in the kit. Add one to the kit first.</p>;
  return (
    <EntryForm entry={entry} className="grid gap-3">
      <input type="hidden" name="unit" value={unit} />
      {correcting && <input type="hidden" name="supersedes" value={correcting.id} />}
      <div className="grid gap-1.5">
        <label htmlFor={reading!.id} className="font-semibold">
          The gauge shows
        </label>
        <div className="flex gap-2">
          <div className="relative min-w-0 flex-1">
            <input
              {...tied(reading!)}
              type="text"
              inputMode="decimal"
              autoComplete="off"
              enterKeyHint="done"
              className="figure h-16 w-full rounded-md border-2 border-ink bg-sheet px-3 pr-16 text-4xl font-semibold aria-invalid:border-alarm"
            />
            <span
              aria-hidden="true"
              className="figure pointer-events-none absolute inset-y-0 right-3 grid place-items-center text-xl text-soft"
            >
              {unitById(unit).symbol}
            </span>
          </div>
          <Button look="main" disabled={entry.busy} className="h-16">
            {entry.busy ? "Saving…" : "Note it"}
          </Button>
        </div>
        <FieldError field={reading!} />
      </div>
      <SureBox field={sure!} />
      {correcting && <TextField field={reason!} label="Why it is corrected" />}
      <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-2 text-sm">
        <SelectField
          field={instrumentId!}
          label="Gauge"
          defaultValue={first}
          onChange={(e) => setGaugeId(e.target.value)}
        >
          {sheet.gauges.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        </SelectField>
        <SelectField key={gauge.id} field={place!} label="It sits" defaultValue={gauge.place}>
          <option value="group">at the group</option>
          <option value="pump">on the pump side</option>
        </SelectField>
      </div>
      <GaugeNotes sheet={sheet} gauge={gauge} unit={unit} />
    </EntryForm>
  );
}

function GaugeNotes({ sheet, gauge, unit }: { sheet: SheetView; gauge: SheetView["gauges"][number]; unit: string }) {
  const lines = [
    gauge.outOfDate &&
      gauge.dueOn &&
      `Its calibration was due on ${day(gauge.dueOn)}. It can be used; the report says so.`,
    gauge.place === "pump" &&
      sheet.machine.gaugeToGroup !== 0 &&
      `Pump side: ${formatQuantity(sheet.machine.gaugeToGroup, 0.1, unitById(unit))} is added for the pressure at the group.`,
  ].filter(Boolean);
  return lines.length === 0 ? null : <p className="text-sm text-soft">{lines.join(" ")}</p>;
}
