import { type SubmissionResult, useForm } from "@conform-to/react";
import { useRef, useState } from "react";
import { Form, useActionData, useNavigation } from "react-router";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, TextArea, TextField } from "~app/ui/field";
import { useDraft, useForgetWhenSaved, useForgetWhenSentOn, useSentWhenBack } from "~app/ui/use-draft";
import { valuesOf } from "./model-values";
import { KINDS, KIND_IDS, type KindId } from "~core/kind";
import { DraftId } from "~app/ui/draft-id";

interface Props {
  title: string;
  draftKey: string;
  newId: string;
  given: Record<string, string>;
  lastResult: SubmissionResult<string[]> | null | undefined;
  mayWrite: boolean;
  /** A technician adds it: a lead looks it over. */
  forReview?: boolean;
  /** The last sending was saved. */
  saved?: boolean;
}

export function ModelForm({
  title,
  draftKey,
  newId,
  given,
  lastResult,
  mayWrite,
  forReview = false,
  saved = false,
}: Props) {
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, draftKey, newId);
  useForgetWhenSentOn(draft);
  useSentWhenBack(ref, useActionData<{ outcome?: string }>());
  useForgetWhenSaved(draft, saved);
  const [form, f] = useForm<Record<string, string>>({
    id: "model",
    lastResult: lastResult ?? null,
    defaultValue: given,
  });
  const busy = useNavigation().state !== "idle";
  const [asks, setAsks] = useState<{ from: KindId; to: KindId } | null>(null);
  const standing = useRef(given.kind as KindId);
  /** Figures that are not those usual for the kind: somebody typed them. */
  const typed = (kind: KindId) => {
    const usual = valuesOf(kind);
    return controls(ref.current).some(({ name, value }) => !OWN.includes(name) && value !== usual[name]);
  };
  const load = (kind: KindId) => {
    const usual = valuesOf(kind);
    for (const control of controls(ref.current))
      if (!OWN.includes(control.name)) control.value = usual[control.name] ?? "";
    standing.current = kind;
    draft.keep();
  };
  const chooseKind = (to: KindId) => {
    if (typed(standing.current)) setAsks({ from: standing.current, to });
    else load(to);
  };
  return (
    <Form method="post" id={form.id} noValidate ref={ref} onInput={draft.keep} className="bg-sheet p-5">
      <fieldset disabled={!mayWrite} className="grid gap-6">
        <h1 className="text-2xl font-bold">{title}</h1>
        {asks && (
          <div role="alertdialog" aria-label="Replace the figures" className="grid gap-3 border-2 border-brass p-4">
            <p>
              Some values were typed by hand. Replace them all with what is usual for{" "}
              <strong>{KINDS[asks.to].label.toLowerCase()}</strong>?
            </p>
            <span className="flex flex-wrap gap-2">
              <Button
                type="button"
                autoFocus
                onClick={() => {
                  standing.current = asks.to;
                  setAsks(null);
                  draft.keep();
                }}
              >
                Keep what I typed
              </Button>
              <Button
                type="button"
                onClick={() => {
                  load(asks.to);
                  setAsks(null);
                }}
              >
                Replace with usual values
              </Button>
            </span>
          </div>
        )}
        {forReview && (
          <p className="border-l-4 border-brass pl-3">
            It can be used at once, and is marked to be looked over by a lead.
          </p>
        )}
        {!mayWrite && <p className="text-soft">Only a lead changes model data.</p>}
        <DraftId draft={draft} />
        <Group title="Model">
          <TextField field={f.maker!} label="Maker" />
          <TextField field={f.name!} label="Name" />
          <SelectField field={f.kind!} label="Kind" onChange={(e) => chooseKind(e.target.value as KindId)}>
            {KIND_IDS.map((id) => (
              <option key={id} value={id}>
                {id} {KINDS[id].label}
              </option>
            ))}
          </SelectField>
        </Group>
        <Group title="Rating plate and boiler">
          <TextField field={f.volts!} label="Volts" inputMode="decimal" />
          <TextField field={f.watts!} label="Watts in all" inputMode="decimal" />
          <SelectField field={f.hertz!} label="Hertz">
            <option value="50">50</option>
            <option value="60">60</option>
          </SelectField>
          <TextField field={f.boilerLitres!} label="Boiler, litres" inputMode="decimal" />
          <TextField
            field={f.elementWatts!}
            label="Element, watts"
            inputMode="decimal"
            hint="With the litres: no warm-up is predicted shorter than physics allows."
          />
          <SelectField field={f.descaling!} label="Descaling">
            <option value="owner-cycle">the owner’s cycle</option>
            <option value="workshop-only">workshop only</option>
            <option value="dismantle-only">never through the tank: dismantled</option>
          </SelectField>
        </Group>
        <Group title="Dose buttons and dial">
          <SelectField field={f.programming!} label="A dose is set by">
            <option value="teach">teaching it only</option>
            <option value="pulses">typing pulses</option>
          </SelectField>
          <SelectField field={f.doseButtons!} label="Dose buttons of a group">
            <option value="0">none</option>
            <option value="1">one</option>
            <option value="2">two: double, single</option>
            <option value="3">three</option>
            <option value="4">four: short and long</option>
            <option value="5">five</option>
            <option value="6">six</option>
          </SelectField>
          <SelectField field={f.groups!} label="Groups">
            <option value="0">none: a grinder</option>
            <option value="1">one</option>
            <option value="2">two</option>
            <option value="3">three</option>
            <option value="4">four</option>
          </SelectField>
          <SelectField field={f.grindFiner!} label="Built-in grinder: finer is">
            <option value="smaller">the smaller number</option>
            <option value="larger">the larger number</option>
          </SelectField>
          <TextField field={f.grindStep!} label="Its smallest step" inputMode="decimal" />
          <TextField field={f.grindLowest!} label="Its lowest setting (optional)" inputMode="decimal" />
          <TextField field={f.grindHighest!} label="Its highest setting (optional)" inputMode="decimal" />
          <TextField
            field={f.dial!}
            label="Dial without numbers"
            hint="Dial positions with their bar, like “8:00 0, 12:30 9, 3:00 14”. Empty: it has numbers."
          />
        </Group>
        <Group title="Over-pressure valve (OPV)">
          <TextField
            field={f.springs!}
            label="Springs, where there is no screw"
            hint="Weakest first, like “soft 8, stiff 11”."
          />
          <TextField field={f.opvResponse!} label="Bar per turn, to begin with" inputMode="decimal" />
          <TextField field={f.opvResponseSd!} label="Its spread, ± bar (one sd)" inputMode="decimal" />
          <SelectField field={f.opvAccess!} label="Reached">
            <option value="outside">from outside</option>
            <option value="inside">behind the case: covers off</option>
            <option value="isolation-tap">with an isolation tap before the group</option>
            <option value="spring">no screw: springs are swapped</option>
            <option value="none">it has none</option>
          </SelectField>
          <SelectField field={f.opvRaises!} label="What raises">
            <option value="clockwise">clockwise</option>
            <option value="anticlockwise">anticlockwise</option>
          </SelectField>
        </Group>
        <Group title="Display, buttons">
          <TextField
            field={f.offsetStep!}
            label="Offset step, °C"
            inputMode="decimal"
            hint="Empty: it has no offset."
          />
          <SelectField field={f.offsetRaises!} label="A positive offset">
            <option value="yes">makes the water hotter</option>
            <option value="no">makes the water cooler</option>
          </SelectField>
          <SelectField field={f.stopThreads!} label="More threads of a dose stop give">
            <option value="unknown">not known, or it has none</option>
            <option value="less">less coffee</option>
            <option value="more">more coffee</option>
          </SelectField>
          <SelectField field={f.buttons!} label="A dose button stores">
            <option value="volume">volume</option>
            <option value="time">seconds</option>
            <option value="unknown">not known: test it</option>
            <option value="none">it has none</option>
          </SelectField>
        </Group>
        <Group title="Pass limits, bar">
          <TextField
            field={f.lineLowest!}
            label="Line pressure, lowest"
            inputMode="decimal"
            hint="Empty: tank machine."
          />
          <TextField field={f.lineHighest!} label="Line pressure, highest" inputMode="decimal" />
          <span />
          <TextField
            field={f.steamLower!}
            label="Steam pressure, lower"
            inputMode="decimal"
            hint="Empty: it can’t be read."
          />
          <TextField field={f.steamUpper!} label="Steam pressure, upper" inputMode="decimal" />
        </Group>
        <TextArea field={f.note!} label="Note" rows={2} />
        <FieldError field={{ id: form.id, errorId: form.errorId, name: "", errors: form.errors }} />
        {mayWrite && (
          <Button look="main" disabled={busy} className="justify-self-start">
            {busy ? "Saving…" : "Save the model"}
          </Button>
        )}
      </fieldset>
    </Form>
  );
}

/** What belongs to the model itself, whatever its kind. */
const OWN: readonly string[] = ["maker", "name", "kind", "note", "commandId", ""];

type Control = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;

function controls(form: HTMLFormElement | null): Control[] {
  return [...(form?.elements ?? [])].filter(
    (c): c is Control =>
      c instanceof HTMLInputElement || c instanceof HTMLSelectElement || c instanceof HTMLTextAreaElement,
  );
}

function Group({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section aria-label={title} className="grid gap-3">
      <h2 className="border-b border-rule pb-1 font-bold">{title}</h2>
      <div className="grid items-start gap-4 sm:grid-cols-3">{children}</div>
    </section>
  );
}
