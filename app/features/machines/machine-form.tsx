import { type SubmissionResult, useForm } from "@conform-to/react";
import { useRef } from "react";
import { Form, useActionData, Link, useNavigation } from "react-router";
import { usePlaces } from "./use-places";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, TextArea, TextField } from "~app/ui/field";
import { useDraft, useForgetWhenSentOn, useSentWhenBack } from "~app/ui/use-draft";

interface Props {
  title: string;
  draftKey: string;
  newId: string;
  models: { id: string; maker: string; name: string }[];
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
      <input type="hidden" name="commandId" value={draft.commandId} data-draft={draft.store} />
      <div className="grid gap-4 sm:grid-cols-2">
        <SelectField field={f.modelId!} label="Model">
          <option value="">choose</option>
          {models.map((m) => (
            <option key={m.id} value={m.id}>
              {m.maker} {m.name}
            </option>
          ))}
        </SelectField>
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
        <SelectField field={f.gaugePlace!} label="Its brew gauge sits" defaultValue={given.gaugePlace ?? "none"}>
          <option value="none">it has none</option>
          <option value="group">at the group</option>
          <option value="pump">on the pump side</option>
        </SelectField>
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
          <TextField field={f.contact!} label="Owner’s phone or address" />
          <TextField
            field={f.altitude!}
            label="Altitude of the site, m"
            inputMode="decimal"
            hint="Decides at what temperature water boils."
          />
          <TextField
            field={f.gaugeToGroup!}
            label="Bar to add for the group"
            inputMode="decimal"
            hint="Pump-side gauges read higher: −1, say. Empty: the kind’s usual."
          />
          <TextField field={f.water!} label="Water" hint="Mains, softened, well …" />
          <TextField field={f.coffee!} label="Coffee" />
          <TextField field={f.grinder!} label="Grinder" />
        </div>
        <div className="pt-4">
          <TextArea field={f.modifications!} label="Changed on it" hint="Flow control added, gauge moved …" rows={2} />
        </div>
      </details>
      <FieldError field={{ id: form.id, errorId: form.errorId, name: "", errors: form.errors }} />
      <Button look="main" disabled={busy} className="justify-self-start">
        {busy ? "Saving…" : save}
      </Button>
    </Form>
  );
}
