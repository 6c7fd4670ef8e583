import { type SubmissionResult, useForm } from "@conform-to/react";
import { useRef, useState } from "react";
import { Form, useActionData, Link, useNavigation } from "react-router";
import { usePlaces } from "./use-places";
import { KINDS, KIND_IDS, type KindId } from "~core/kind";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, TextArea, TextField } from "~app/ui/field";
import { useDraft, useForgetWhenSentOn, useSentWhenBack } from "~app/ui/use-draft";
import { DraftId } from "~app/ui/draft-id";

interface Props {
  title: string;
  draftKey: string;
  newId: string;
  models: { id: string; maker: string; name: string; kind: KindId }[];
  given: Record<string, string>;
  lastResult: SubmissionResult<string[]> | null | undefined;
  save: string;
}

/** A machine in under half a minute: six fields, the rest when there is time. */
export function MachineForm({ title, draftKey, newId, models, given, lastResult, save }: Props) {
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, draftKey, newId);
  useForgetWhenSentOn(draft);
  useSentWhenBack(ref, useActionData<{ outcome?: string }>());
  const [form, f] = useForm<Record<string, string>>({
    id: "machine",
    lastResult: lastResult ?? null,
    defaultValue: given,
  });
  const busy = useNavigation().state !== "idle";
  const [modelId, setModelId] = useState(given.modelId);
  const fresh = modelId === "new";
  const kind = models.find((m) => m.id === modelId)?.kind;
  const [seat, setSeat] = useState(given.gaugePlace ?? "none");
  const serial = f.serial!;
  const unique = (names: string[]) => [...new Set(names)].filter(Boolean);
  const [places, lookFor] = usePlaces();
  // What is on record is offered as it is typed: a register may have thousands of sites.
  const look = (event: React.FormEvent<HTMLFormElement>) => {
    draft.keep();
    const { name, form } = event.target as HTMLInputElement;
    if (!form || !["owner", "site"].includes(name)) return;
    const typed = new FormData(form);
    const said = (field: string) => String(typed.get(field) ?? "");
    lookFor({ owner: said("owner"), site: said("site") });
  };
  return (
    <Form method="post" id={form.id} noValidate ref={ref} onInput={look} className="grid gap-5 bg-sheet p-5">
      <h1 className="text-2xl font-bold">{title}</h1>
      <DraftId draft={draft} />
      <div className="grid gap-4 sm:grid-cols-2">
        <SelectField field={f.modelId!} label="Model" onChange={(e) => setModelId(e.target.value)}>
          <option value="">choose</option>
          <option value="new">not listed: describe it here</option>
          {models.map((m) => (
            <option key={m.id} value={m.id}>
              {m.maker} {m.name}
            </option>
          ))}
        </SelectField>
        {fresh && (
          <fieldset className="grid gap-4 border-l-4 border-brass pl-4 sm:col-span-2 sm:grid-cols-3">
            <legend className="mb-2 font-semibold">New model, with what is usual for its kind</legend>
            <TextField field={f.newMaker!} label="Maker" />
            <TextField field={f.newName!} label="Model name" />
            <SelectField field={f.newKind!} label="Kind">
              <option value="">choose</option>
              {KIND_IDS.map((id) => (
                <option key={id} value={id}>
                  {id} {KINDS[id].label}
                </option>
              ))}
            </SelectField>
          </fieldset>
        )}
        <div className="grid gap-1.5">
          <TextField field={serial} label="Serial" autoComplete="off" className="figure" />
          {serial.errors?.some((e) => e.includes("in the register already")) && serial.value && (
            <Link
              to={`/machines/serial/${encodeURIComponent(serial.value)}`}
              className="font-semibold underline underline-offset-4"
            >
              Open the machine with that serial
            </Link>
          )}
        </div>
        <TextField field={f.owner!} label="Owner" list="owners" autoComplete="off" />
        <TextField field={f.site!} label="Site" list="sites" autoComplete="off" />
        <TextField field={f.town!} label="Town" list="towns" autoComplete="off" />
        <SelectField
          field={f.gaugePlace!}
          label="Its brew gauge sits"
          defaultValue={given.gaugePlace ?? "none"}
          onChange={(e) => setSeat(e.target.value)}
        >
          <option value="none">it has none</option>
          <option value="group">at the group</option>
          <option value="pump">on the pump side</option>
          <option value="flow">behind a flow-control valve</option>
        </SelectField>
        {seat !== "none" && (
          <>
            <TextField field={f.gaugeWords!} label="Gauge place in words (optional)" hint="Tapped at the T-piece …" />
            {seat !== "group" && (
              <>
                <TextField
                  field={f.gaugeToGroup!}
                  label="Gauge-to-group correction, bar"
                  inputMode="decimal"
                  hint="It reads higher than the group: −1, say. Empty: usual for the kind."
                />
                <TextField
                  field={f.gaugeToGroupU!}
                  label="Its standard uncertainty, bar"
                  inputMode="decimal"
                  hint="Empty: 0.2."
                />
              </>
            )}
            <TextField
              field={f.gaugeHighest!}
              label="Highest on the gauge, bar"
              inputMode="decimal"
              hint="Empty: 16."
            />
            <TextField field={f.gaugeStep!} label="One mark on the gauge, bar" inputMode="decimal" hint="Empty: 0.5." />
            <TextField field={f.gaugeClass!} label="Accuracy class, % of span" inputMode="decimal" hint="Empty: 2.5." />
          </>
        )}
      </div>
      <datalist id="owners">
        {unique(places.map((p) => p.owner)).map((o) => (
          <option key={o} value={o} />
        ))}
      </datalist>
      <datalist id="sites">
        {unique(places.map((p) => p.site)).map((s) => (
          <option key={s} value={s} />
        ))}
      </datalist>
      <datalist id="towns">
        {unique(places.map((p) => p.town)).map((t) => (
          <option key={t} value={t} />
        ))}
      </datalist>
      <details open={Boolean(given.serial)}>
        <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">More, when there is time</summary>
        <div className="grid gap-4 pt-2 sm:grid-cols-2">
          <TextField field={f.installedOn!} label="Installed on" type="date" />
          <TextField field={f.phone!} label="Owner’s phone" type="tel" autoComplete="off" />
          <TextField field={f.email!} label="Owner’s email" type="email" autoComplete="off" />
          <TextField field={f.contact!} label="Owner’s address, or other" />
          <TextField
            field={f.altitude!}
            label="Altitude of the site, m"
            inputMode="decimal"
            hint="Decides at what temperature water boils."
          />
          <TextField
            field={f.pumpLabel!}
            label="Pressure on the pump’s label, bar"
            inputMode="decimal"
            hint="What the pump reaches against a dead end: not the brew pressure."
          />
          {kind && KINDS[kind].flowControl ? (
            <p className="self-end py-2.5">This kind always has a flow-control valve.</p>
          ) : (
            <label className="flex min-h-11 cursor-pointer items-center gap-3 self-end">
              <input
                type="checkbox"
                name="flowControl"
                value="yes"
                defaultChecked={given.flowControl === "yes"}
                className="size-6 shrink-0 accent-ink"
              />
              Has a flow-control valve
            </label>
          )}
          <TextField field={f.water!} label="Water" hint="Mains, softened, well …" />
          <TextField field={f.coffee!} label="Coffee" />
          <TextField
            field={f.shotsPerDay!}
            label="Shots a day, about"
            inputMode="numeric"
            hint="Decides when water and gaskets have had enough."
          />
          <TextField field={f.grinder!} label="Grinder" />
          <TextField
            field={f.serves!}
            label="A grinder: serial of the machine it serves"
            hint="A grind change in its shots asks for the dose again."
            autoComplete="off"
          />
        </div>
        <fieldset className="grid gap-4 pt-4 sm:grid-cols-2">
          <legend className="font-semibold">Values wanted on this machine, over the spec</legend>
          <TextField field={f.wantedBrew!} label="Brew pressure, bar" hint="A range, like “8.5 to 9.5”." />
          <TextField field={f.wantedSteam!} label="Steam pressure, bar" hint="Like “1.0 to 1.2”." />
          <TextField field={f.wantedDose!} label="Dose, g" hint="Like “18 to 20”." />
          <TextField field={f.wantedOffset!} label="Group temperature error, °C" hint="Like “−1 to 1”." />
          <TextField field={f.wantedReason!} label="Reason" hint="The report gives it." />
        </fieldset>
        <div className="pt-4">
          <TextArea
            field={f.modifications!}
            label="Modifications, in short"
            hint="Each with its day is added on the machine’s page."
            rows={2}
          />
        </div>
      </details>
      <FieldError field={{ id: form.id, errorId: form.errorId, name: "", errors: form.errors }} />
      <Button look="main" disabled={busy} className="justify-self-start">
        {busy ? "Saving…" : save}
      </Button>
    </Form>
  );
}
