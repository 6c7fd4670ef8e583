import { useRef } from "react";
import { Form, useActionData, useNavigation } from "react-router";
import { type SubmissionResult, useForm } from "@conform-to/react";
import { Button } from "~app/ui/button";
import { FieldError, TextField } from "~app/ui/field";
import { useDraft, useForgetWhenSaved, useForgetWhenSentOn, useSentWhenBack } from "~app/ui/use-draft";
import { SPEC_QUANTITIES, type SpecQuantity } from "~core/spec";
import { unitById } from "~core/quantity";

const QUANTITIES = Object.keys(SPEC_QUANTITIES) as SpecQuantity[];

interface Props {
  draftKey: string;
  newId: string;
  given: Record<string, string>;
  lastResult: SubmissionResult<string[]> | null | undefined;
  save: string;
  fixedName: boolean;
  /** The last sending was saved. */
  saved?: boolean;
}

const CELL = "h-11 w-full rounded-md border-2 border-edge bg-sheet px-2";

export function SpecForm({ draftKey, newId, given, lastResult, save, fixedName, saved = false }: Props) {
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, draftKey, newId);
  useForgetWhenSentOn(draft);
  useSentWhenBack(ref, useActionData<{ outcome?: string }>());
  useForgetWhenSaved(draft, saved);
  const [form, f] = useForm<Record<string, string>>({
    id: "spec",
    lastResult: lastResult ?? null,
    defaultValue: given,
  });
  const busy = useNavigation().state !== "idle";
  const cell = (quantity: string, part: string, label: string, figure = true) => {
    const field = f[`${quantity}-${part}`]!;
    return (
      <input
        id={field.id}
        name={field.name}
        defaultValue={field.initialValue as string | undefined}
        aria-label={label}
        aria-invalid={field.errors ? true : undefined}
        aria-describedby={field.errors ? field.errorId : undefined}
        inputMode={figure ? "decimal" : "text"}
        autoComplete="off"
        className={`${CELL} ${figure ? "figure min-w-16" : "min-w-32"}`}
      />
    );
  };
  return (
    <Form method="post" id={form.id} noValidate ref={ref} onInput={draft.keep} className="grid gap-5 bg-sheet p-5">
      <input type="hidden" name="commandId" value={draft.commandId} data-draft={draft.store} />
      {fixedName ? <input type="hidden" name="name" value={given.name} /> : <TextField field={f.name!} label="Name" />}
      <TextField field={f.about!} label="What it is for" />
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Limits">
        <table className="w-full text-left text-sm">
          <thead className="text-soft">
            <tr>
              {["Quantity", "Lower", "Target", "Upper", "When", "Source"].map((h) => (
                <th key={h} scope="col" className="p-1 font-semibold">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {QUANTITIES.map((q) => {
              const { name, unit } = SPEC_QUANTITIES[q];
              return (
                <tr key={q} className="align-top">
                  <th scope="row" className="p-1 pt-3 font-semibold">
                    {name} <span className="font-normal text-soft">{unitById(unit).symbol}</span>
                    <FieldError field={f[`${q}-lower`]!} />
                  </th>
                  <td className="p-1">{cell(q, "lower", `${name}, lower limit`)}</td>
                  <td className="p-1">{cell(q, "target", `${name}, target`)}</td>
                  <td className="p-1">{cell(q, "upper", `${name}, upper limit`)}</td>
                  <td className="p-1">{cell(q, "condition", `${name}, condition`, false)}</td>
                  <td className="p-1">{cell(q, "source", `${name}, source`, false)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <label className="flex min-h-11 items-center gap-3">
        <input type="checkbox" name="usual" value="yes" className="size-6 shrink-0 accent-ink" /> New jobs are held
        against this card
      </label>
      <FieldError field={{ id: form.id, errorId: form.errorId, name: "", errors: form.errors }} />
      <Button look="main" disabled={busy} className="justify-self-start">
        {busy ? "Saving…" : save}
      </Button>
    </Form>
  );
}
