import { type SubmissionResult, useForm } from "@conform-to/react";
import { useRef, useState } from "react";
import { Form, useActionData, useNavigation } from "react-router";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, TextArea, TextField } from "~app/ui/field";
import { useDraft, useForgetWhenSentOn, useSentWhenBack } from "~app/ui/use-draft";
import { DraftId } from "~app/ui/draft-id";

interface Props {
  title: string;
  draftKey: string;
  newId: string;
  given: Record<string, string>;
  lastResult?: SubmissionResult<string[]> | undefined;
  quantities: readonly { id: string; name: string; unit: string }[];
  places: readonly { id: string; name: string }[];
}

/** An instrument as its papers state it: span, step, error, table, dates. */
export function InstrumentForm({ title, draftKey, newId, given, lastResult, quantities, places }: Props) {
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, draftKey, newId);
  useForgetWhenSentOn(draft);
  useSentWhenBack(ref, useActionData<{ outcome?: string }>());
  const [form, f] = useForm<Record<string, string>>({
    id: "instrument",
    lastResult: lastResult ?? null,
    defaultValue: given,
  });
  const [quantity, setQuantity] = useState(given.quantity ?? "pressure");
  const [stated, setStated] = useState(given.form ?? "class");
  const unit = quantities.find((q) => q.id === quantity)?.unit ?? "";
  const busy = useNavigation().state !== "idle";
  return (
    <Form method="post" id={form.id} noValidate ref={ref} onInput={draft.keep} className="grid gap-5 bg-sheet p-5">
      <h1 className="text-2xl font-bold">{title}</h1>
      <DraftId draft={draft} />
      <div className="grid gap-3 sm:grid-cols-3">
        <TextField field={f.name!} label="Name" hint="As it is labelled." />
        <SelectField field={f.quantity!} label="Measures" onChange={(e) => setQuantity(e.target.value)}>
          {quantities.map((q) => (
            <option key={q.id} value={q.id}>
              {q.name}
            </option>
          ))}
        </SelectField>
        {quantity === "pressure" && (
          <SelectField field={f.place!} label="Gauge place">
            {places.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </SelectField>
        )}
        <TextField field={f.lowest!} label={`Scale from, ${unit}`} inputMode="decimal" />
        <TextField field={f.highest!} label={`to, ${unit}`} inputMode="decimal" />
        <TextField
          field={f.resolution!}
          label={`Smallest step, ${unit}`}
          inputMode="decimal"
          hint="To which it can be read."
        />
        <SelectField field={f.form!} label="Its error is stated as" onChange={(e) => setStated(e.target.value)}>
          <option value="class">accuracy class, % of span</option>
          <option value="limit">limit of error, ±</option>
          <option value="certificate">calibration certificate, U</option>
        </SelectField>
        <TextField
          field={f.error!}
          label={stated === "class" ? "Class" : stated === "limit" ? `Limit, ± ${unit}` : `U, ${unit}`}
          inputMode="decimal"
        />
        {stated === "certificate" && <TextField field={f.k!} label="Coverage factor k" inputMode="decimal" />}
        <TextField
          field={f.repeatability!}
          label={`Readings scatter by, ${unit}`}
          inputMode="decimal"
          hint="One standard deviation. Empty if not known: the usual is taken, and the readings tell the rest."
        />
        <TextField
          field={f.driftPerYear!}
          label={`Drifts in a year by, ± ${unit}`}
          inputMode="decimal"
          hint="Counted from its calibration. Empty if its papers don’t say."
        />
        <TextField
          field={f.hysteresis!}
          label={`Hysteresis, ${unit}`}
          inputMode="decimal"
          hint="Gap between rising and falling readings. Empty where the class covers it."
        />
        <TextField field={f.calibratedOn!} label="Calibrated on" type="date" />
        <TextField field={f.dueOn!} label="Due on" type="date" hint="After it, the report says so." />
      </div>
      <TextArea
        field={f.corrections!}
        label="Correction table"
        rows={4}
        hint="A line each: what it shows, and what is added, like “9.0 +0.1”. Straight between the lines; outside it no reading is taken."
      />
      <TextField field={f.note!} label="Note" hint="Where it lies, its serial." />
      <FieldError field={{ id: "form", errorId: "form-error", name: "", errors: form.errors }} />
      <Button look="main" disabled={busy} className="justify-self-start">
        {busy ? "Saving…" : "Save"}
      </Button>
    </Form>
  );
}
