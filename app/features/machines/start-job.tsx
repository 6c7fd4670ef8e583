import { getFormProps, useForm } from "@conform-to/react";
import { useEffect, useRef, useState } from "react";
import { Form, useActionData, useNavigation } from "react-router";
import type { Route } from "./+types/machine";
import { Button } from "~app/ui/button";
import { FieldError, SelectField, TextArea } from "~app/ui/field";
import { useDraft, useForgetWhenSentOn, useSentWhenBack } from "~app/ui/use-draft";
import { OPV_TOLERANCE } from "~core/pressure";
import { formatFigure, formatQuantity, unitById } from "~core/quantity";
import { SCHOOLS } from "~core/school";
import { PRESETS, type Preset, SCOPES } from "~core/sheet";
import { WARM_WORDS } from "~core/warmup";
import { DraftId } from "~app/ui/draft-id";

type Props = Route.ComponentProps["loaderData"] & { actionData: Route.ComponentProps["actionData"] };

/** Starts a job: what the visit is for, the complaint, and the schools it goes by. */
export function StartJob({
  machine,
  newId,
  schools,
  cards,
  specCardId,
  levels,
  usual,
  heats,
  unit,
  visits,
  actionData,
}: Props) {
  const ref = useRef<HTMLFormElement>(null);
  const draft = useDraft(ref, `start:${machine.id}`, newId);
  useForgetWhenSentOn(draft);
  useSentWhenBack(ref, useActionData<{ outcome?: string }>());
  const [form, fields] = useForm<Record<string, string>>({ id: "start", lastResult: actionData?.result ?? null });
  const busy = useNavigation().state !== "idle";
  const [type, setType] = useState<Preset | "own">(visits.length === 0 ? "install" : "service");
  // Chosen before the scripts were there, or in a draft.
  useEffect(() => {
    const chosen = ref.current?.querySelector<HTMLInputElement>("[name=type]:checked")?.value;
    if (chosen) setType(chosen as Preset | "own");
  }, []);
  const u = unitById(unit);
  const range = (s: "regulate" | "ceiling") =>
    `${formatFigure(OPV_TOLERANCE[s].lower, 0.1, u)} to ${formatQuantity(OPV_TOLERANCE[s].upper, 0.1, u)}`;
  const whole = type !== "check";
  return (
    <Form method="post" {...getFormProps(form)} ref={ref} onInput={draft.keep} className="grid gap-4 bg-sheet p-5">
      <h2 className="text-xl font-bold">Start a job</h2>
      <DraftId draft={draft} />
      <fieldset className="grid gap-1">
        <legend className="mb-1 font-semibold">What the visit is for</legend>
        {[...machine.presets, "own" as const].map((t) => (
          <label key={t} className="flex min-h-11 cursor-pointer items-center gap-3">
            <input
              type="radio"
              name="type"
              value={t}
              checked={type === t}
              onChange={() => setType(t)}
              className="size-5 shrink-0 accent-ink"
            />
            <span>
              <strong className="font-semibold">{t === "own" ? "Put together" : PRESETS[t].title}</strong>{" "}
              <span className="text-sm text-soft">{t === "own" ? "one thing, or several" : PRESETS[t].about}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {type === "own" && (
        <fieldset className="grid gap-1 border-l-4 border-brass pl-3">
          <legend className="sr-only">Scopes of the visit</legend>
          {machine.scopes.map((id) => (
            <label key={id} className="flex min-h-11 cursor-pointer items-center gap-3">
              <input type="checkbox" name="scopes" value={id} className="size-6 shrink-0 accent-ink" />
              <span>
                <span className="font-semibold">{SCOPES[id].title}</span>{" "}
                <span className="text-sm text-soft">{SCOPES[id].about}</span>
              </span>
            </label>
          ))}
          <FieldError field={fields.scopes!} />
        </fieldset>
      )}
      <FieldError field={fields.type!} />
      <TextArea
        field={fields.complaint!}
        label="Complaint, in the owner’s words"
        hint="Leave empty if there is none."
      />
      {machine.check === "not-applicable" ? (
        <input type="hidden" name="school" value={schools.opv} />
      ) : (
        <SelectField
          field={fields.school!}
          label="OPV set as"
          defaultValue={schools.opv}
          hint={
            machine.check === "measure-only"
              ? "No screw on this kind: the pressure is measured and held against this."
              : "The trade uses both. The report names the one you chose."
          }
        >
          <option value="regulate">Regulate: the group sees {range("regulate")}</option>
          <option value="ceiling">Ceiling: a fail-safe at {range("ceiling")}</option>
        </SelectField>
      )}
      {whole && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">Spec, water, warm-up</summary>
          <div className="grid gap-4 pt-1">
            <SelectField
              field={fields.specCardId!}
              label="Spec"
              defaultValue={specCardId ?? cards.find((c) => c.origin === "trade")?.id}
            >
              {cards.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </SelectField>
            {heats && (
              <>
                <SelectField field={fields.hardness!} label={SCHOOLS.hardness.question} defaultValue={schools.hardness}>
                  {Object.entries(SCHOOLS.hardness.options).map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </SelectField>
                <SelectField field={fields.level!} label="Warm-up required" defaultValue={usual}>
                  {levels.map((l) => (
                    <option key={l} value={l}>
                      {WARM_WORDS[l].toLowerCase()}
                    </option>
                  ))}
                </SelectField>
                <SelectField field={fields.warmUp!} label={SCHOOLS.warmUp.question} defaultValue={schools.warmUp}>
                  {Object.entries(SCHOOLS.warmUp.options).map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </SelectField>
              </>
            )}
          </div>
        </details>
      )}
      <FieldError field={{ id: form.id, errorId: form.errorId, name: "", errors: form.errors }} />
      <Button look="main" disabled={busy}>
        {busy ? "Starting…" : `Start the ${type === "own" ? "visit" : PRESETS[type].title.toLowerCase()}`}
      </Button>
    </Form>
  );
}
