import { useRef } from "react";
import { Form, useActionData, useNavigation } from "react-router";
import { type SubmissionResult, useForm } from "@conform-to/react";
import { Button } from "~app/ui/button";
import { FieldError, TextField } from "~app/ui/field";
import { useDraft, useForgetWhenSaved, useForgetWhenSentOn, useSentWhenBack } from "~app/ui/use-draft";
import { SPEC_QUANTITIES, type SpecQuantity } from "~core/spec";
import { unitById } from "~core/quantity";
import { DraftId } from "~app/ui/draft-id";

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
  const cell = (quantity: string, part: string, head: string, label: string, figure = true) => {
    const field = f[`${quantity}-${part}`]!;
    return (
      <>
        <span aria-hidden="true" className="md:hidden">
          {head}
        </span>
        <input
          id={field.id}
          name={field.name}
          defaultValue={field.initialValue as string | undefined}
          aria-label={label}
          aria-invalid={field.errors ? true : undefined}
          aria-describedby={field.errors ? field.errorId : undefined}
          inputMode={figure ? "decimal" : "text"}
          autoComplete="off"
          enterKeyHint="done"
          className={`${CELL} ${figure ? "figure md:min-w-16" : "md:min-w-32"}`}
        />
      </>
    );
  };
  return (
    <Form method="post" id={form.id} noValidate ref={ref} onInput={draft.keep} className="grid gap-5 bg-sheet p-5">
      <DraftId draft={draft} />
      {fixedName ? <input type="hidden" name="name" value={given.name} /> : <TextField field={f.name!} label="Name" />}
      <TextField field={f.about!} label="What it is for" />
      {/* Where there is no room for a table, each quantity is a block with its own labels. */}
      <div>
        <table aria-label="Limits" className="w-full text-left text-sm max-md:block">
          <thead className="text-soft max-md:hidden">
            <tr>
              {["Quantity", "Lower", "Target", "Upper", "When", "Source"].map((h) => (
                <th key={h} scope="col" className="p-1 font-semibold">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="max-md:grid max-md:gap-4">
            {QUANTITIES.map((q) => {
              const { name, unit } = SPEC_QUANTITIES[q];
              return (
                <tr
                  key={q}
                  className="align-top max-md:grid max-md:grid-cols-3 max-md:gap-x-2 max-md:border-t max-md:border-rule"
                >
                  <th scope="row" className="p-1 pt-3 font-semibold max-md:col-span-3">
                    {name} <span className="font-normal text-soft">{unitById(unit).symbol}</span>
                    <FieldError field={f[`${q}-lower`]!} />
                  </th>
                  <td className="p-1">{cell(q, "lower", "Lower", `${name}, lower limit`)}</td>
                  <td className="p-1">{cell(q, "target", "Target", `${name}, target`)}</td>
                  <td className="p-1">{cell(q, "upper", "Upper", `${name}, upper limit`)}</td>
                  <td className="p-1 max-md:col-span-3">{cell(q, "condition", "When", `${name}, condition`, false)}</td>
                  <td className="p-1 max-md:col-span-3">{cell(q, "source", "Source", `${name}, source`, false)}</td>
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
